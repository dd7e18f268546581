import earcut from 'earcut'
import { flattenParams, pointAt, tangentAt } from '../curve'
import { SHOWN } from '../exact'
import { left, type P2 } from '../math'
import { AXIS, type Loop, type Region, type Seg } from '../profile'
import { bodyLoops, isWhole, type TurnedBody, turnedPoint } from './body'
import { cornersOf, isSharp } from './corners'
import { sectionBounds } from './properties'

export interface Fineness {
  /** Largest distance of a facet from the true surface, mm. */
  chord: number
  /** Largest turn between neighbouring facets, rad. */
  angle: number
}

/** A closed triangle mesh: shared vertices, outward-facing triangles. */
export interface SolidMesh {
  positions: Float64Array
  triangles: Uint32Array
}

/** Buffers for drawing: smooth normals within a face, faces apart, sharp edges as line segments. */
export interface DisplayMesh {
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
  /** Index into `faces` for each triangle. */
  faceOf: Uint32Array
  faces: string[]
  /** Line segments, six numbers each, and the index into `edges` of each. */
  lines: Float32Array
  edgeOf: Uint32Array
  edges: { names: [string, string]; at?: P2 }[]
}

/** Number of facets around for radius r so that chord and angle are kept. */
export function facetsAround(r: number, sweep: number, f: Fineness): number {
  const byChord = r > f.chord ? 2 * Math.acos(1 - f.chord / r) : Math.PI / 2
  return Math.max(3, Math.ceil(sweep / Math.min(byChord, f.angle) - 1e-9))
}

interface Ring {
  p: P2
  index: number
}

/** The body as a watertight mesh. Facets are inscribed: the volume falls short, never over. */
export function solidMesh(b: TurnedBody, fine: Fineness): SolidMesh {
  const n = facetsAround(sectionBounds(b).max[0], b.sweep, fine)
  const whole = isWhole(b)
  const count = whole ? n : n + 1
  const positions: number[] = []
  const triangles: number[] = []
  const angle = (k: number) => b.start + (b.sweep * k) / n
  const put = (p: P2, k: number) =>
    positions.push(...turnedPoint(b.frame, p[0], p[1], angle(k))) / 3 - 1
  // A point on the axis is one vertex; any other is a ring of `count`.
  const onAxis = (p: P2) => Math.abs(p[0]) < 1e-9
  const ring = (p: P2): Ring => {
    if (onAxis(p)) return { p: [0, p[1]], index: put([0, p[1]], 0) }
    const index = put(p, 0)
    for (let k = 1; k < count; k++) put(p, k)
    return { p, index }
  }
  const at = (r: Ring, k: number) => (onAxis(r.p) ? r.index : r.index + (k % count))
  for (const region of b.regions) {
    const rings: Ring[][] = [region.outer, ...region.holes].map((loop) =>
      flatLoop(loop, fine).map((p) => ring(p)),
    )
    for (const loop of rings) {
      for (const [i, a] of loop.entries()) {
        const c = loop[(i + 1) % loop.length]!
        if (onAxis(a.p) && onAxis(c.p)) continue
        for (let k = 0; k < n; k++) {
          const [a0, a1, c0, c1] = [at(a, k), at(a, k + 1), at(c, k), at(c, k + 1)]
          if (!onAxis(a.p)) triangles.push(a0, a1, c0)
          if (!onAxis(c.p)) triangles.push(a1, c1, c0)
        }
      }
    }
    if (!whole) {
      const flat = rings.flat()
      for (const [p, q, r] of triangulate(rings.map((l) => l.map((v) => v.p)))) {
        triangles.push(at(flat[p]!, 0), at(flat[q]!, 0), at(flat[r]!, 0))
        triangles.push(at(flat[r]!, n), at(flat[q]!, n), at(flat[p]!, n))
      }
    }
  }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
}

function flatLoop(loop: Loop, fine: Fineness): P2[] {
  return loop.flatMap((s) =>
    flattenParams(s.curve, fine.chord, fine.angle)
      .slice(0, -1)
      .map((t) => pointAt(s.curve, t)),
  )
}

/** Triangles (indices into the concatenated loops) filling an outer polygon with holes. */
function triangulate(loops: P2[][]): [number, number, number][] {
  const holes: number[] = []
  let n = 0
  for (const [i, l] of loops.entries()) {
    if (i > 0) holes.push(n)
    n += l.length
  }
  const idx = earcut(
    loops.flat().flatMap((p) => [p[0], p[1]]),
    holes,
  )
  const pts = loops.flat()
  const out: [number, number, number][] = []
  for (let i = 0; i < idx.length; i += 3) {
    const [a, c, d] = [idx[i]!, idx[i + 1]!, idx[i + 2]!]
    const area =
      (pts[c]![0] - pts[a]![0]) * (pts[d]![1] - pts[a]![1]) -
      (pts[d]![0] - pts[a]![0]) * (pts[c]![1] - pts[a]![1])
    if (area !== 0) out.push(area > 0 ? [a, c, d] : [a, d, c])
  }
  return out
}

/** Name of the flat section faces where a body is cut open or only part-turned. */
export const SECTION = 'section'

