import { type ExactPart, faceRef } from '../../../exact'
import {
  add3,
  cornersAt,
  type Diagnosis,
  dot3,
  type Frame,
  good,
  type Outcome,
  type P3,
  placeAt,
  scale3,
  sub3,
} from '../../../math'
import { treeOf } from '../../../mesh'
import { loopsOf, type Region, sideOf } from '../../../profile'
import type { FaceRef } from '../../../refs'
import { frameOf } from '../../draw/datum'
import { areaOf } from '../../flats/area'
import { nearestOf } from '../../flats/nearest'
import {
  grown,
  liesIn,
  openingsOf,
  outside,
  sizeOf,
  thickness,
  without,
} from '../../flats/outlines'
import { only, prismOf, reachOf } from '../../form/prism'
import { pickExactFaces } from '../../pick'
import type { OpContext } from '../../state'
import type { Shop, Zone } from './asked'
import { NARROW, onlyOne } from './touching'

/** Flat faces of two bodies that are nearer than this lie on each other, mm. */
const TOUCH = 1e-4

/** Where two bodies lie on each other: the plane (z towards the other), and their faces in it. */
interface Touching {
  plane: Frame
  own: Region[]
  other: Region
  /** How thick the other's wall is there, mm; null where its face has no opening. */
  thick: number | null
}

/** A shop for exact bodies that lie on each other by flat faces. */
export function exactShop(
  own: ExactPart,
  other: ExactPart,
  face: readonly FaceRef[],
  ctx: OpContext,
): Outcome<{ shop: Shop<ExactPart>; warnings: Diagnosis[] }> {
  const picked = pickExactFaces(other, face, ctx, 'face')
  if (!picked.ok) return picked
  const found = ctx.once('touching', () => touching(own, other, picked.value.items, ctx.op))
  if (!found.ok) return found
  const { plane, own: mine, other: its } = found.value
  const openings = openingsOf(its)
  const filled: Region = { outer: its.outer, holes: [] }
  const around = [...reachOf(own, plane), ...reachOf(other, plane)]
  const far = Math.max(...around.map(Math.abs)) + sizeOf(filled)
  // An op that waits for the kernel is run again and again: its lines are set off once.
  const upTo = (along: Zone['along'], to: number, name: string): Outcome<Region[]> =>
    ctx.once(`${name} ${to}`, () => {
      if (along === 'opening') return grown(openings, to, name)
      const made = outside(filled, to, far, name)
      return made.ok && made.value.length === 0 ? NARROW : made
    })
  const areas = ({ along, from, to, name }: Omit<Zone, 'low' | 'high'>): Outcome<Region[]> => {
    const reach = upTo(along, to, `${ctx.op}:${name}-out`)
    if (!reach.ok || from === null) return reach
    const inner = upTo(along, from, `${ctx.op}:${name}-in`)
    if (!inner.ok) return inner
    return inner.value.length < openings.length ? NARROW : good(without(reach.value, inner.value))
  }
  const shop: Shop<ExactPart> = {
    own,
    other,
    thick: found.value.thick,
    openings: its.holes.length,
    zone(z) {
      const made = areas(z)
      return made.ok ? prismOf(plane, made.value, z.low, z.high, ctx) : made
    },
    covers(from, to) {
      const made = areas({ along: 'opening', from, to, name: 'step' })
      return made.ok ? good(liesIn(made.value, mine)) : made
    },
    combine: (how, on, by) =>
      only(
        ctx.kernel({
          verb: 'combine',
          args: { op: ctx.op, how },
          on: [on.key, ...by.map((p) => p.key)],
        }),
      ),
    solids: (p) => p.measure.solids,
    gap: (step, rest) => nearestOf(() => nearPlaces(step, rest), rest, ctx),
    volume: (p) => p.measure.volume,
    at: (p) => p.measure.centroid,
  }
  return good({ shop, warnings: picked.value.warnings })
}

/** The plane in which two bodies lie on each other, by the picked face of the other or the only one there is. */
function touching(
  own: ExactPart,
  other: ExactPart,
  picked: readonly number[],
  op: string,
): Outcome<Touching> {
  const found: (Touching & { at: P3; ref: FaceRef })[] = []
  for (const [j, f] of other.faces.entries()) {
    if (!f.flat || (picked.length > 0 && !picked.includes(j))) continue
    const mates = own.faces.flatMap((g, i) =>
      g.flat &&
      dot3(g.normal, f.normal) < -1 + 1e-9 &&
      Math.abs(dot3(sub3(g.middle, f.middle), f.normal)) < TOUCH
        ? [i]
        : [],
    )
    if (mates.length === 0) continue
    const plane = frameOf({ ...f, normal: scale3(f.normal, -1) })
    const its = areaOf(other, j, plane)
    const mine = mates.flatMap((i) => areaOf(own, i, plane) ?? [])
    if (!its || !meet(other, j, mine, plane)) continue
    const thick = its.holes.length > 0 ? thickness(its) : null
    found.push({ plane, own: mine, other: its, thick, at: f.middle, ref: faceRef(other, j) })
  }
  return onlyOne(found, picked.length > 0, op)
}

/** Whether some of a flat face, by the middles of its triangles, lies in areas of its plane. */
function meet(p: ExactPart, face: number, areas: readonly Region[], f: Frame): boolean {
  const { faceOf } = p.shown
  const loops = loopsOf(areas)
  return Array.from(faceOf.keys()).some((t) => {
    if (faceOf[t] !== face) return false
    const [a, b, c] = cornersAt(p.shown, t)
    const off = sub3(scale3(add3(add3(a, b), c), 1 / 3), f.origin)
    return sideOf(loops, [dot3(off, f.x), dot3(off, f.y)]).inside
  })
}

/** The corners of a step's triangles, and where these come nearest to another body's, which may be at neither's corners. */
function nearPlaces({ mesh }: ExactPart, rest: ExactPart): P3[] {
  const nearest = treeOf(mesh).gap(treeOf(rest.mesh), Number.POSITIVE_INFINITY)
  const corners = Array.from({ length: mesh.positions.length / 3 }, (_, v) =>
    placeAt(mesh.positions, v),
  )
  return nearest ? [[nearest.at.x, nearest.at.y, nearest.at.z], ...corners] : corners
}
