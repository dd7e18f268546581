import { bad, type Diagnosis, type Outcome } from '../../math'
import type { Profile } from '../state'

/** What is wrong with a profile can be mended where it is drawn: its own fixes, and the way there. */
export function withProfileFixes(d: Diagnosis, profile: Profile, id: string): Outcome<never> {
  if (!PROFILE_FAULTS.has(d.code)) return bad(d.code, d.message, d.places, d.fixes)
  const fixes = profile.health.flatMap((f) =>
    f.fix ? [{ label: f.fix.label, op: id, inputs: { drawing: f.fix.drawing } }] : [],
  )
  const go = { label: 'Go to the profile', op: id, inputs: {}, go: true as const }
  return bad(d.code, d.message, d.places, [...d.fixes, ...fixes, go])
}
const PROFILE_FAULTS = new Set([
  'open-profile',
  'empty-profile',
  'over-axis',
  'tangled',
  'touches-itself',
])
