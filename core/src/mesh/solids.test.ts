import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import type { P3 } from '../math'
import {
  type FacedMesh,
  facesBySharpEdges,
  loadMeshSolids,
  type MeshSolids,
  measureMesh,
  movedMesh,
} from '.'

let solids: MeshSolids
beforeAll(async () => {
  solids = await loadMeshSolids()
})

const UNIT: readonly [P3, P3, P3] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
]
/** A box from a corner, its faces numbered by what they look to. */
function box(at: P3, [x, y, z]: P3): FacedMesh {
  const positions = Float64Array.from(
    Array.from({ length: 8 }, (_, i) => [
      at[0] + (i & 1 ? x : 0),
      at[1] + (i & 2 ? y : 0),
      at[2] + (i & 4 ? z : 0),
    ]).flat(),
  )
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ] as const
  const triangles = Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]))
  return facesBySharpEdges({ positions, triangles }, 0.5)
}

describe('closed meshes', () => {
  it('a box has six faces, each of two triangles', () => {
    const { faceOf } = box([0, 0, 0], [2, 3, 4])
    expect([...faceOf]).toEqual([0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 5, 5])
  })
  const size = fc.double({ min: 1, max: 20, noNaN: true })
  const place = fc.double({ min: -15, max: 15, noNaN: true })
  it('property: two boxes joined, cut and met measure what boxes do, close, and know their faces', () => {
    fc.assert(
      fc.property(fc.tuple(size, size, size), fc.tuple(place, place, place), (s, at) => {
        const [a, b] = [box([0, 0, 0], [10, 10, 10]), box(at, s)]
        const shared = [0, 1, 2].reduce(
          (v, k) => v * Math.max(0, Math.min(10, at[k]! + s[k]!) - Math.max(0, at[k]!)),
          1,
        )
        const own = s[0] * s[1] * s[2]
        expect(Math.abs(solids.shared(a, b) - shared)).toBeLessThan(1e-2)
        for (const [how, volume] of [
          ['join', 1000 + own - shared],
          ['cut', 1000 - shared],
          ['meet', shared],
        ] as const) {
          const { mesh, from } = solids.combine(how, [a, b])
          if (mesh.triangles.length === 0) {
            expect(volume).toBeLessThan(1e-2)
            continue
          }
          const m = measureMesh(mesh)
          expect(m.closed).toBe(true)
          expect(Math.abs(m.volume - volume)).toBeLessThan(1e-2)
          // Every face is one of the twelve there were.
          expect(from.every((f) => f && f.face < 6 && f.mesh < 2)).toBe(true)
          expect(new Set(from.map((f) => `${f!.mesh} ${f!.face}`)).size).toBe(from.length)
        }
      }),
      { numRuns: 40, endOnFailure: true },
    )
  })
  it('cut at a plane, taken apart, and measured for the gap between', () => {
    const bar = box([0, 0, 0], [10, 2, 2])
    const [front, back] = solids.cutAt(bar, [1, 0, 0], 4)
    expect(measureMesh(front.mesh).volume).toBeCloseTo(24, 4)
    expect(measureMesh(back.mesh).volume).toBeCloseTo(16, 4)
    expect(front.from.filter((f) => f === null)).toHaveLength(1)
    const gone = solids.combine('cut', [bar, box([3, -1, -1], [2, 4, 4])]).mesh
    const pieces = solids.apart(gone).map((p) => measureMesh(p.mesh).volume)
    expect(pieces.sort((a, b) => a - b)).toEqual([expect.closeTo(12, 4), expect.closeTo(20, 4)])
    expect(solids.gap(bar, box([12.5, 0, 0], [1, 1, 1]), 100)).toBeCloseTo(2.5, 5)
    expect(solids.gap(bar, box([5, 0, 0], [1, 1, 1]), 100)).toBe(0)
  })
  it('mirrored it faces outward still', () => {
    const m: [P3, P3, P3] = [[-1, 0, 0], UNIT[1], UNIT[2]]
    const { volume, bounds } = measureMesh(
      movedMesh(box([0, 0, 0], [2, 3, 4]), { m, t: [5, 0, 0] }),
    )
    expect(volume).toBeCloseTo(24, 9)
    expect([bounds.min[0], bounds.max[0]]).toEqual([3, 5])
  })
  it('an open mesh is refused with where it is open', () => {
    const b = box([0, 0, 0], [2, 3, 4])
    const open = { ...b, triangles: b.triangles.slice(3), faceOf: b.faceOf.slice(1) }
    expect(() => solids.apart(open)).toThrow(/not closed: 3 edges with one side open/)
  })
})
