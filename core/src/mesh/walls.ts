import type { P3 } from '../math'
import { heldAt, toSharpEdges } from './sharp'
import { MeshTree, noHit } from './tree'
import type { TriMesh } from './types'

/** Wall at a place: the diameter of the largest ball inside the material that touches there. */
export interface MeshWallSpot {
  at: P3
  /** The far touching place. */
  to: P3
  wall: number
}
/** The wall all over a closed mesh. */
export interface WallField {
  /** The surface in small triangles, nine numbers each, mm. */
  cells: Float32Array
  /** The wall under each; NaN where no other side faces it. */
  walls: Float32Array
  min: MeshWallSpot
  max: MeshWallSpot
  /** Where else it is nearly as thin, and as thick, and the extremes themselves. */
  thin: MeshWallSpot[]
  thick: MeshWallSpot[]
  /** Weighed by area. */
  mean: number
}

/** Small triangles the surface is cut into, about. */
const CELLS = 5000
/** A ball lies between two sides where they face each other by more than 135 deg, as in half-sections. */
const FACING = -Math.SQRT1_2 - 1e-6
/** A contact flatter than this against the surface (sine of the angle) is the surface itself. */
const LEVEL = 1e-4
/** What lies nearer together is what triangles are off, or a lip where two bodies of them were joined, mm. */
const LEAST = 0.05
/** Coordinates are single precision, mm. */
const NEAR = 1e-5
/** A ball is as large as it gets once nothing reaches into it by more than this: facets do, on round bodies. */
const SETTLED = 4e-3
/** The same of small balls, as a share of their radius. */
const FINE = 0.005
/** It mostly takes three or four steps. */
const STEPS = 20
/** How often the least and greatest readings are looked for again in quarters of their cells. */
const ROUNDS = 5
const FOLLOWED = 16

/**
 * Whether a ball of a diameter (mm) that touches a triangle at a place, and another over against it at so much of an angle (rad), is held by
 * an edge in which both sides meet: there is no wall to read.
 */
export type Held = (own: number, other: number, at: P3, wall: number, angle: number) => boolean

function bySharpEdges(mesh: TriMesh): Held | undefined {
  const far = toSharpEdges(mesh)
  return far ? (_own, _other, at, wall, angle) => heldAt(wall, angle, far(at)) : undefined
}

/** Read once for each mesh. */
const fields = new WeakMap<TriMesh, WallField | null>()

/**
 * The wall of a closed mesh by the largest ball, read in the middle of small triangles. Null where no two
 * sides face each other, or where all of it is `held` by edges: by those of the mesh that are sharp, where nothing better is
 * known of them (asked for once). It is as near as the mesh is to its surface.
 */
export function wallField(
  mesh: TriMesh,
  held: () => Held | undefined = () => bySharpEdges(mesh),
): WallField | null {
  const known = fields.get(mesh)
  if (known !== undefined) return known
  const field = read(mesh, held())
  fields.set(mesh, field)
  return field
}

/** The gaps between sides of a closed mesh that face each other outside of it: the wall of all that it is not. */
export function gapField(mesh: TriMesh, held?: () => Held): WallField | null {
  return wallField(insideOut(mesh), held)
}

/** Turned over once for each mesh. */
const turned = new WeakMap<TriMesh, TriMesh>()

function insideOut(mesh: TriMesh): TriMesh {
  const known = turned.get(mesh)
  if (known) return known
  const triangles = mesh.triangles.slice()
  for (let i = 0; i < triangles.length; i += 3)
    [triangles[i + 1], triangles[i + 2]] = [triangles[i + 2]!, triangles[i + 1]!]
  const made = { ...mesh, triangles }
  turned.set(mesh, made)
  return made
}

function read(mesh: TriMesh, held: Held | undefined): WallField | null {
  const probe = new Probe(mesh, held)
  const cells: number[] = []
  const owners: number[] = []
  cut(mesh, cells, owners)
  const count = owners.length
  const walls = new Float32Array(count)
  const read: number[] = []
  const enough = wholeArea(mesh) / CELLS
  let [sum, weight, since] = [0, 0, 0]
  for (let c = 0; c < count; c++) {
    const area = cellArea(cells, 9 * c)
    since += area
    const last = read[read.length - 1]
    // Of many triangles smaller than a cell one is read for its neighbours.
    if (last !== undefined && since < enough && alike(cells, 9 * last, 9 * c, Math.sqrt(enough))) {
      walls[c] = walls[last]!
    } else {
      walls[c] = probe.ballUnder(cells, 9 * c, owners[c]!)
      read.push(c)
      since = 0
    }
    if (Number.isNaN(walls[c]!)) continue
    sum += walls[c]! * area
    weight += area
  }
  if (weight === 0) return null
  const thin = followed(probe, cells, owners, walls, read, 1)
  const thick = followed(probe, cells, owners, walls, read, -1)
  const [min, max] = [thin[0]!, thick[0]!]
  return { cells: Float32Array.from(cells), walls, min, max, thin, thick, mean: sum / weight }
}

