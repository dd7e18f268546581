import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { creased, measureMesh, type TriMesh, weld, weldIndexed } from '.'

/** A box from one corner, its triangles facing outward. */
function box(w: number, d: number, h: number, at: [number, number, number] = [0, 0, 0]): TriMesh {
  const corners = Array.from({ length: 8 }, (_, i) => [i & 1, (i >> 1) & 1, (i >> 2) & 1])
  const positions = corners.flatMap(([x, y, z]) => [at[0] + x! * w, at[1] + y! * d, at[2] + z! * h])
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  return {
    positions: Float64Array.from(positions),
    triangles: Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!])),
  }
}
/** A ball by longitude and latitude, with poles of single vertices. */
function ball(r: number, n: number): TriMesh {
  const positions: number[] = [0, 0, -r]
  const rings = n / 2 - 1
  for (let j = 1; j <= rings; j++)
    for (let i = 0; i < n; i++) {
      const [a, b] = [(2 * Math.PI * i) / n, -Math.PI / 2 + (Math.PI * j) / (rings + 1)]
      positions.push(r * Math.cos(b) * Math.cos(a), r * Math.cos(b) * Math.sin(a), r * Math.sin(b))
    }
  const top = positions.push(0, 0, r) / 3 - 1
  const at = (j: number, i: number) => 1 + (j - 1) * n + (i % n)
  const triangles: number[] = []
  for (let i = 0; i < n; i++) {
    triangles.push(0, at(1, i + 1), at(1, i))
    triangles.push(top, at(rings, i), at(rings, i + 1))
    for (let j = 1; j < rings; j++)
      triangles.push(
        at(j, i),
        at(j, i + 1),
        at(j + 1, i + 1),
        at(j, i),
        at(j + 1, i + 1),
        at(j + 1, i),
      )
  }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
}
const soupOf = (m: TriMesh): Float32Array =>
  Float32Array.from([...m.triangles].flatMap((v) => [0, 1, 2].map((k) => m.positions[3 * v + k]!)))
const size = fc.double({ min: 0.5, max: 40, noNaN: true })

describe('measures of a mesh', () => {
  it('a box of any size, anywhere', () => {
    fc.assert(
      fc.property(size, size, size, fc.tuple(size, size, size), (w, d, h, at) => {
        const m = measureMesh(box(w, d, h, at))
        expect(m.volume / (w * d * h)).toBeCloseTo(1, 9)
        expect(m.area / (2 * (w * d + d * h + h * w))).toBeCloseTo(1, 12)
        for (const [k, s] of [w, d, h].entries()) {
          expect(m.centroid[k]).toBeCloseTo(at[k]! + s / 2, 6)
          expect(m.bounds.max[k]! - m.bounds.min[k]!).toBeCloseTo(s, 9)
        }
        expect(m).toMatchObject({ closed: true, triangles: 12 })
      }),
    )
  })
  it('a ball comes near 4/3 pi r³ and 4 pi r² with the square of the step', () => {
    const off = (n: number) => {
      const m = measureMesh(ball(10, n))
      expect(m.closed).toBe(true)
      return [1 - m.volume / ((4 / 3) * Math.PI * 1000), 1 - m.area / (400 * Math.PI)]
    }
    const [coarse, fine] = [off(24), off(48)]
    for (const k of [0, 1]) {
      expect(fine[k]).toBeGreaterThan(0)
      expect(coarse[k]! / fine[k]!).toBeCloseTo(4, 0)
    }
  })
  it('turned inside out its volume is negative; with a hole it is not closed', () => {
    const whole = box(2, 3, 4)
    const turned = { ...whole, triangles: whole.triangles.slice().reverse() }
    expect(measureMesh(turned).volume).toBeCloseTo(-24, 9)
    expect(measureMesh(turned).closed).toBe(true)
    const open = { ...whole, triangles: whole.triangles.slice(3) }
    expect(measureMesh(open).closed).toBe(false)
    // One triangle the wrong way round closes nothing either.
    const flipped = whole.triangles.slice()
    ;[flipped[0], flipped[1]] = [flipped[1]!, flipped[0]!]
    expect(measureMesh({ ...whole, triangles: flipped }).closed).toBe(false)
    expect(
      measureMesh({ positions: new Float64Array(), triangles: new Uint32Array() }).closed,
    ).toBe(false)
  })
})

describe('welding', () => {
  it('loose triangles become one closed mesh of the same measure', () => {
    for (const m of [box(2, 3, 4), ball(10, 24)]) {
      const welded = weld(soupOf(m))
      expect(welded.positions.length).toBe(m.positions.length)
      const [a, b] = [measureMesh(welded), measureMesh(m)]
      expect(a.closed).toBe(true)
      expect(a.volume / b.volume).toBeCloseTo(1, 6)
    }
  })
  it('slivers of no area are dropped', () => {
    const welded = weld(Float32Array.from([0, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 1, 0, 0, 0, 1, 0]))
    expect(welded.triangles.length).toBe(3)
  })
  it('faces meshed one by one are joined along their seams', () => {
    const m = box(1, 1, 1)
    const apart: TriMesh = {
      positions: soupOf(m),
      triangles: Uint32Array.from({ length: 36 }, (_, i) => i),
    }
    expect(measureMesh(apart).closed).toBe(false)
    expect(measureMesh(weldIndexed(apart)).closed).toBe(true)
  })
})

describe('creases', () => {
  it('a box has its twelve edges and flat faces', () => {
    const c = creased(weld(soupOf(box(2, 3, 4))), 0.5)
    expect(c.lines.length / 6).toBe(12)
    for (let v = 0; v < c.normals.length; v += 3) {
      const along = [0, 1, 2].map((k) => Math.abs(c.normals[v + k]!)).sort()
      expect(along[2]).toBeCloseTo(1, 6)
      expect(along[1]).toBeCloseTo(0, 6)
    }
  })
  it('a ball has none, and its normals point out of its centre', () => {
    const c = creased(ball(10, 48), 0.5)
    expect(c.lines.length).toBe(0)
    for (let v = 0; v < c.normals.length; v += 3) {
      const cos = [0, 1, 2].reduce((s, k) => s + (c.normals[v + k]! * c.positions[v + k]!) / 10, 0)
      expect(cos).toBeGreaterThan(0.995)
    }
  })
  it('the rim of an open mesh is drawn', () => {
    const m = box(1, 1, 1)
    const open = { ...m, triangles: m.triangles.slice(6) }
    // Without its foot the box keeps eight creases and shows the four edges round the hole.
    expect(creased(open, 0.5).lines.length / 6).toBe(12)
    expect(creased(open, 3).lines.length / 6).toBe(4)
  })
})
