import { add3, bad, dot3, good, type Outcome, type P3, placeAt, scale3, unit3 } from '../../math'
import { noHit, treeOf } from '../../mesh'
import { type Cage, ENDLESS, edgeKey, edgeOfKey, facesAtEdges } from '../layout'
import { limitNormal, sectorOf } from '../limit/limit'
import { LimitPlaces } from '../limit/masks'
import { type Level, refinedLevel, ruleOf } from '../limit/refine'
import { CageSkinner, levelsFor } from '../limit/skin'
import { type Table, tableOf } from '../limit/table'
import { Loose } from './loose'

/** How near the second side's limit is brought to where it is to lie, mm, and how often that is tried. */
const [NEAR, ROUNDS] = [1e-6, 400]

/**
 * An open cage made a wall: a second side `by` mm along its normals (against them below 0), looking the other way, and walls between
 * their borders. The first side's limit stays as it is, its borders kept sharp; that of the second lies at the thickness over every
 * point of the cage. New points are called `name:p`, faces `name:f`, walls `name:a~b`.
 * The wall is measured.
 */
export function thickened(
  cage: Cage,
  by: number,
  name: string,
): Outcome<{ cage: Cage; wall: WallBetween }> {
  const made = tableOf(cage)
  if (!made.ok) return made
  const table = made.value
  const borders = [...facesAtEdges(cage.layout.faces)].filter(([, f]) => f.length === 1)
  if (borders.length === 0)
    return bad('cage-closed', 'The cage is closed: it has no border that a wall could run along.')
  const second = setOff(table, cage.at, by)
  if (!second)
    return bad(
      'cage-thick',
      `No second side was found at ${Math.abs(by)} mm: the form bends too tightly.`,
    )
  const loose = new Loose(cage)
  const over = cage.layout.points.map((p, i) => loose.point(`${name}:${p}`, placeAt(second, i)))
  // The side that is left looks away from the new one.
  const [own, other] = by < 0 ? [keep, turned] : [turned, keep]
  const firsts = cage.layout.faces
  loose.faces = [
    ...firsts.map((f) => ({ name: f.name, corners: own(f.corners) })),
    ...firsts.map((f) => ({
      name: `${name}:${f.name}`,
      corners: other(f.corners.map((p) => over[p]!)),
    })),
    ...borders.map(([key, [f]]) => {
      const [a, b] = along(firsts[f!]!.corners, key)
      const corners = [a, b, over[b]!, over[a]!]
      return {
        name: `${name}:${cage.layout.points[a]}~${cage.layout.points[b]}`,
        corners: by < 0 ? turned(corners) : corners,
      }
    }),
  ]
  for (const [key, sharp] of cage.layout.creases) {
    const [a, b] = edgeOfKey(key)
    loose.creases.set(edgeKey(over[a]!, over[b]!), sharp)
  }
  for (const [p, sharp] of cage.layout.peaks) loose.peaks.set(over[p]!, sharp)
  for (const [key] of borders) {
    const [a, b] = edgeOfKey(key)
    loose.creases.set(key, ENDLESS)
    loose.creases.set(edgeKey(over[a]!, over[b]!), ENDLESS)
  }
  // Where the border has a corner, the wall has an edge.
  const rims = new Set(borders.flatMap(([key]) => edgeOfKey(key)))
  for (const p of rims) if (ruleOf(table, p) === 3) loose.creases.set(edgeKey(p, over[p]!), ENDLESS)
  loose.rows = [
    ...loose.rows,
    ...cage.layout.rows.map((r) => ({
      name: `${name}:${r.name}`,
      points: r.points.map((p) => over[p]!),
    })),
  ]
  return good({ cage: loose.cage(), wall: wallBetween(table, cage.at, second) })
}

/** The least and the greatest distance from the places of a second side to the first, mm, and where they are. */
export interface WallBetween {
  least: number
  most: number
  thin: P3
  thick: P3
}

/** How often the sides are refined for it, and quads of the first at most. */
const [FIRST, SECOND, QUADS] = [3, 2, 60_000]
function wallBetween(table: Table, at: Float64Array, second: Float64Array): WallBetween {
  const tree = treeOf(new CageSkinner(table, levelsFor(table, QUADS, FIRST)).skin({ at }))
  const places = new LimitPlaces(table, SECOND).of(second)
  const hit = noHit()
  const wall: WallBetween = { least: Number.POSITIVE_INFINITY, most: 0, thin: O, thick: O }
  for (let i = 0; i < places.length / 3; i++) {
    const p = placeAt(places, i)
    tree.nearest(...p, Number.POSITIVE_INFINITY, -1, hit)
    if (hit.d < wall.least) {
      wall.least = hit.d
      wall.thin = p
    }
    if (hit.d > wall.most) {
      wall.most = hit.d
      wall.thick = p
    }
  }
  return wall
}
const O: P3 = [0, 0, 0]

const keep = (corners: readonly number[]): number[] => [...corners]
const turned = (corners: readonly number[]): number[] => [...corners].reverse()

/** The ends of an edge as a face runs along it. */
function along(corners: readonly number[], key: string): [number, number] {
  const i = corners.findIndex((p, k) => edgeKey(p, corners[(k + 1) % corners.length]!) === key)
  return [corners[i]!, corners[(i + 1) % corners.length]!]
}

/** A crease sharper than this is set off as if it were no sharper: the cosine of half of what it turns. */
const SHARPEST = 0.3

/** The way from the limit at a point to one mm off it: along its normal, at a crease in the middle of those beside it and as far as both ask. */
function outOf({ table: t, at }: Level, p: number): P3 {
  const normals = new Map<number, P3>()
  const normal = new Float64Array(3)
  for (let k = t.faceRing[p]!; k < t.faceRing[p + 1]!; k++) {
    const face = t.pointFaces[k]!
    const sector = sectorOf(t, p, face)
    if (normals.has(sector.from)) continue
    limitNormal(t, at, p, face, normal, 0, sector)
    normals.set(sector.from, placeAt(normal, 0))
  }
  const all = [...normals.values()]
  const middle = unit3(all.reduce(add3))
  return scale3(middle, 1 / Math.max(SHARPEST, Math.min(...all.map((n) => dot3(n, middle)))))
}

/** Points whose limits lie so far along the normals from those of others; null where none are found. */
function setOff(table: Table, at: Float64Array, by: number): Float64Array | null {
  // Once refined all faces are quads, and the cage's points still come first.
  const limits = new LimitPlaces(table, 1)
  const level = refinedLevel({ table, at })
  const goal = limits.of(at)
  for (let p = 0; p < table.points; p++) {
    const way = outOf(level, p)
    for (let k = 0; k < 3; k++) goal[3 * p + k]! += by * way[k]!
  }
  const out = at.slice()
  for (let round = 0; round < ROUNDS; round++) {
    const now = limits.of(out)
    let most = 0
    for (let k = 0; k < out.length; k++) {
      const d = goal[k]! - now[k]!
      out[k]! += d
      most = Math.max(most, Math.abs(d))
    }
    if (most < NEAR) return out
    if (!(most < 1e6)) return null
  }
  return null
}
