import { conjugate, outAt, type P3, placeAt, unit3 } from '../../math'
import { noHit, type TriMesh, treeOf } from '../../mesh'
import type { Cage } from '../layout'
import { LimitPlaces } from '../limit/masks'
import type { Table } from '../limit/table'

/** How often what a cage is laid onto is looked up anew, and steps towards the least squares of each time. */
const [ROUNDS, STEPS] = [12, 60]
/** What a place counts for along the body against square to it, and how strongly points keep beside each other. */
const [ALONG, BESIDE] = [0.03, 1e-3]
/** Steps shorter than this change nothing any more, mm. */
const STILL = 5e-4
/** How often a cage is refined for the places that are laid, and for those it is measured at. */
const [LAID, MEASURED] = [2, 3]
/** A place farther off than this tells the way to it; nearer, the triangle it lies on does, mm. */
const OFF = 0.05

/** How a cage lies on a body. */
export interface Reached {
  /** The largest distance from where it is to lie, on either side, mm, and its mean square's root. */
  most: number
  mean: number
  /** Where it is off most. */
  where: P3
  /** The places it was measured at, three numbers each, and how far each is off, mm. */
  places: Float64Array
  offs: Float64Array
}

/**
 * Moves points of a cage so that its limit lies `off` mm outside a closed mesh: places of the limit go to the nearest on it, freely
 * along it and firmly square to it (least squares by conjugate gradients, looked up anew each round). Points not in `moves` stay, and
 * only places that they have so much of a `share` in are looked at: that they alone rule, where it is 1.
 */
export function laidOnto(
  { at: start }: Cage,
  table: Table,
  mesh: TriMesh,
  off: number,
  moves: ReadonlySet<number>,
  share = 1,
): Float64Array {
  const places = new LimitPlaces(table, LAID)
  const ruled = places.ruledBy(moves, table.points, share)
  const aim = new Aim(mesh, off)
  const n = table.points
  const held = Float64Array.from({ length: 3 * n }, (_, k) =>
    moves.has(Math.floor(k / 3)) ? 1 : 0,
  )
  const smooth = besideOf(table)
  let at = start.slice()
  for (let round = 0; round < ROUNDS; round++) {
    const { normals, gaps } = aim.from(places.of(at), ruled)
    // The square to the body counts in full, what goes along it little.
    const weighed = (x: Float64Array) => {
      const out = new Float64Array(x.length)
      for (let i = 0; i < x.length; i += 3) {
        if (!ruled[i / 3]) continue
        const [a, b, c] = [normals[i]!, normals[i + 1]!, normals[i + 2]!]
        const d = (1 - ALONG) * (a * x[i]! + b * x[i + 1]! + c * x[i + 2]!)
        out[i] = ALONG * x[i]! + d * a
        out[i + 1] = ALONG * x[i + 1]! + d * b
        out[i + 2] = ALONG * x[i + 2]! + d * c
      }
      return out
    }
    const free = (x: Float64Array) => x.map((v, k) => v * held[k]!)
    const apply = (x: Float64Array) => {
      const out = places.handedBack(weighed(places.of(x)))
      const kept = smooth(smooth(x))
      return free(out.map((v, k) => v + BESIDE * kept[k]!))
    }
    const step = conjugate(apply, free(places.handedBack(weighed(gaps))), STEPS)
    at = at.map((x, k) => x + step[k]!)
    if (step.every((x) => Math.abs(x) < STILL)) break
  }
  return at
}

/** How far what some points of a cage rule of its limit lies from where it is to lie on a mesh; null where they rule nothing. */
export function layOf(
  { at }: Pick<Cage, 'at'>,
  table: Table,
  mesh: TriMesh,
  off: number,
  moves: ReadonlySet<number>,
): Reached | null {
  const places = new LimitPlaces(table, MEASURED)
  return new Aim(mesh, off).measured(places.of(at), places.ruledBy(moves, table.points))
}

