import { bad, good, mm, norm3, type Outcome, type P3, rounded, sub3, unit3 } from '../../../math'
import {
  basisOf,
  countOf,
  movedOff,
  ownersOf,
  type Patch,
  type Skin,
  setOff,
  skinOfParts,
  swapped,
  turnedU,
} from '../../../surface'
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
  type Wall,
} from '../quilted'
import type { LoftInputs } from './inputs'

/** A skin between open sections made a body: its faces, flat ones, and what was measured. */
export interface Closed {
  patches: NamedPatch[]
  flats: FlatEnd[]
  words: string
  /** A wall that has to be measured on what is made. */
  wall?: Wall
}

/** How far what bounds a flat face may lie off its plane, mm. */
const PLANE = 1e-6

const LINE = basisOf(1)
const lineRim = (a: P3, b: P3): Rim => ({ basis: LINE, poles: [a, b] })

/** The straight skin from one rim to another over the same basis, u along them. */
function ruledPatch(from: Rim, to: Rim): Patch {
  const n = countOf(from.basis)
  const poles = new Float64Array(6 * n)
  for (let i = 0; i < n; i++) {
    poles.set(from.poles[i]!, 6 * i)
    poles.set(to.poles[i]!, 6 * i + 3)
  }
  return { u: from.basis, v: LINE, poles }
}

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
    : walled(patches, input.skin, input, ctx)
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

/** A wall along the skin: to one side of it or about it, square to it or along a direction. */
function walled(
  patches: readonly NamedPatch[],
  side: 'one' | 'other' | 'middle',
  input: LoftInputs,
  ctx: OpContext,
): Outcome<Closed> {
  const t = ctx.read(input.wall, 'length')
  if (!(t > 0)) return bad('not-positive', 'The wall must be more than 0.')
  const by: [number, number] =
    side === 'one' ? [0, t] : side === 'other' ? [-t, 0] : [-t / 2, t / 2]
  const skin = skinOfParts(patches.map((p) => p.patch))
  const along = input.along ? ctx.plane(input.along) : null
  if (input.along && !along)
    return bad('no-plane', 'The plane the wall is square to does not exist here.')
  const made = along ? movedOff(skin, unit3(along.frame.z), by) : setOff(skin, by)
  if (!made.ok) {
    const { code, message, places } = made.diagnosis
    return code === 'creased'
      ? bad(code, `${message} Round it, or let the wall run along one direction.`, places)
      : made
  }
  const { from, to, least, most } = made.value
  const names = ownersOf(patches.map((p) => p.patch)).map((i) => patches[i]!.names)
  // The skin itself keeps its names; what is set off lies over it.
  const over = (list: readonly string[]) => list.map((n) => `${ctx.op}:over(${n})`)
  const set = names.map(over)
  const [inner, outer] = side === 'other' ? [set, names] : [names, set]
  const sides: [NamedPatch[], NamedPatch[]] = [[], []]
  for (const [j, row] of from.entries())
    for (const [i, p] of row.entries()) {
      sides[0].push({ patch: turnedU(p), names: inner[i]! })
      sides[1].push({ patch: to[j]![i]!, names: outer[i]! })
    }
  const faces = sides.flat()
  const strip = (a: Rim, b: Rim, name: string) => {
    if (isPoint(a) && isPoint(b)) return
    faces.push({ patch: ruledPatch(a, b), names: [`${ctx.op}:${name}`] })
  }
  const ends = (s: Skin, last: boolean) => s[last ? s.length - 1 : 0]!
  for (const [i, p] of ends(from, false).entries())
    strip(rimV(p, false), rimV(ends(to, false)[i]!, false), 'start')
  for (const [i, p] of ends(from, true).entries())
    strip(rimV(ends(to, true)[i]!, true), rimV(p, true), 'end')
  for (const [j, row] of from.entries()) {
    const other = to[j]!
    strip(rimU(other[0]!, false), rimU(row[0]!, false), 'left')
    strip(rimU(row.at(-1)!, true), rimU(other.at(-1)!, true), 'right')
  }
  if (!along) {
    const wall = { from: sides[1], to: sides[0], mm: t }
    return good({ patches: faces, flats: [], words: `wall ${rounded(t, 3)} mm, `, wall })
  }
  const lean = `${rounded(least, 2)}–${rounded(most, 2)} mm square to the skin by its lean`
  return good({ patches: faces, flats: [], words: `wall ${rounded(t, 3)} mm along it, ${lean}, ` })
}
