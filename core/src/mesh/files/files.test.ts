import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  closedBy,
  closeSeams,
  countEdges,
  edgeWords,
  measureMesh,
  readObj,
  readThreeMf,
  type TriMesh,
  weld,
  writeObj,
  writeThreeMf,
} from '..'

/** A cube of side 1 at a corner, its triangles facing outward; vertices are shared by the caller. */
const QUADS = [
  [0, 2, 3, 1],
  [4, 5, 7, 6],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 4, 6, 2],
  [1, 3, 7, 5],
]
function cubes(...at: [number, number, number][]): TriMesh {
  const index = new Map<string, number>()
  const positions: number[] = []
  const vertex = (p: number[]) => {
    const known = index.get(p.join())
    if (known !== undefined) return known
    index.set(p.join(), index.size)
    positions.push(...p)
    return index.size - 1
  }
  const triangles = at.flatMap(([x, y, z]) => {
    const v = Array.from({ length: 8 }, (_, i) =>
      vertex([x + (i & 1), y + ((i >> 1) & 1), z + ((i >> 2) & 1)]),
    )
    return QUADS.flatMap((q) => {
      const [a, b, c, d] = q.map((k) => v[k]!)
      return [a!, b!, c!, a!, c!, d!]
    })
  })
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
}

describe('edges of a mesh', () => {
  it('a cube has none that are faulty; two cubes on one edge have one with four sides (row I3)', () => {
    expect(countEdges(cubes([0, 0, 0]))).toEqual({ open: 0, many: 0, alike: 0, places: [] })
    const edge = countEdges(cubes([0, 0, 0], [1, 1, 0]))
    expect(edge).toEqual({ open: 0, many: 1, alike: 0, places: [[1, 1, 0.5]] })
    expect(closedBy(edge)).toBe(true)
    expect(edgeWords(edge)).toBe('1 edge where more than two triangles meet')
    // One shared vertex leaves every edge with two sides.
    expect(countEdges(cubes([0, 0, 0], [1, 1, 1])).many).toBe(0)
  })
  it('property: of any triangles taken out, the open edges are those they share with what is left', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 11 }), { maxLength: 11 }), (gone) => {
        const whole = cubes([0, 0, 0])
        const kept = Array.from({ length: 12 }, (_, i) => i).filter((i) => !gone.includes(i))
        const of = (list: number[]) =>
          list.flatMap((i) => {
            const t = [...whole.triangles.slice(3 * i, 3 * i + 3)]
            return t.map((a, k) => [a, t[(k + 1) % 3]!].sort().join())
          })
        const left = of(kept)
        const want = new Set(of(gone).filter((e) => left.includes(e))).size
        const mesh = {
          ...whole,
          triangles: Uint32Array.from(
            kept.flatMap((i) => [...whole.triangles.slice(3 * i, 3 * i + 3)]),
          ),
        }
        expect(countEdges(mesh).open).toBe(want)
        expect(measureMesh(mesh).closed).toBe(want === 0 && kept.length > 0)
      }),
    )
  })
  it('a triangle turned over is told as such', () => {
    const t = cubes([0, 0, 0])
    ;[t.triangles[0], t.triangles[1]] = [t.triangles[1]!, t.triangles[0]!]
    const e = countEdges(t)
    expect(e).toMatchObject({ open: 0, alike: 3 })
    expect(edgeWords(e)).toBe('3 edges with a triangle inside out')
  })
  it('seams whose numbers differ in the last digits are joined, wider gaps are not', () => {
    const loose = (off: number) => {
      const m = cubes([0, 0, 0])
      const soup = Float32Array.from(
        [...m.triangles].flatMap((v, i) =>
          [0, 1, 2].map((k) => m.positions[3 * v + k]! + (i < 6 ? off : 0)),
        ),
      )
      return weld(soup)
    }
    expect(countEdges(loose(3e-7)).open).toBeGreaterThan(0)
    expect(measureMesh(closeSeams(loose(3e-7))).closed).toBe(true)
    expect(measureMesh(closeSeams(loose(1e-3))).closed).toBe(false)
  })
})

describe('meshes come back from what was written', () => {
  const bodies = [
    { name: 'One & two', color: '#aabbcc', mesh: cubes([0, 0, 0], [3, 0, 0]) },
    { name: 'b', color: '#112233', mesh: cubes([0, 5, 0]) },
  ]
  it.each([
    ['OBJ', () => readObj(writeObj(bodies))],
    ['3MF', () => readThreeMf(writeThreeMf(bodies, 'T'))],
  ])('%s: as many bodies, closed, of the same volume', (_, read) => {
    const back = read()
    if (!back.ok) throw new Error(back.diagnosis.message)
    const measures = back.value.map(measureMesh)
    expect(measures.map((m) => m.volume)).toEqual([expect.closeTo(2, 9), expect.closeTo(1, 9)])
    expect(measures.every((m) => m.closed)).toBe(true)
  })
  it.each([
    [() => readObj(''), /no triangle/],
    [() => readObj('v 0 0 0\nf 1 2 9'), /not there/],
    [() => readObj('v 0 0 x\nv 1 0 0\nv 0 1 0\nf 1 2 3'), /not numbers/],
    [() => readThreeMf(new Uint8Array([1, 2, 3])), /not a 3MF package/],
  ])('what is broken is refused in a sentence', (read, why) => {
    const r = read()
    expect(r.ok).toBe(false)
    if (!r.ok) expect(r.diagnosis.message).toMatch(why)
  })
})