/** Buffers for drawing the body, or only `sweep` rad of it from `start` with its section faces. */
export function displayMesh(b: TurnedBody, fine: Fineness): DisplayMesh {
  const n = facetsAround(sectionBounds(b).max[0], b.sweep, fine)
  const out = new MeshDraft()
  const angles = Array.from({ length: n + 1 }, (_, k) => b.start + (b.sweep * k) / n)
  const space = (p: P2, a: number) => turnedPoint(b.frame, p[0], p[1], a)
  const direction = (v: P2, a: number) => {
    const p = turnedPoint(b.frame, v[0], v[1], a)
    const o = b.frame.origin
    return [p[0] - o[0], p[1] - o[1], p[2] - o[2]] as const
  }
  const strip = (s: Seg) => {
    const face = out.face(s.name)
    const ts = flattenParams(s.curve, fine.chord, fine.angle)
    let last = -1
    for (const t of ts) {
      const p = pointAt(s.curve, t)
      const normal = left(tangentAt(s.curve, t)).map((x) => -x) as [number, number]
      const base = out.count
      for (const a of angles) out.vertex(space(p, a), direction(normal, a))
      if (last >= 0) {
        for (let k = 0; k < n; k++) {
          out.triangle(last + k, last + k + 1, base + k, face)
          out.triangle(last + k + 1, base + k + 1, base + k, face)
        }
      }
      last = base
    }
  }
  for (const s of bodyLoops(b).flat()) if (s.name !== AXIS) strip(s)
  for (const c of cornersOf(b)) {
    if (!isSharp(c) || c.at[0] < 1e-9) continue
    const edge = out.edge([c.before.name, c.after.name], c.at)
    for (let k = 0; k < n; k++) out.line(space(c.at, angles[k]!), space(c.at, angles[k + 1]!), edge)
  }
  if (!isWhole(b))
    for (const end of [0, n]) sectionFace(b.regions, end, angles, out, space, fine, b)
  return out.done()
}

function sectionFace(
  regions: readonly Region[],
  end: number,
  angles: number[],
  out: MeshDraft,
  space: (p: P2, a: number) => readonly number[],
  fine: Fineness,
  b: TurnedBody,
) {
  const a = angles[end]!
  const across = turnedPoint(
    { ...b.frame, origin: [0, 0, 0] },
    1,
    0,
    a + (end === 0 ? -1 : 1) * (Math.PI / 2),
  )
  const face = out.face(SECTION)
  const halved = Math.abs(b.sweep - Math.PI) < 1e-9
  for (const region of regions) {
    const loops = [region.outer, ...region.holes].map((l) => flatLoop(l, fine))
    const base = out.count
    for (const p of loops.flat()) out.vertex(space(p, a), across)
    for (const [p, q, r] of triangulate(loops)) {
      if (end === 0) out.triangle(base + p, base + q, base + r, face)
      else out.triangle(base + r, base + q, base + p, face)
    }
    const edge = out.edge([SECTION, SECTION], loops[0]![0]!)
    for (const l of loops) {
      for (const [i, p] of l.entries()) {
        const q = l[(i + 1) % l.length]!
        // A half shows both sides of the axis as one face: no line between them.
        if (halved && p[0] < 1e-9 && q[0] < 1e-9) continue
        out.line(space(p, a), space(q, a), edge)
      }
    }
  }
}

class MeshDraft {
  count = 0
  #positions: number[] = []
  #normals: number[] = []
  #triangles: number[] = []
  #faceOf: number[] = []
  #faces: string[] = []
  #lines: number[] = []
  #edgeOf: number[] = []
  #edges: DisplayMesh['edges'] = []

  face(name: string): number {
    const known = this.#faces.indexOf(name)
    return known >= 0 ? known : this.#faces.push(name) - 1
  }
  edge(names: [string, string], at: P2): number {
    return this.#edges.push({ names, at }) - 1
  }
  vertex(p: readonly number[], normal: readonly number[]) {
    this.#positions.push(p[0]!, p[1]!, p[2]!)
    this.#normals.push(normal[0]!, normal[1]!, normal[2]!)
    this.count++
  }
  triangle(a: number, b: number, c: number, face: number) {
    this.#triangles.push(a, b, c)
    this.#faceOf.push(face)
  }
  line(a: readonly number[], b: readonly number[], edge: number) {
    this.#lines.push(a[0]!, a[1]!, a[2]!, b[0]!, b[1]!, b[2]!)
    this.#edgeOf.push(edge)
  }
  done(): DisplayMesh {
    return {
      positions: Float32Array.from(this.#positions),
      normals: Float32Array.from(this.#normals),
      triangles: Uint32Array.from(this.#triangles),
      faceOf: Uint32Array.from(this.#faceOf),
      faces: this.#faces,
      lines: Float32Array.from(this.#lines),
      edgeOf: Uint32Array.from(this.#edgeOf),
      edges: this.#edges,
    }
  }
}

/** The section loops as polylines for drawing in 2D, named piece by piece. */
export function sectionLines(b: TurnedBody, chord: number): { name: string; points: P2[] }[] {
  return bodyLoops(b)
    .flat()
    .map((s) => ({
      name: s.name,
      points: flattenParams(s.curve, chord).map((t) => pointAt(s.curve, t)),
    }))
}

/** Made once for each half-section. */
const shown = new WeakMap<TurnedBody, SolidMesh>()
/** The watertight mesh a turned body is measured by where its half-section does not do. */
export function shownMesh(b: TurnedBody): SolidMesh {
  const known = shown.get(b) ?? solidMesh(b, SHOWN)
  shown.set(b, known)
  return known
}