const cornersOf = ({ positions: p, triangles: t }: TriMesh, i: number): number[] =>
  [0, 1, 2].flatMap((k) => [0, 1, 2].map((c) => p[3 * t[3 * i + k]! + c]!))

function wholeArea(mesh: TriMesh): number {
  let whole = 0
  for (let i = 0; i < mesh.triangles.length / 3; i++) whole += cellArea(cornersOf(mesh, i), 0)
  return whole
}

/** Whether two cells lie within `near` mm of each other and look nearly the same way. */
function alike(c: readonly number[], a: number, b: number, near: number): boolean {
  const off = [0, 1, 2].map((k) => c[a + k]! - c[b + k]!)
  if (Math.hypot(...off) > 2 * near) return false
  const side = (o: number, k: number) => c[o + 3 + k]! - c[o + k]!
  const rise = (o: number, k: number) => c[o + 6 + k]! - c[o + k]!
  const normal = (o: number) =>
    [0, 1, 2].map((k) => {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3]
      return side(o, i) * rise(o, j) - side(o, j) * rise(o, i)
    })
  const [m, n] = [normal(a), normal(b)]
  const dot = m.reduce((s, x, k) => s + x * n[k]!, 0)
  return dot > 0.9 * Math.hypot(...m) * Math.hypot(...n)
}

/** The triangles halved across their longest edge until they are small. */
function cut(mesh: TriMesh, cells: number[], owners: number[]): void {
  const most = 2.2 * Math.sqrt(wholeArea(mesh) / CELLS)
  for (let i = 0; i < mesh.triangles.length / 3; i++) {
    const left = [cornersOf(mesh, i)]
    while (left.length > 0) {
      const c = left.pop()!
      let [longest, from] = [0, 0]
      for (let k = 0; k < 9; k += 3) {
        const d = far(c, k, (k + 3) % 9)
        if (d > longest) [longest, from] = [d, k]
      }
      if (longest <= most) {
        if (cellArea(c, 0) > 1e-10) {
          cells.push(...c)
          owners.push(i)
        }
        continue
      }
      const [a, b, o] = [from, (from + 3) % 9, (from + 6) % 9].map((k) => c.slice(k, k + 3)) as [
        number[],
        number[],
        number[],
      ]
      const m = a.map((x, k) => (x + b[k]!) / 2)
      left.push([...a, ...m, ...o], [...m, ...b, ...o])
    }
  }
}

const far = (c: ArrayLike<number>, i: number, j: number): number =>
  Math.hypot(c[j]! - c[i]!, c[j + 1]! - c[i + 1]!, c[j + 2]! - c[i + 2]!)

/** The area of the triangle whose nine numbers start at `o`, mm2. */
export function cellArea(c: ArrayLike<number>, o: number): number {
  const [ux, uy, uz] = [c[o + 3]! - c[o]!, c[o + 4]! - c[o + 1]!, c[o + 5]! - c[o + 2]!]
  const [vx, vy, vz] = [c[o + 6]! - c[o]!, c[o + 7]! - c[o + 1]!, c[o + 8]! - c[o + 2]!]
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2
}

/** Finds the largest balls inside one mesh. */
class Probe {
  readonly #tree: MeshTree
  readonly #mesh: TriMesh
  readonly #reach: number
  readonly #hit = noHit()
  readonly at: [number, number, number] = [0, 0, 0]
  readonly to: [number, number, number] = [0, 0, 0]

  readonly #held: Held | undefined

  constructor(mesh: TriMesh, held: Held | undefined) {
    this.#held = held
    this.#tree = new MeshTree(mesh)
    this.#mesh = mesh
    const b = this.#tree.boxes
    this.#reach = Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!) + 1
  }

