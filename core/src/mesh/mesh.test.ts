import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { P2, P3 } from '../math'
import { measureMesh, slice, type TriMesh, weld, weldIndexed } from '.'

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

describe('slicing', () => {
  const at = (z: number) => ({
    origin: [0, 0, z] as P3,
    x: [1, 0, 0] as P3,
    y: [0, 1, 0] as P3,
    z: [0, 0, 1] as P3,
  })
  /** Shoelace. */
  const area = (line: P2[]) =>
    line.slice(1).reduce((sum, q, i) => sum + (line[i]![0] * q[1] - q[0] * line[i]![1]) / 2, 0)

  it('a box gives its rectangle, run with the material on the left', () => {
    const lines = slice(weld(soupOf(box(20, 30, 40))), at(1))
    expect(lines).toHaveLength(1)
    expect(lines[0]![0]).toEqual(lines[0]!.at(-1))
    expect(area(lines[0]!)).toBeCloseTo(600, 4)
  })
  it('a plane through vertices or along a face cuts cleanly', () => {
    const mesh = weld(soupOf(box(20, 30, 40)))
    const { min, max } = measureMesh(mesh).bounds
    for (const z of [min[2], max[2]]) {
      const sum = slice(mesh, at(z)).reduce((a, l) => a + area(l), 0)
      expect([0, 600].some((want) => Math.abs(sum - want) < 1e-3)).toBe(true)
    }
    expect(slice(mesh, at(max[2] + 1))).toEqual([])
  })
  it('a ball gives a circle of its radius there', () => {
    const [line, ...more] = slice(ball(10, 96), at(6))
    expect(more).toHaveLength(0)
    expect(area(line!) / (Math.PI * 64)).toBeCloseTo(1, 2)
  })
  it('an open mesh gives open lines', () => {
    const whole = weld(soupOf(box(20, 30, 40)))
    const open = { ...whole, triangles: whole.triangles.slice(3) }
    const lines = slice(open, { ...at(0), x: [0, 1, 0], y: [0, 0, 1], z: [1, 0, 0] })
    for (const l of lines) expect(l.length).toBeGreaterThan(1)
  })
})
