import { type ExactPart, edgeCurve, faceName, faceRef, formJob } from '../../../exact'
import {
  add3,
  cornersAt,
  type Diagnosis,
  dot3,
  type Frame,
  good,
  norm3,
  type Outcome,
  type P3,
  placeAt,
  scale3,
  sub3,
} from '../../../math'
import { MeshTree, noHit } from '../../../mesh'
import { loopsOf, type Region, sideOf } from '../../../profile'
import type { FaceRef } from '../../../refs'
import { offFrame } from '../../../surface'
import { frameOf } from '../../draw/datum'
import { only, prismOf, reachOf } from '../../form/prism'
import { pickExactFaces } from '../../pick'
import type { OpContext } from '../../state'
import type { Shop, Zone } from './asked'
import {
  faceArea,
  grown,
  liesIn,
  openingsOf,
  outside,
  sizeOf,
  thickness,
  without,
} from './outlines'
import { NARROW, onlyOne } from './touching'

/** Flat faces of two bodies that are nearer than this lie on each other, mm. */
const TOUCH = 1e-4
/** Corners of the step that are looked at on true surfaces for its gap. */
const NEAREST = 40

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
    ctx.once(`${name} ${to}`, () =>
      along === 'opening' ? grown(openings, to, name) : outside(filled, to, far, name),
    )
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
    gap: (step, rest) => gapOf(step, rest, ctx),
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

/** A flat face as an area of a plane it lies in; null where its edges do not close there. */
function areaOf(p: ExactPart, face: number, plane: Frame): Region | null {
  return faceArea(
    p.edges.flatMap(({ faces }, e) => {
      const curve = faces.includes(face) ? edgeCurve(p, e) : null
      return curve ? [{ curve: offFrame(curve, plane), name: faceName(p, face) }] : []
    }),
  )
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

/** The least distance from a step to a body: its corners nearest by triangles, then on the true surfaces. */
function gapOf(step: ExactPart, rest: ExactPart, ctx: OpContext): Outcome<{ d: number; at: P3 }> {
  const { positions, triangles, faceOf } = rest.shown
  const tree = new MeshTree({ positions, triangles })
  const own = step.mesh.positions
  const hit = noHit()
  const looked = Array.from({ length: own.length / 3 }, (_, v) => {
    const at = placeAt(own, v)
    tree.nearest(...at, Number.POSITIVE_INFINITY, -1, hit)
    return { at, d: hit.d, face: faceOf[hit.triangle]! }
  })
  looked.sort((a, b) => a.d - b.d)
  const near = looked.slice(0, NEAREST)
  const read = ctx.kernel(
    formJob(rest.key, {
      seams: false,
      ribbons: [],
      feet: { faces: [...new Set(near.map((n) => n.face))], from: near.map((n) => n.at) },
    }),
  )
  if (!read.ok) return read
  const feet = read.value[0]!.form!.feet
  let [d, at] = [Number.POSITIVE_INFINITY, near[0]!.at]
  for (const [i, n] of near.entries()) {
    const foot = feet[i]
    const off = foot ? norm3(sub3(foot.at, n.at)) : n.d
    if (off < d) [d, at] = [off, n.at]
  }
  return good({ d, at })
}
