import { bad, good, type Outcome, type P3, rounded, unit3 } from '../../math'
import {
  basisOf,
  countOf,
  movedOff,
  ownersOf,
  type Patch,
  setOff,
  skinOfParts,
  turnedU,
} from '../../surface'
import type { OpContext } from '../state'
import {
  endOf,
  type FlatEnd,
  isPoint,
  type NamedPatch,
  offPlane,
  type Rim,
  rimU,
  rimV,
  type Wall,
} from './quilted'

/** How far what bounds a flat ring may lie off its plane, mm. */
const RING = 1e-6

/** A skin made a body: its faces, flat ones, and what was measured. */
export interface Closed {
  patches: NamedPatch[]
  flats: FlatEnd[]
  words: string
  /** A wall that has to be measured on what is made. */
  wall?: Wall
}

const LINE = basisOf(1)
export const lineRim = (a: P3, b: P3): Rim => ({ basis: LINE, poles: [a, b] })

/** The straight skin from one rim to another over the same basis, u along them. */
export function ruledPatch(from: Rim, to: Rim): Patch {
  const n = countOf(from.basis)
  const poles = new Float64Array(6 * n)
  for (let i = 0; i < n; i++) {
    poles.set(from.poles[i]!, 6 * i)
    poles.set(to.poles[i]!, 6 * i + 3)
  }
  return { u: from.basis, v: LINE, poles }
}

/** A wall along a skin, which may meet itself again: to one side of it or about it, square to it or along a direction. */
export function walledSkin(
  patches: readonly NamedPatch[],
  closed: boolean,
  input: { wall: number | string; along?: string | undefined },
  side: 'one' | 'other' | 'middle',
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
  const made = along ? movedOff(skin, unit3(along.frame.z), by) : setOff(skin, by, closed)
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
  const flats: FlatEnd[] = []
  for (const last of [false, true]) {
    const name = last ? 'end' : 'start'
    const [a, b] = [from.at(last ? -1 : 0)!, to.at(last ? -1 : 0)!]
    const flat = endOf([b, [...a].reverse().map(turnedU)], last, [`${ctx.op}:${name}`])
    // A flat strip that meets itself is a ring.
    if (
      closed &&
      offPlane(
        flat.loops[0]!,
        flat.loops.flat(2).flatMap((r) => r.poles),
      ) <= RING
    ) {
      flats.push(flat)
      continue
    }
    for (const [i, p] of a.entries()) {
      const [in_, out] = [rimV(p, last), rimV(b[i]!, last)]
      if (last) strip(out, in_, name)
      else strip(in_, out, name)
    }
  }
  if (!closed)
    for (const [j, row] of from.entries()) {
      const other = to[j]!
      strip(rimU(other[0]!, false), rimU(row[0]!, false), 'left')
      strip(rimU(row.at(-1)!, true), rimU(other.at(-1)!, true), 'right')
    }
  if (!along) {
    const wall = { from: sides[1], to: sides[0], mm: t }
    return good({ patches: faces, flats, words: `wall ${rounded(t, 3)} mm, `, wall })
  }
  const lean = `${rounded(least, 2)}–${rounded(most, 2)} mm square to the skin by its lean`
  return good({ patches: faces, flats, words: `wall ${rounded(t, 3)} mm along it, ${lean}, ` })
}
