import { RebuildCache, rebuild } from '@ivory/core/rebuild'
import type { Op, Workpiece } from '@ivory/core/workpiece'
import { demoSet } from '@ivory/demo'
import { describe, expect, it } from 'vitest'
import { FRONT } from '../table/frame'
import { transferables, viewOf } from './view'

const cruet = demoSet()[0]!
const whole = {
  cutaway: false,
  fill: null,
  draft: false,
  solid: true,
  plane: FRONT,
  cut: { plane: FRONT, free: false },
}
const view = (w: Workpiece, request: Partial<typeof whole> | { fill: number } = {}) =>
  viewOf(w, rebuild(w, new RebuildCache()), { ...whole, ...request }, 1)
const more = (w: Workpiece, ...ops: [string, string, Op['inputs']][]): Workpiece => ({
  ...w,
  route: [
    ...w.route,
    ...ops.map(([kind, id, inputs], i) => ({ id, kind, name: id, number: 500 + 10 * i, inputs })),
  ],
})
const width = (positions: ArrayLike<number>, axis: number): [number, number] => {
  const all = Array.from(positions).filter((_, i) => i % 3 === axis)
  return [Math.min(...all), Math.max(...all)]
}

describe('what the page is given of a workpiece', () => {
  it('a draft has the section and no triangles or gauges', () => {
    const v = view(cruet, { draft: true, solid: false })
    expect(v.bodies[0]!.mesh).toBeNull()
    expect(v.bodies[0]!.section.length).toBeGreaterThan(5)
    expect(v.gauges).toEqual([])
    expect(v.profiles.flatMap((p) => p.suggestions)).toEqual([])
  })
  it('a coarse view has fewer triangles than a fine one of the same body', () => {
    const size = (draft: boolean) => view(cruet, { draft }).bodies[0]!.mesh!.triangles.length
    expect(size(true)).toBeLessThan(size(false) / 2)
  })
  it('cut away, only the half behind the section plane is left', () => {
    const [front, back] = width(view(cruet).bodies[0]!.mesh!.positions, 1)
    expect(front).toBeLessThan(-40)
    const cut = width(view(cruet, { cutaway: true }).bodies[0]!.mesh!.positions, 1)
    expect(cut[0]).toBeGreaterThan(-1e-6)
    expect(cut[1]).toBeCloseTo(back, 6)
  })
  it('liquid stands as high as the share of the brim asks, and not at all in an empty one', () => {
    const top = (fill: number) => {
      const { liquid } = view(cruet, { fill }).bodies[0]!
      return liquid && width(liquid.positions, 2)[1]
    }
    expect(top(0)).toBeNull()
    const [half, full] = [top(0.5)!, top(1)!]
    expect(half).toBeLessThan(full)
    expect(full).toBeLessThanOrEqual(view(cruet).bodies[0]!.bounds.max[2] + 1e-6)
  })
  it('every op knows what there was before it', () => {
    const v = view(cruet)
    const [outline, turn, , neck] = cruet.route
    expect(v.available[outline!.id]).toMatchObject({ bodies: [], profiles: [], axes: [] })
    expect(v.available[outline!.id]!.planes).toEqual(['front', 'side', 'top'])
    expect(v.available[turn!.id]!.profiles).toEqual([outline!.id])
    expect(v.available[neck!.id]!.bodies.map((b) => b.id)).toEqual([turn!.id])
  })
  it('datums are those that ops set, not the planes every workpiece has', () => {
    expect(view(cruet).datums).toEqual([])
    const v = view(
      more(
        cruet,
        ['plane', 'lid', { how: 'offset', from: 'top', offset: 20 }],
        ['axis', 'line', { how: 'planes', from: 'front', to: 'side' }],
        ['point', 'spot', { how: 'meet', axis: 'line', plane: 'lid' }],
      ),
    )
    expect(v.datums).toEqual([
      expect.objectContaining({ id: 'lid', kind: 'plane' }),
      expect.objectContaining({ id: 'line', kind: 'axis' }),
      { id: 'spot', kind: 'point', at: [0, 0, 20] },
    ])
  })
  it('reports and readings are in the unit of the workpiece', () => {
    const inches = view({ ...cruet, unit: 'in' })
    const height = (v: ReturnType<typeof view>) =>
      v.gauges.find((g) => g.kind === 'height')!.reading!.text
    expect(height(view(cruet))).toMatch(/^126\.00 mm$/)
    expect(Number.parseFloat(height(inches))).toBeCloseTo(126 / 25.4, 2)
    const shell = inches.reports.find((r) => r.kind === 'shell')!
    expect(shell.consequence).not.toMatch(/mm\b/)
  })
  it('buffers are handed over once each', () => {
    const buffers = transferables(view(cruet, { fill: 0.5 }))
    expect(buffers.length).toBeGreaterThan(6)
    expect(new Set(buffers).size).toBe(buffers.length)
  })
})
