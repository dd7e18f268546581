import { bad, cross3, good, mm, norm3, type Outcome, sub3 } from '../../../math'
import { pointOn, swapped } from '../../../surface'
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
 * lies between the sides by straight lines across. A skin that is straight across itself the other way: each side by
 * its chord, and straight lines from the first section to the last.
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
  const across = straightAcross(patches)
  const flats: FlatEnd[] = []
  for (const [loop, name] of across
    ? ([
        [[left], 'left'],
        [[turnedRim(right)], 'right'],
      ] as const)
    : ([
        [first, 'start'],
        [last, 'end'],
      ] as const)) {
    const [a, b] = [loop[0]!.poles[0]!, loop[loop.length - 1]!.poles.at(-1)!]
    const open = loop.filter((r) => !isPoint(r))
    if (open.length === 0) continue
    const chain = norm3(sub3(a, b)) > PLANE ? [...open, lineRim(b, a)] : open
    const off = offPlane(chain)
    // What is straight is its own chord.
    if (!Number.isFinite(off)) continue
    if (off > PLANE)
      return bad(
        'not-flat',
        `The ${across ? 'side' : 'section'} at its ${name} is off a plane by ${mm(off, 3)}: no flat face closes it.`,
        [{ at: open[0]!.poles[0]! }],
        [{ label: 'Make it a wall instead', op: ctx.op, inputs: { skin: 'middle' } }],
      )
    flats.push(flat(chain, name))
  }
  const [from, to] = across
    ? [lineRim(left.poles.at(-1)!, right.poles.at(-1)!), lineRim(left.poles[0]!, right.poles[0]!)]
    : [right, left]
  const floor =
    isPoint(from) && isPoint(to)
      ? []
      : [
          {
            patch: across ? ruledPatch(from, to) : swapped(ruledPatch(from, to)),
            names: [`${ctx.op}:flat`],
          },
        ]
  return good({ patches: [...parts, ...floor], flats, words: '' })
}

/** Places along a skin and across it at which it is looked at. */
const [ALONG, ACROSS] = [11, 4]

/** Whether all of a skin lies on straight lines from its one side to the other, so that what is spanned by these holds nothing. */
function straightAcross(patches: readonly NamedPatch[]): boolean {
  for (let k = 0; k <= ALONG; k++) {
    const at = (i: number, u: number) => pointOn(patches[i]!.patch, u, k / ALONG)
    const [a, b] = [at(0, 0), at(patches.length - 1, 1)]
    const way = sub3(b, a)
    for (const i of patches.keys())
      for (let j = 0; j <= ACROSS; j++)
        if (norm3(cross3(sub3(at(i, j / ACROSS), a), way)) > PLANE * norm3(way)) return false
  }
  return true
}
