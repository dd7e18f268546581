import type { Outcome } from '../math'
import {
  type CageExamination,
  type CageInputs,
  cageInputs,
  examinedCage,
  foundSymmetry,
  type OpContext,
} from '../ops'
import type { Workpiece } from '../workpiece'
import { contextOf } from './evaluate'
import { worldOf } from './inquire'
import type { Rebuilt } from './rebuild'

/** What would make the cage of an op more even, as tried on copies of it; a sentence where it cannot be examined. */
export const cageCures = (w: Workpiece, built: Rebuilt, op: string): CageExamination | string =>
  ofCage(w, built, op, examinedCage)

/** The symmetry that the cage of an op begins with; a sentence where there is no cage. */
export const cageSymmetry = (
  w: Workpiece,
  built: Rebuilt,
  op: string,
): Pick<CageInputs, 'turns' | 'mirrors'> | string => ofCage(w, built, op, foundSymmetry)

function ofCage<T>(
  w: Workpiece,
  built: Rebuilt,
  opId: string,
  ask: (input: CageInputs, ctx: OpContext) => Outcome<T>,
): T | string {
  const op = w.route.find((o) => o.id === opId)
  const state = built.before[opId]
  const parsed = cageInputs.safeParse(op?.inputs)
  if (op?.kind !== 'cage' || !state || !parsed.success) return 'There is no cage to examine.'
  const made = ask(parsed.data, contextOf(opId, worldOf(w, built, state), []))
  return made.ok ? made.value : made.diagnosis.message
}