  /** The wall under the middle of a cell of a triangle; the ball's ends are left in `at` and `to`. */
  ballUnder(cells: ArrayLike<number>, o: number, owner: number): number {
    const { positions: p, triangles: t } = this.#mesh
    const [a, b, c] = [3 * t[3 * owner]!, 3 * t[3 * owner + 1]!, 3 * t[3 * owner + 2]!]
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!]
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!]
    // Into the material.
    let [nx, ny, nz] = [uz * vy - uy * vz, ux * vz - uz * vx, uy * vx - ux * vy]
    const size = Math.hypot(nx, ny, nz)
    if (!(size > 0)) return Number.NaN
    nx /= size
    ny /= size
    nz /= size
    const x = (cells[o]! + cells[o + 3]! + cells[o + 6]!) / 3
    const y = (cells[o + 1]! + cells[o + 4]! + cells[o + 7]!) / 3
    const z = (cells[o + 2]! + cells[o + 5]! + cells[o + 8]!) / 3
    const hit = this.#hit
    const tree = this.#tree
    if (!tree.along(x, y, z, nx, ny, nz, NEAR, this.#reach, hit)) return Number.NaN
    let rho = hit.d / 2
    let [qx, qy, qz] = [hit.x, hit.y, hit.z]
    let other = hit.triangle
    for (let i = 0; i < STEPS; i++) {
      const [cx, cy, cz] = [x + rho * nx, y + rho * ny, z + rho * nz]
      if (!tree.nearest(cx, cy, cz, rho - Math.min(SETTLED, FINE * rho), owner, hit)) break
      const [wx, wy, wz] = [hit.x - x, hit.y - y, hit.z - z]
      const w2 = wx * wx + wy * wy + wz * wz
      const into = wx * nx + wy * ny + wz * nz
      if (into <= LEVEL * Math.sqrt(w2)) break
      ;[qx, qy, qz] = [hit.x, hit.y, hit.z]
      other = hit.triangle
      const next = w2 / (2 * into)
      if (!(next < rho)) break
      rho = next
    }
    const [ox, oy, oz] = [qx - x - rho * nx, qy - y - rho * ny, qz - z - rho * nz]
    const facing = -(ox * nx + oy * ny + oz * nz) / Math.hypot(ox, oy, oz)
    if (!(facing <= FACING) || 2 * rho < LEAST) return Number.NaN
    // What still reaches into the ball is where it touches more nearly.
    if (tree.nearest(x + rho * nx, y + rho * ny, z + rho * nz, rho, owner, hit)) {
      ;[qx, qy, qz] = [hit.x, hit.y, hit.z]
      other = hit.triangle
    }
    if (this.#held?.(owner, other, [x, y, z], 2 * rho, Math.PI - Math.acos(Math.max(facing, -1))))
      return Number.NaN
    this.at[0] = x
    this.at[1] = y
    this.at[2] = z
    this.to[0] = qx
    this.to[1] = qy
    this.to[2] = qz
    return 2 * rho
  }
}

/** The least (sign 1) or greatest readings, looked for again in the quarters of the cells that come nearest: the first is the extreme. */
function followed(
  probe: Probe,
  cells: number[],
  owners: number[],
  walls: Float32Array,
  read: readonly number[],
  sign: 1 | -1,
): MeshWallSpot[] {
  const order = read.filter((c) => !Number.isNaN(walls[c]!))
  order.sort((a, b) => sign * (walls[a]! - walls[b]!))
  const found: MeshWallSpot[] = []
  for (const c of order.slice(0, FOLLOWED)) {
    let cell = cells.slice(9 * c, 9 * c + 9)
    let wall = probe.ballUnder(cell, 0, owners[c]!)
    const spot = (): MeshWallSpot => ({ at: [...probe.at] as P3, to: [...probe.to] as P3, wall })
    let best = spot()
    for (let i = 0; i < ROUNDS; i++) {
      const better = quarters(cell)
        .map((q) => ({ q, w: probe.ballUnder(q, 0, owners[c]!) }))
        .filter(({ w }) => !Number.isNaN(w) && sign * (w - wall) < 0)
        .sort((a, b) => sign * (a.w - b.w))[0]
      if (!better) break
      cell = better.q
      wall = probe.ballUnder(cell, 0, owners[c]!)
      best = spot()
    }
    found.push(best)
  }
  return found.sort((a, b) => sign * (a.wall - b.wall))
}

/** A triangle in four; the one in the middle has its middle. */
function quarters(c: readonly number[]): number[][] {
  const [a, b, d] = [c.slice(0, 3), c.slice(3, 6), c.slice(6, 9)]
  const half = (u: readonly number[], v: readonly number[]) => u.map((x, k) => (x + v[k]!) / 2)
  const [ab, bd, da] = [half(a, b), half(b, d), half(d, a)]
  return [
    [...a, ...ab, ...da],
    [...ab, ...b, ...bd],
    [...da, ...bd, ...d],
  ]
}
