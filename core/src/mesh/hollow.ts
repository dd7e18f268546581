import { bad, cornersAt, dot3, good, mm, type Outcome, outAt, type P3 } from '../math'
import { contour, type Field } from './contour'
import type { FacedMesh } from './faced'
import { measureMesh } from './measure'
import type { MeshSolids } from './solids'
import { type Hit, MeshTree, noHit } from './tree'

/** Cells across the surface, about; and the most that are made where the wall asks for fine ones. */
const CELLS = 25000
const MOST = 250000
/** Nearer than this share to level a ray that meets a triangle is not believed. */
const GRAZING = 1e-3

/** A hollowed body: its faces come from those of the body, or lie behind one of them. */
export interface Hollow {
  mesh: FacedMesh
  from: { face: number; behind: boolean }[]
  /** Least and most from the kept faces to what lies behind them, mm. */
  wall: { min: number; max: number }
}

/** A triangle is left out where the mesh moves by no more than this without it, mm. */
const COARSER = 4e-3
/** The wall may measure this much less than asked, mm. */
const SHORT = 2e-3

/**
 * A closed mesh without all that lies at least `wall` mm from every face that is not open. What is taken out is
 * found as the zero of a distance on a grid, so whatever the body's shape it closes; its sharp edges are cut
 * across by up to a cell, towards a thicker wall. The wall is measured on the result.
 */
export function hollowed(
  body: FacedMesh,
  open: ReadonlySet<number>,
  wall: number,
  solids: MeshSolids,
): Outcome<Hollow> {
  const { area, bounds } = measureMesh(body)
  const cell = Math.min(wall / 2, Math.sqrt(area / CELLS))
  if (area / cell ** 2 > MOST)
    return bad(
      'too-fine',
      `A wall of ${mm(wall)} is too fine for a body of this size as triangles: ${mm(2 * Math.sqrt(area / MOST), 2)} is the least.`,
    )
  // Facets cut into round walls from the hollow side; what that takes is added first.
  let more = cell ** 2 / (8 * wall) + COARSER
  for (let round = 0; ; round++) {
    const made = attempt(body, bounds, open, wall + more, cell, solids)
    if (!made.ok) return made
    const missing = wall - made.value.wall.min
    if (missing <= SHORT) return made
    if (round === 1)
      return bad(
        'not-right',
        `The least wall measures ${mm(made.value.wall.min)}, not ${mm(wall)}.`,
      )
    more += missing
  }
}

function attempt(
  body: FacedMesh,
  bounds: { min: P3; max: P3 },
  open: ReadonlySet<number>,
  wall: number,
  cell: number,
  solids: MeshSolids,
): Outcome<Hollow> {
  const probe = new Probe(body, open, wall, cell)
  const found = contour(probe, bounds, cell)
  if (found.triangles.length === 0)
    return bad(
      'no-cavity',
      `A wall of ${mm(wall, 2)} leaves no cavity: the body is nowhere thicker than two walls.`,
      [{ at: probe.deepest }],
    )
  const coarse = solids.simplified(found, COARSER)
  const faceOf = new Uint32Array(coarse.triangles.length / 3)
  for (let t = 0; t < faceOf.length; t++) faceOf[t] = probe.faceBehind(middleOf(coarse, t))
  const { mesh, from } = solids.combine('cut', [body, { ...coarse, faceOf }])
  const origins = from.map((f) => ({ face: f?.face ?? 0, behind: f?.mesh === 1 }))
  const walls = probe.wallsOf(mesh, (f) => origins[f]!.behind)
  if (!walls) return bad('not-hollow', 'The cavity does not reach into the body.')
  return good({ mesh, from: origins, wall: walls })
}

const withoutFaces = (m: FacedMesh, faces: ReadonlySet<number>) => ({
  positions: m.positions,
  triangles: m.triangles.filter((_, i) => !faces.has(m.faceOf[Math.floor(i / 3)]!)),
})

const middleOf = (
  m: { positions: ArrayLike<number>; triangles: ArrayLike<number> },
  t: number,
): P3 => {
  const [a, b, c] = cornersAt(m, t)
  return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3]
}

