import { beforeAll, describe, expect, it } from 'vitest'
import type { SolidHandle, WireCurve } from '../kernel'
import type { P3 } from '../math'
import { loadShapes, type ShapeStore } from './store'
import type { Bench, Named } from './verbs'
import { clearOf, unlikeTriangles } from './witness'

// What a kernel might give for a combination, right and wrong, held against triangles.

let store: ShapeStore
let bench: Bench
beforeAll(async () => {
  store = await loadShapes()
  bench = {
    kernel: store.kernel,
    meshes: store.meshes,
    keep: (shape) => shape,
    file: () => {
      throw new Error('no files here')
    },
  }
})
const named = (shape: SolidHandle): Named => ({ shape, names: [] })
function box([x, y, z]: P3, [w, d, h]: P3): Named {
  const pts: P3[] = [
    [x, y, z],
    [x + w, y, z],
    [x + w, y + d, z],
    [x, y + d, z],
  ]
  const lines = pts.map((a, i): WireCurve => ({ kind: 'line', a, b: pts[(i + 1) % 4]! }))
  return named(store.kernel.prism([lines], [0, 0, h]).shape)
}
const rod = (r: number, h: number) =>
  named(
    store.kernel.prism(
      [[{ kind: 'circle', centre: [0, 0, 0], dir: [0, 0, 1], start: [r, 0, 0] }]],
      [0, 0, h],
    ).shape,
  )
const combined = (how: 'join' | 'cut' | 'meet', a: Named, b: Named) =>
  named(store.kernel.boolean(how, a.shape, [b.shape]).shape)

describe('a combination held against triangles', () => {
  it.each(['join', 'cut', 'meet'] as const)(
    '%s of a rod and a box: what is right is believed',
    (how) => {
      const [a, b] = [rod(20, 30), box([5, -4, 10], [40, 8, 9])]
      expect(unlikeTriangles(bench, how, [a, b], combined(how, a, b))).toBeNull()
    },
  )
  it('a cut that was lost is seen, with a place in it', () => {
    const [a, b] = [rod(20, 30), box([15, -2, 10], [10, 4, 9])]
    const told = unlikeTriangles(bench, 'cut', [a, b], a)
    if (!told || told === 'unsure' || told.ok) throw new Error('believed')
    const [x, y, z] = told.diagnosis.places[0]!.at as P3
    expect(told.diagnosis.code).toBe('not-right')
    expect([x > 15 && x < 20, Math.abs(y) < 2, z > 10 && z < 19]).toEqual([true, true, true])
  })
  it('two solids that overlap are not one body', () => {
    const [a, b] = [box([0, 0, 0], [20, 20, 20]), box([19, 5, 5], [20, 10, 10])]
    const both = named(store.kernel.together([a.shape, b.shape]).shape)
    expect(unlikeTriangles(bench, 'join', [a, b], both)).toMatchObject({
      diagnosis: { message: expect.stringContaining('overlap') },
    })
  })
  it('solids that only touch, flat or round, are believed', () => {
    const [a, b] = [box([0, 0, 0], [20, 20, 20]), box([20, 5, 5], [20, 10, 10])]
    const flat = named(store.kernel.together([a.shape, b.shape]).shape)
    expect(unlikeTriangles(bench, 'join', [a, b], flat)).toBeNull()
    const ring = combined('cut', box([-30, -30, 0], [60, 60, 20]), rod(12, 20))
    const plug = rod(12, 20)
    const round = named(store.kernel.together([ring.shape, plug.shape]).shape)
    expect(unlikeTriangles(bench, 'join', [ring, plug], round)).toBeNull()
  })
  it('that nothing is left is not believed where something is', () => {
    const [a, b, off] = [
      box([-5, -5, -5], [10, 10, 10]),
      box([0, 0, 0], [9, 9, 9]),
      box([50, 0, 0], [9, 9, 9]),
    ]
    expect(unlikeTriangles(bench, 'meet', [a, b], null)).toMatchObject({ ok: false })
    expect(unlikeTriangles(bench, 'meet', [a, off], null)).toBeNull()
    expect([clearOf(bench, a, b), clearOf(bench, a, off)]).toEqual([false, true])
  })
})
