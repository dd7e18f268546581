import { line, pointAt, tangentAt } from '../../../curve'
import { bad, type Diagnosis, good, type Outcome, type P2, POINT } from '../../../math'
import { AXIS, combine, KEEP, type Region, sideOf } from '../../../profile'
import type { FaceRef } from '../../../refs'
import {
  type Face,
  faceRef,
  facesOf,
  sectionBounds,
  type TurnedBody,
  volumeOf,
} from '../../../turned'
import { pickFaces } from '../../pick'
import type { OpContext } from '../../state'
import type { Shop, Zone } from './asked'
import { NARROW, onlyOne } from './touching'

/** Places along a side of a step at which its gap is measured. */
const LOOKS = 64

/** A flat face across the axis: its height, whether it looks up, and from which radius to which. */
interface Flat {
  face: Face
  z: number
  up: boolean
  from: number
  to: number
}

/** A shop for turned bodies in one frame, of one turn, that lie on each other by flat faces. */
export function turnedShop(
  own: TurnedBody,
  other: TurnedBody,
  face: readonly FaceRef[],
  ctx: OpContext,
): Outcome<{ shop: Shop<TurnedBody>; warnings: Diagnosis[] }> {
  const picked = pickFaces(other, face, ctx, 'face')
  if (!picked.ok) return picked
  const mine = flatsOf(own)
  const found = flatsOf(other).flatMap((f) => {
    if (picked.value.items.length > 0 && !picked.value.items.some((p) => p.seg === f.face.seg))
      return []
    const mates = mine.filter(
      (g) =>
        g.up !== f.up &&
        Math.abs(g.z - f.z) < POINT &&
        Math.min(g.to, f.to) - Math.max(g.from, f.from) > POINT,
    )
    return mates.length > 0 ? [{ f, mates, at: f.face.at, ref: faceRef(other, f.face) }] : []
  })
  const one = onlyOne(found, picked.value.items.length > 0, ctx.op)
  if (!one.ok) return one
  const { f, mates } = one.value
  const box = [sectionBounds(own), sectionBounds(other)]
  const far = Math.max(...box.map((b) => b.max[0])) + 1
  // Over the face is out of its body, towards the one that carries the step: the step goes into it.
  const height = (over: number) => f.z + (f.up ? -over : over)
  const reach = ({ along, from, to }: Pick<Zone, 'along' | 'from' | 'to'>): [number, number] =>
    along === 'opening'
      ? [from === null ? 0 : f.from + from, f.from + to]
      : [f.to - to, from === null ? far : f.to - from]
  const shop: Shop<TurnedBody> = {
    own,
    other,
    thick: f.from > POINT ? f.to - f.from : null,
    openings: f.from > POINT ? 1 : 0,
    zone(z) {
      const [a, b] = reach(z)
      if (!(b - a > POINT) || a < (z.from === null ? -POINT : POINT)) return NARROW
      const regions = [ring([a, b], height(z.low), height(z.high), z, ctx.op)]
      return good({ ...own, regions })
    },
    covers(from, to) {
      const [a, b] = reach({ along: 'opening', from, to })
      return good(mates.some((m) => m.from < a + POINT && m.to > b - POINT))
    },
    combine(how, on, by) {
      let { regions } = on
      for (const b of by) regions = combine(regions, b.regions, KEEP[how])
      return regions.length > 0
        ? good({ ...on, regions })
        : bad('nothing-left', 'Nothing is left of it.')
    },
    solids: (b) => b.regions.length,
    gap: (step, rest) => good(gapOf(step, rest)),
    volume: volumeOf,
    at: (b) => facesOf(b)[0]!.at,
  }
  return good({ shop, warnings: picked.value.warnings })
}

function flatsOf(b: TurnedBody): Flat[] {
  return facesOf(b).flatMap((face) => {
    const { curve } = face.seg
    if (curve.kind !== 'line' || Math.abs(tangentAt(curve, 0)[1]) > 1e-9) return []
    const [p, q] = [curve.a[0], curve.b[0]]
    // The material lies left of the boundary: run through inwards, the face looks up.
    return [{ face, z: curve.a[1], up: q < p, from: Math.min(p, q), to: Math.max(p, q) }]
  })
}

/** A ring of the half-section between two radii and two heights, its faces named as those of an exact one are. */
function ring([a, b]: [number, number], from: number, to: number, z: Zone, op: string): Region {
  const up = to > from
  const [low, high] = up ? [from, to] : [to, from]
  const p: P2[] = [
    [a, low],
    [b, low],
    [b, high],
    [a, high],
  ]
  const flat = (first: boolean) => `${op}:${first === up ? 'start' : 'end'}`
  const side = (outer: boolean) =>
    `${op}:${z.name}-${outer === (z.along === 'opening') ? 'out' : 'in'}`
  const names = [flat(true), side(true), flat(false), a < POINT ? AXIS : side(false)]
  return {
    outer: p.map((at, i) => ({ curve: line(at, p[(i + 1) % 4]!), name: names[i]! })),
    holes: [],
  }
}

/** The least distance from a step to a half-section, by places along its sides. */
function gapOf(step: TurnedBody, rest: TurnedBody): { d: number; at: P2 } {
  const loops = rest.regions.flatMap((r) => [r.outer, ...r.holes])
  let [d, at]: [number, P2] = [Number.POSITIVE_INFINITY, [0, 0]]
  for (const { seg } of facesOf(step))
    for (let k = 0; k <= LOOKS; k++) {
      const p = pointAt(seg.curve, k / LOOKS)
      const side = sideOf(loops, p)
      const off = side.inside ? 0 : side.d
      if (off < d) [d, at] = [off, p]
    }
  return { d, at }
}
