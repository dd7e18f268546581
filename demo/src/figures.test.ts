import type { ExactPart } from '@ivory/core/exact'
import { workOut } from '@ivory/core/workpiece'
import { describe, expect, it } from 'vitest'
import type { demoSet } from '.'
import { changed, whole } from './whole.test-data'

/** A figure's value, mm. */
const built = (w: ReturnType<typeof demoSet>[number], name: string) =>
  workOut(w.figures, w.unit).values.find((v) => v.name === name)!.quantity!.value

describe('everything follows the figures', () => {
  it.each([{ bowl: '52 mm', deep: '32 mm', wide: '17 mm' }])(
    'of the batter scoop: %o',
    async (figures) => {
      const w = changed('Batter scoop', figures)
      const { reports, state } = await whole(w)
      expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
      const { shape } = state.bodies.turn!
      if (shape.kind !== 'exact') throw new Error('not exact')
      expect(shape.measure.solids).toBe(1)
      // The handle does not poke through: nothing of it lies within the inside of the bowl there.
      const inner = built(w, 'inner')
      const level = built(w, 'level')
      const poking = shape.vertices.filter(
        ({ at: [x, y, z], faces }) =>
          faces.some((f) => shape.faces[f]!.names[0]!.startsWith('handle:')) &&
          Math.hypot(x, y) < inner - 0.3 * Math.abs(z - level) - 1e-3,
      )
      expect(poking).toEqual([])
      expect(shape.faces.some((f) => f.names.includes('handle:root'))).toBe(false)
    },
  )
  it.each([{ length: '60 mm', depth: '26 mm', wall: '1.6 mm', lean: '5 deg' }])(
    'of the counter clip: %o',
    async (figures) => {
      const w = changed('Counter clip', figures)
      const { reports, state } = await whole(w)
      expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
      const { shape } = state.bodies.clip!
      expect(shape.kind === 'exact' && shape.measure.solids).toBe(1)
    },
  )
  it('of the timer dial: more notches, other letters; the parts make up the puck', async () => {
    const w = changed('Timer dial', { across: '72 mm', count: '24', letters: '4.6 mm' })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const parts = Object.fromEntries(
      Object.entries(state.bodies).map(([id, b]) => [id, b.shape as ExactPart]),
    )
    expect(Object.keys(parts)).toEqual(['dial', 'parts-1', 'parts-2', 'parts-3'])
    const volumes = Object.values(parts).map((p) => p.measure.volume)
    const puck = Math.PI * 36 ** 2 * 12
    expect(volumes.reduce((a, b) => a + b) / puck).toBeCloseTo(1, 6)
    // 22 letters and points, 9 letters, 24 notches.
    expect([1, 2, 3].map((k) => parts[`parts-${k}`]!.measure.solids)).toEqual([22, 9, 24])
  })
  it('of the cutlery drainer: one closed body of as many strips as asked', async () => {
    const w = changed('Cutlery drainer', { count: '24', mouth: '128 mm' })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const shape = state.bodies.drainer!.shape as ExactPart
    expect([shape.kind, shape.measure.closed, shape.measure.solids]).toEqual(['mesh', true, 1])
    const [low, high] = [shape.measure.bounds.min, shape.measure.bounds.max]
    expect(high[0] - low[0]).toBeCloseTo(125, 1)
    expect(high[2]).toBeCloseTo(120, 4)
    // 24 strips each way bear a name of their own on both their sides.
    const strips = new Set(
      shape.faces.flatMap((f) => f.names).filter((n) => n.includes('strips:right')),
    )
    expect(strips.size).toBe(24)
  })
  it('of the mill grip: whole dimples as the panel has room for', async () => {
    const w = changed('Dimpled mill grip', { tall: '44 mm', deep: '1.6 mm', rim: '0.6 mm' })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const shape = state.bodies.grip!.shape as ExactPart
    const dimples = new Set(shape.faces.flatMap((f) => f.names.filter((n) => /dimple\d+$/.test(n))))
    expect(reports[3]!.consequence).toContain(`${dimples.size} of ball`)
    expect(dimples.size).toBeLessThan(31)
  })
  it.each([{ long: '150 mm', wide: '100 mm', inset: '20 mm', wire: '5 mm' }])(
    'of the trivet: the wire follows the edges of the block: %o',
    async (figures) => {
      const w = changed('Trivet wire', figures)
      const { reports, state } = await whole(w)
      expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
      const shape = state.bodies.ring!.shape as ExactPart
      // It lies about the upper rim: its middle is as high as the block.
      const top = built(w, 'low') + built(w, 'step')
      const [low, high] = [shape.measure.bounds.min[2], shape.measure.bounds.max[2]]
      expect((low + high) / 2).toBeCloseTo(top, 3)
      expect(high - low).toBeCloseTo(built(w, 'wire'), 3)
      // As long as the path by its area.
      const long = Number(/[\d.]+/.exec(reports[8]!.consequence)![0])
      const area = (Math.PI * built(w, 'wire') ** 2) / 4
      expect(shape.measure.volume / (long * area)).toBeCloseTo(1, 4)
    },
  )
})