/** The cavity as a field: negative inside it, about the distance to its border near that. */
class Probe implements Field {
  readonly #body: FacedMesh
  readonly #all: MeshTree
  readonly #kept: MeshTree
  /** The mesh's triangles that are kept, by their number among the kept. */
  readonly #faces: Uint32Array
  readonly #open: ReadonlySet<number>
  readonly #wall: number
  /** How far the cavity reaches out through open faces, mm; no more than a wall. */
  readonly #out: number
  readonly #hit: Hit = noHit()
  readonly #ray: Hit = noHit()
  /** The place inside that is farthest from all kept faces, of those looked at. */
  deepest: P3 = [0, 0, 0]
  #depth = 0

  constructor(body: FacedMesh, open: ReadonlySet<number>, wall: number, cell: number) {
    this.#body = body
    this.#open = open
    this.#wall = wall
    this.#out = Math.min(0.9 * wall, 3 * cell)
    this.#all = new MeshTree(body)
    this.#kept = new MeshTree(withoutFaces(body, open))
    this.#faces = body.faceOf.filter((f) => !open.has(f))
  }

  at(x: number, y: number, z: number): number {
    const kept = this.#distance(this.#kept, x, y, z)
    // Beside a kept face it is wall, on whichever side of it.
    if (kept < this.#wall) return this.#wall - kept
    return Math.max(this.#wall - kept, this.#beyond(x, y, z))
  }

  /** Whether a ball of radius r about a place lies all within the cavity or all without it. */
  plain(x: number, y: number, z: number, r: number): boolean {
    const kept = this.#distance(this.#kept, x, y, z)
    if (kept + r < this.#wall) return true
    const all = this.#distance(this.#all, x, y, z)
    if (all <= r) return false
    if (this.#inside(x, y, z)) {
      if (kept > this.#depth) {
        this.#depth = kept
        this.deepest = [x, y, z]
      }
      return kept - r > this.#wall
    }
    return all - r > this.#out
  }

  /** How far the middles of some faces' triangles are from the kept faces of the body, mm. */
  wallsOf(mesh: FacedMesh, behind: (face: number) => boolean): Hollow['wall'] | null {
    let [min, max] = [Number.POSITIVE_INFINITY, 0]
    for (let t = 0; t < mesh.faceOf.length; t++) {
      if (!behind(mesh.faceOf[t]!)) continue
      const d = this.#distance(this.#kept, ...middleOf(mesh, t))
      min = Math.min(min, d)
      max = Math.max(max, d)
    }
    return max > 0 ? { min, max } : null
  }

  /** The face of the body that a place of the cavity lies behind. */
  faceBehind(p: P3): number {
    this.#distance(this.#kept, ...p)
    return this.#faces[this.#hit.triangle] ?? 0
  }

  /** Signed distance to the body, which reaches further out where the nearest face is open. */
  #beyond(x: number, y: number, z: number): number {
    const d = this.#distance(this.#all, x, y, z)
    const out = this.#open.has(this.#body.faceOf[this.#hit.triangle]!) ? this.#out : 0
    return (this.#inside(x, y, z) ? -d : d) - out
  }

  #distance(tree: MeshTree, x: number, y: number, z: number): number {
    const found = tree.nearest(x, y, z, Number.POSITIVE_INFINITY, -1, this.#hit)
    return found ? this.#hit.d : Number.POSITIVE_INFINITY
  }

  /** Whether a place lies inside: from which side the first triangle along a ray is seen. */
  #inside(x: number, y: number, z: number): boolean {
    const ray = this.#ray
    for (const [ux, uy, uz] of WAYS) {
      if (!this.#all.along(x, y, z, ux, uy, uz, 0, Number.POSITIVE_INFINITY, ray)) return false
      const n = outAt(this.#body, ray.triangle)
      const seen = dot3(n, [ux, uy, uz]) / (Math.hypot(...n) || 1)
      if (Math.abs(seen) > GRAZING) return seen > 0
    }
    return false
  }
}

/** Directions of rays that meet no edge of common bodies. */
const WAYS: readonly P3[] = [
  [0.5377, 0.6311, 0.5591],
  [-0.4423, 0.7069, 0.5517],
  [0.3313, -0.5237, 0.7848],
  [-0.7123, -0.3391, 0.6144],
]