/** Points of a cage moved straight along x, y or z (0, 1, 2) by what their limits lack to a mesh; `astray`: those that miss it. */
export function pulledTo(
  { at }: Pick<Cage, 'at'>,
  table: Table,
  mesh: TriMesh,
  axis: number,
  moves: ReadonlySet<number>,
): { at: Float64Array; astray: P3[] } {
  // Once refined, the cage's own points come first.
  const limits = new LimitPlaces(table, 1).of(at)
  const [out, hit, tree] = [at.slice(), noHit(), treeOf(mesh)]
  const astray: P3[] = []
  for (const p of moves) {
    const from = placeAt(limits, p)
    let best = Number.POSITIVE_INFINITY
    for (const sign of [1, -1]) {
      const way = [0, 0, 0]
      way[axis] = sign
      const [x, y, z] = way as [number, number, number]
      if (tree.along(...from, x, y, z, -HIT, Math.abs(best), hit)) best = sign * hit.d
    }
    if (Number.isFinite(best)) out[3 * p + axis]! += best
    else astray.push(from)
  }
  return { at: out, astray }
}
/** A place this near to a mesh lies on it, mm. */
const HIT = 1e-6

/** Where places are to lie: the nearest of a mesh, and so far outside. */
class Aim {
  readonly #mesh: TriMesh
  readonly #off: number
  readonly #hit = noHit()

  constructor(mesh: TriMesh, off: number) {
    this.#mesh = mesh
    this.#off = off
  }

  /** Out of the mesh where place i is to lie, and the way there. */
  #look(p: Float64Array, i: number): { normal: P3; gap: P3 } {
    const [x, y, z] = [p[i]!, p[i + 1]!, p[i + 2]!]
    treeOf(this.#mesh).nearest(x, y, z, Number.POSITIVE_INFINITY, -1, this.#hit)
    const { triangle, d } = this.#hit
    const to: P3 = [this.#hit.x - x, this.#hit.y - y, this.#hit.z - z]
    const out = unit3(outAt(this.#mesh, triangle))
    const side = out[0] * to[0] + out[1] * to[1] + out[2] * to[2] > 0 ? -1 : 1
    const normal = d > OFF ? (to.map((v) => (-side * v) / d) as unknown as P3) : out
    const by = this.#off
    return { normal, gap: to.map((v, k) => v + by * normal[k]!) as unknown as P3 }
  }

  from(p: Float64Array, ruled: Uint8Array): { normals: Float64Array; gaps: Float64Array } {
    const [normals, gaps] = [new Float64Array(p.length), new Float64Array(p.length)]
    for (let i = 0; i < p.length; i += 3) {
      if (!ruled[i / 3]) continue
      const { normal, gap } = this.#look(p, i)
      normals.set(normal, i)
      gaps.set(gap, i)
    }
    return { normals, gaps }
  }

  measured(p: Float64Array, ruled: Uint8Array): Reached | null {
    const count = ruled.reduce((n, r) => n + r, 0)
    const [places, offs] = [new Float64Array(3 * count), new Float64Array(count)]
    let [sum, worst, k] = [0, 0, 0]
    for (let i = 0; i < p.length; i += 3) {
      if (!ruled[i / 3]) continue
      const d = Math.hypot(...this.#look(p, i).gap)
      places.set(p.subarray(i, i + 3), 3 * k)
      offs[k] = d
      sum += d * d
      if (d > offs[worst]!) worst = k
      k++
    }
    return count === 0
      ? null
      : {
          most: offs[worst]!,
          mean: Math.sqrt(sum / count),
          where: placeAt(places, worst),
          places,
          offs,
        }
  }
}

/** How far each point's increment is from the mean of those beside it: what keeps them together. */
function besideOf(t: Table): (x: Float64Array) => Float64Array {
  return (x) => {
    const out = new Float64Array(x.length)
    for (let e = 0; e < t.edges; e++) {
      const [a, b] = [3 * t.edgeEnds[2 * e]!, 3 * t.edgeEnds[2 * e + 1]!]
      for (let k = 0; k < 3; k++) {
        const d = x[a + k]! - x[b + k]!
        out[a + k] += d
        out[b + k] -= d
      }
    }
    return out
  }
}
