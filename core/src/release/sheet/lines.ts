import {
  add3,
  cornersAt,
  cross3,
  dot3,
  type Frame,
  lerp3,
  norm3,
  type P2,
  type P3,
  placeAt,
  scale3,
  sub3,
} from '../../math'
import { type MeshTree, noHit, type TriMesh, treeOf } from '../../mesh'
import type { Round } from './rounds'

/** What is seen of a body: its surface, and the lines of its sharp edges, six numbers a piece, mm. */
export interface Seen {
  /** With shared vertices. */
  mesh: TriMesh
  edges: Float32Array
  /** Its circles all round. */
  rounds: readonly Round[]
  bounds: { min: P3; max: P3 }
}

/** Lines of a view, each a run of places on its plane, mm. */
export interface ViewLines {
  visible: P2[][]
  hidden: P2[][]
}

/** Pieces a line is looked at in, as a share of the size of all that is seen. */
const PIECE = 1 / 120
/** How exactly the place where a line goes behind something is found, as the same share. */
const EXACT = 1 / 20000
/** A line is seen where a place this near beside it is: it lies on what it bounds, mm. */
const BESIDE = 0.03
/** What lies this near before a place hides nothing: the surface the place lies on, mm. */
const BEFORE = 0.06

/**
 * The lines of bodies as seen against the normal of a plane, parted into what is visible and what is hidden:
 * sharp edges, and where smooth faces turn away. Rays to the viewer decide; they are looked up among the
 * triangles of all bodies.
 */
export function viewLines(bodies: readonly Seen[], plane: Frame): ViewLines {
  const sight = new Sight(bodies, plane)
  const out: ViewLines = { visible: [], hidden: [] }
  for (const { mesh, edges } of bodies) {
    for (let i = 0; i < edges.length; i += 6)
      sight.part(placeAt(edges, i / 3), placeAt(edges, i / 3 + 1), out)
    for (const [a, b] of turningAway(mesh, plane.z)) sight.part(a, b, out)
  }
  return { visible: out.visible, hidden: uncovered(out.hidden, out.visible) }
}

class Sight {
  readonly #trees: MeshTree[]
  readonly #plane: Frame
  readonly #size: number
  readonly #offsets: P3[]
  readonly #hit = noHit()

  constructor(bodies: readonly Seen[], plane: Frame) {
    this.#trees = bodies.map((b) => treeOf(b.mesh))
    this.#plane = plane
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
    for (const { mesh } of bodies)
      for (const x of mesh.positions) {
        low = Math.min(low, x)
        high = Math.max(high, x)
      }
    this.#size = Math.max(1e-3, high - low)
    const { x, y } = plane
    this.#offsets = [
      [0, 0, 0],
      scale3(x, BESIDE),
      scale3(x, -BESIDE),
      scale3(y, BESIDE),
      scale3(y, -BESIDE),
    ]
  }

  #sees(p: P3): boolean {
    const { z } = this.#plane
    return this.#offsets.some((o) => {
      const q = add3(add3(p, o), scale3(z, BEFORE))
      return !this.#trees.some((t) => t.along(...q, ...z, 0, 4 * this.#size, this.#hit))
    })
  }
  #flat(p: P3): P2 {
    const off = sub3(p, this.#plane.origin)
    return [dot3(off, this.#plane.x), dot3(off, this.#plane.y)]
  }

  /** Adds a straight piece to what is visible or hidden, parted where it goes behind something. */
  part(a: P3, b: P3, out: ViewLines): void {
    const length = norm3(sub3(b, a))
    const [p, q] = [this.#flat(a), this.#flat(b)]
    // Seen end on it is no line.
    if (Math.hypot(q[0] - p[0], q[1] - p[1]) < 1e-6 * this.#size) return
    const n = Math.max(1, Math.ceil(length / (PIECE * this.#size)))
    const seen = (t: number) => this.#sees(lerp3(a, b, t))
    let [from, state] = [0, seen(0.5 / n)]
    const add = (to: number) =>
      (state ? out.visible : out.hidden).push([
        this.#flat(lerp3(a, b, from)),
        this.#flat(lerp3(a, b, to)),
      ])
    for (let k = 1; k < n; k++) {
      const now = seen((k + 0.5) / n)
      if (now === state) continue
      let [low, high] = [(k - 0.5) / n, (k + 0.5) / n]
      while ((high - low) * length > EXACT * this.#size) {
        const mid = (low + high) / 2
        if (seen(mid) === state) low = mid
        else high = mid
      }
      add((low + high) / 2)
      ;[from, state] = [(low + high) / 2, now]
    }
    add(1)
  }
}

/** Sides of triangles where a smooth surface turns away from the viewer; sharp edges are there anyway. */
function turningAway({ positions, triangles }: TriMesh, z: P3): [P3, P3][] {
  const normals: P3[] = []
  const sides = new Map<string, number>()
  const out: [P3, P3][] = []
  const SHARP = Math.cos(0.5)
  for (let t = 0; t < triangles.length / 3; t++) {
    const [a, b, c] = cornersAt({ positions, triangles }, t)
    const n = cross3(sub3(b, a), sub3(c, a))
    normals.push(scale3(n, 1 / (norm3(n) || 1)))
    for (let k = 0; k < 3; k++) {
      const [v, w] = [triangles[3 * t + k]!, triangles[3 * t + ((k + 1) % 3)]!]
      const key = v < w ? `${v} ${w}` : `${w} ${v}`
      const other = sides.get(key)
      if (other === undefined) {
        sides.set(key, t)
        continue
      }
      const [m, l] = [normals[t]!, normals[other]!]
      if (dot3(m, z) > 1e-9 === dot3(l, z) > 1e-9 || dot3(m, l) < SHARP) continue
      out.push([placeAt(positions, v), placeAt(positions, w)])
    }
  }
  return out
}

/** Hidden lines that do not lie under visible ones. */
function uncovered(hidden: readonly P2[][], visible: readonly P2[][]): P2[][] {
  const CELL = 2
  const near = new Map<string, P2[][]>()
  const cellsOf = ([a, b]: readonly P2[]): string[] => {
    const n = Math.max(1, Math.ceil(Math.hypot(b![0] - a![0], b![1] - a![1]) / CELL))
    const keys = new Set<string>()
    for (let k = 0; k <= n; k++) {
      const [x, y] = [0, 1].map((c) => a![c]! + ((b![c]! - a![c]!) * k) / n) as [number, number]
      for (const dx of [-1, 0, 1])
        for (const dy of [-1, 0, 1])
          keys.add(`${Math.floor(x / CELL) + dx} ${Math.floor(y / CELL) + dy}`)
    }
    return [...keys]
  }
  for (const line of visible)
    for (const key of cellsOf(line)) {
      const list = near.get(key)
      if (list) list.push(line)
      else near.set(key, [line])
    }
  return hidden.filter(([a, b]) => {
    const mid: P2 = [(a![0] + b![0]) / 2, (a![1] + b![1]) / 2]
    const others = near.get(`${Math.floor(mid[0] / CELL)} ${Math.floor(mid[1] / CELL)}`) ?? []
    return ![a!, mid, b!].every((p) => others.some(([c, d]) => toLine(c!, d!, p) < 0.05))
  })
}

function toLine(a: P2, b: P2, p: P2): number {
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
  const f = Math.min(
    1,
    Math.max(0, ((p[0] - a[0]) * ux + (p[1] - a[1]) * uy) / (ux * ux + uy * uy || 1)),
  )
  return Math.hypot(p[0] - a[0] - f * ux, p[1] - a[1] - f * uy)
}
