import { bad, good, mm, norm3, type Outcome, sub3 } from '../../../math'
import { swapped } from '../../../surface'
import type { OpContext } from '../../state'
import {
  type FlatEnd,
  isPoint,
  type NamedPatch,
  offPlane,
  type Rim,
  rimU,
  rimV,
  turnedRim,
} from '../quilted'
import { type Closed, lineRim, ruledPatch, walledSkin } from '../walled'
import type { LoftInputs } from './inputs'

/** How far what bounds a flat face may lie off its plane, mm. */
const PLANE = 1e-6

/**
 * An open skin made a body as the inputs say: by flat faces, or as a wall. `patches` run from the first section to the last,
 * `parts` are the same as the faces they are to become.
 */
export function closedSkin(
  patches: readonly NamedPatch[],
  parts: readonly NamedPatch[],
  input: LoftInputs,
  ctx: OpContext,
): Outcome<Closed> {
  return input.skin === 'flat'
    ? closedFlat(patches, parts, ctx)
    : walledSkin(patches, false, input, input.skin, ctx)
}

/**
 * By one flat face where all that bounds the skin lies in a plane; else each end by the chord of its section, and what
 * lies between the sides by straight lines across.
 */
function closedFlat(
  patches: readonly NamedPatch[],
  parts: readonly NamedPatch[],
  ctx: OpContext,
): Outcome<Closed> {
  const first = patches.map((p) => turnedRim(rimV(p.patch, false))).reverse()
  const last = patches.map((p) => rimV(p.patch, true))
  const left = rimU(patches[0]!.patch, false)
  const right = rimU(patches[patches.length - 1]!.patch, true)
  const round = [...first, left, ...last, turnedRim(right)].filter((r) => !isPoint(r))
  const flat = (loop: Rim[], name: string): FlatEnd => ({
    loops: [loop],
    names: [`${ctx.op}:${name}`],
  })
  if (offPlane(round) <= PLANE)
    return good({ patches: [...parts], flats: [flat(round, 'flat')], words: '' })
  const flats: FlatEnd[] = []
  for (const [loop, name] of [
    [first, 'start'],
    [last, 'end'],
  ] as const) {
    const [a, b] = [loop[0]!.poles[0]!, loop[loop.length - 1]!.poles.at(-1)!]
    const open = loop.filter((r) => !isPoint(r))
    if (open.length === 0) continue
    const chain = norm3(sub3(a, b)) > PLANE ? [...open, lineRim(b, a)] : open
    const off = offPlane(chain)
    // A straight section is its own chord.
    if (!Number.isFinite(off)) continue
    if (off > PLANE)
      return bad(
        'not-flat',
        `The section at its ${name} is off a plane by ${mm(off, 3)}: no flat face closes it.`,
        [{ at: open[0]!.poles[0]! }],
        [{ label: 'Make it a wall instead', op: ctx.op, inputs: { skin: 'middle' } }],
      )
    flats.push(flat(chain, name))
  }
  const floor =
    isPoint(left) && isPoint(right)
      ? []
      : [{ patch: swapped(ruledPatch(right, left)), names: [`${ctx.op}:flat`] }]
  return good({ patches: [...parts, ...floor], flats, words: '' })
}
