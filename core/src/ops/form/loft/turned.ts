import { norm3, type P3, sub3 } from '../../../math'
import { end3, type Guide, type Patch, start3 } from '../../../surface'
import type { OpContext, TurnedLoft } from '../../state'
import type { RailInputs } from './guides'

/** A rail this near to the side of the skin runs along it, counted by sides. */
const ASIDE = 1e-6

/**
 * The same loft turned round: its rails as sections, its sections as rails. Where all sections share an end, that is a section
 * that is a place. Null where sections are no paths, or nothing bounds the skin on one side.
 *
 * @param shared where all sections share their first and their last end.
 */
export function turnedRound(
  input: RailInputs,
  guides: readonly Guide[],
  patches: readonly Patch[],
  shared: readonly [P3 | null, P3 | null],
  ctx: OpContext,
): TurnedLoft | null {
  const paths = input.sections.flatMap((s) => ('path' in s && !('only' in s) ? [s.path] : []))
  const tips = input.sections.filter((s) => 'point' in s || 'only' in s).length
  if (input.mirror || paths.length + tips < input.sections.length || guides.length < 2) return null
  const order = [...guides.keys()].sort((a, b) => guides[a]!.at(0.5) - guides[b]!.at(0.5))
  const sections: TurnedLoft['sections'] = order.map((k) => ({ path: input.rails[k]!, shift: 0 }))
  const pieces = ctx.path(paths[0]!)?.pieces
  if (!pieces) return null
  const [start, end] = [start3(pieces[0]!), end3(pieces[pieces.length - 1]!)]
  for (const last of [false, true]) {
    const at = shared[last ? 1 : 0]
    if (!at) {
      const beside = guides[order.at(last ? -1 : 0)!]!.at(0.5)
      if (Math.abs(beside - (last ? patches.length : 0)) > ASIDE) return null
      continue
    }
    const only = norm3(sub3(at, start)) < norm3(sub3(at, end)) ? 'start' : 'end'
    sections[last ? 'push' : 'unshift']({ path: paths[0]!, only })
  }
  return { sections, rails: paths }
}
