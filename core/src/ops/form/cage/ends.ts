import type { Cage, Surfaced } from '../../../cage'
import {
  bad,
  dot3,
  good,
  mean3,
  norm3,
  type Outcome,
  type P3,
  placeAt,
  sub3,
  unit3,
} from '../../../math'
import { areaVector } from '../../../surface'
import { type FlatEnd, offPlane, type Rim, rimU, rimV, turnedRim } from '../quilted'

/** Ends of rims this near are one place, mm. */
const SAME = 1e-6
/** How far what bounds a flat face may lie off its plane, mm. */
const PLANE = 1e-6

const startOf = (r: Rim): P3 => r.poles[0]!
const endOf = (r: Rim): P3 => r.poles[r.poles.length - 1]!
const near = (a: P3, b: P3) => norm3(sub3(a, b)) <= SAME

/** The open sides of patches as loops that a face which shuts them runs along. */
function openRims({ patches }: Surfaced): Rim[] {
  return patches.flatMap(({ patch, open }) => {
    const sides = [
      () => turnedRim(rimV(patch, false)),
      () => turnedRim(rimU(patch, true)),
      () => rimV(patch, true),
      () => rimU(patch, false),
    ]
    return sides.flatMap((side, k) => (open[k] ? [side()] : []))
  })
}

function looped(rims: readonly Rim[]): Rim[][] {
  const left = [...rims]
  const out: Rim[][] = []
  while (left.length > 0) {
    const loop = [left.pop()!]
    for (;;) {
      const next = left.findIndex((r) => near(startOf(r), endOf(loop[loop.length - 1]!)))
      if (next === -1) break
      loop.push(...left.splice(next, 1))
    }
    out.push(loop)
  }
  return out
}

/** The flat face of a cage that a loop runs round: in its plane, the one whose middle is nearest. */
function faceWithin(loop: readonly Rim[], { layout, at }: Cage, flats: readonly number[]) {
  const starts = loop.map(startOf)
  const middle = mean3(starts)
  const normal = unit3(areaVector(loop))
  let [name, least] = ['', Number.POSITIVE_INFINITY]
  for (const f of flats) {
    const corners = layout.faces[f]!.corners.map((p) => placeAt(at, p))
    if (corners.some((c) => Math.abs(dot3(sub3(c, starts[0]!), normal)) > PLANE)) continue
    const far = norm3(sub3(mean3(corners), middle))
    if (far < least) [name, least] = [layout.faces[f]!.name, far]
  }
  return name
}
/** Flat faces for the flat parts of a cage and its openings; an opening that lies in no plane is told with its places. */
export function flatEnds(made: Surfaced, cage: Cage, op: string): Outcome<FlatEnd[]> {
  const loops = looped(openRims(made))
  const bent = loops.filter((l) => offPlane(l) > PLANE)
  if (bent.length > 0)
    return bad(
      'cage-open',
      `${bent.length === 1 ? 'An opening of the cage lies' : `${bent.length} openings of the cage lie`} in no plane: fill it, or flatten its points.`,
      bent.flatMap((l) => l.slice(0, 4).map((r) => ({ at: startOf(r) }))),
    )
  const flats = loops.map((loop) => {
    const area = areaVector(loop)
    const size = norm3(area)
    return { loop, size, normal: area.map((x) => x / size) as unknown as P3 }
  })
  type Flat = (typeof flats)[number]
  const inPlaneOf = (f: Flat, g: Flat) =>
    Math.abs(dot3(sub3(startOf(f.loop[0]!), startOf(g.loop[0]!)), g.normal)) < PLANE
  // The hole of a flat face runs against it, in the same plane and within.
  const outer = flats.filter(
    (f) =>
      !flats.some(
        (g) => g.size > f.size && dot3(g.normal, f.normal) < -1 + PLANE && inPlaneOf(f, g),
      ),
  )
  const holes = flats.filter((f) => !outer.includes(f))
  return good(
    outer.map((f, k) => ({
      loops: [f.loop, ...holes.filter((g) => inPlaneOf(g, f)).map((g) => g.loop)],
      names: [`${op}:${faceWithin(f.loop, cage, made.flats) || `end${k + 1}`}`],
    })),
  )
}
