import {
  add3,
  bad,
  cross3,
  dot3,
  lerp3,
  mean3,
  type Outcome,
  type P3,
  placeAt,
  scale3,
  sub3,
} from '../../math'
import { type Curve3, Way } from '../../surface'
import { creased } from '../edit/edges'
import { faceVector } from '../edit/extrude'
import { filled } from '../edit/holes'
import { type Cage, type CageFace, ENDLESS } from '../layout'
import { throughPlaces } from '../through'
import { startLayers } from './start'
import { turns } from './turned'

/** How far the inner ring of a flat cage stands from its outline, of the way to the middle. */
const INSET = 0.3

/**
 * Points round a closed outline whose cubic goes through it, and which of them are its corners: one at each corner, the others at even
 * lengths between.
 */
function pointsRound(outline: readonly Curve3[], count: number): { at: P3[]; corners: number[] } {
  const way = new Way(outline)
  const starts = way.starts.slice(0, -1)
  const sharp = starts.filter((_, i) =>
    turns(outline[(i + outline.length - 1) % outline.length]!, outline[i]!),
  )
  if (sharp.length === 0) {
    const goals = Array.from({ length: count }, (_, k) => way.place(k / count))
    return { at: throughPlaces(goals, true), corners: [] }
  }
  // One more where that is widest, until there are as many as asked; each side has its own.
  const spans = sharp.map((s, k) => (sharp[k + 1] ?? sharp[0]! + 1) - s)
  const many = spans.map(() => 1)
  for (let sum = many.length; sum < count; sum++) {
    let widest = 0
    for (const [k, s] of spans.entries())
      if (s / many[k]! > spans[widest]! / many[widest]! + 1e-9) widest = k
    many[widest]!++
  }
  const at: P3[] = []
  const corners: number[] = []
  for (const [k, s] of sharp.entries()) {
    corners.push(at.length)
    const goals = Array.from({ length: many[k]! + 1 }, (_, i) =>
      way.place((s + (spans[k]! * i) / many[k]!) % 1),
    )
    at.push(...throughPlaces(goals, false).slice(0, -1))
  }
  return { at, corners }
}

/**
 * A closed outline (against the clock about `normal`) carried `height` mm along that unit normal in bands: point `row.column`. Its corners
 * are creases up the side; an end is left open or shut by a flat face.
 */
export function startCarried(
  outline: readonly Curve3[],
  normal: P3,
  height: number,
  columns: number,
  bands: number,
  shut: { floor: boolean; lid: boolean },
): Cage {
  const { at, corners } = pointsRound(outline, columns)
  const n = at.length
  const layers = Array.from({ length: bands + 1 }, (_, r) =>
    at.map((p) => add3(p, scale3(normal, (height * r) / bands))),
  )
  const cage = startLayers(height > 0 ? layers : layers.reverse(), shut)
  const ring = (r: number) => at.map((_, c): [number, number] => [r * n + c, r * n + ((c + 1) % n)])
  const up = corners.flatMap((c) =>
    Array.from({ length: bands }, (_, r): [number, number] => [r * n + c, (r + 1) * n + c]),
  )
  const rims = [...(shut.floor ? ring(0) : []), ...(shut.lid ? ring(bands) : [])]
  return creased(cage, [...up, ...rims], [], ENDLESS)
}

/**
 * A flat cage over a closed outline: a ring of quads along it and a grid within, its rim the outline (row 0). Corners that bend out are kept;
 * those that bend in are rounded, since a limit folds over itself at them. Fails where the outline bends in so far that the grid folds.
 */
export function startRegion(
  outline: readonly Curve3[],
  normal: P3,
  columns: number,
): Outcome<Cage> {
  const { at, corners } = pointsRound(outline, columns)
  const n = at.length
  if (n % 2 === 1 || n < 4)
    return bad(
      'cage-grid',
      `A flat cage has an even number of points round it, 4 or more; this has ${n}.`,
    )
  const middle = mean3(at)
  const points = [at, at.map((p) => lerp3(p, middle, INSET))].flatMap((row, r) =>
    row.map((place, c) => ({ name: `${r}.${c}`, place })),
  )
  const faces: CageFace[] = at.map((_, c) => {
    const d = (c + 1) % n
    return { name: `f0.${c}`, corners: [c, d, n + d, n + c] }
  })
  const ring = at.map((_, c) => c)
  const rim: Cage = {
    layout: {
      points: points.map((p) => p.name),
      faces,
      creases: new Map(),
      peaks: new Map(corners.filter((c) => bendsOut(at, c, normal)).map((c) => [c, ENDLESS])),
      rows: [
        { name: '0', points: ring },
        { name: '1', points: ring.map((c) => n + c) },
      ],
    },
    at: Float64Array.from(points.flatMap((p) => p.place)),
  }
  // Sides of the grid end at corners of the outline where it has four.
  const hole = ring.map((c) => n + ((c + (corners[0] ?? 0)) % n))
  const made = filled(rim, hole, 'grid', 'grid')
  if (!made.ok) return made
  const places = made.value.layout.points.map((_, p) => placeAt(made.value.at, p))
  const folded = made.value.layout.faces.find(
    (f) => dot3(faceVector(f.corners, places), normal) <= 0,
  )
  return folded
    ? bad(
        'cage-folds',
        'A flat cage over this outline folds here, which bends in too far: begin as a smaller part of it, or with more points round.',
        [{ at: places[folded.corners[0]!]! }],
      )
    : made
}

/** Whether a ring of points (against the clock about `normal`) bends out at one of them. */
function bendsOut(ring: readonly P3[], c: number, normal: P3): boolean {
  const n = ring.length
  const [last, own, next] = [ring[(c + n - 1) % n]!, ring[c]!, ring[(c + 1) % n]!]
  return dot3(cross3(sub3(own, last), sub3(next, own)), normal) > 0
}
