import { describe, expect, it } from 'vitest'
import { boundsOf, lengthOf } from '../curve'
import type { Drawing } from '../profile'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, built, piece, volume } from './exactroute.test-data'
import { reshape } from './reshape'

const bore = [
  circles(22, 'bore', 'top', [[20, 15, 6]]),
  op(24, 'extrude', 'drill', { profile: 'bore', mode: 'cut', body: 'block', to: 'through' }),
]
const sketch = (plane: string, drawing: Drawing = { points: {}, entities: [] }) =>
  op(40, 'profile', 'sketch', { plane, use: 'open', drawing })
/** The edges of the block as they are projected onto a plane. */
async function projected(route: Op[], plane: string): Promise<Drawing> {
  const result = await built(piece([...route, sketch(plane)]))
  const made = reshape(result, 'sketch', { do: 'project', from: { body: 'block' } })
  if (!made.ok) throw new Error(made.diagnosis.message)
  return made.value
}

describe('edges of bodies that are not turned, projected', () => {
  it('from above: the outline once, and the hole as a circle', async () => {
    const drawing = await projected([base, block, ...bore], 'top')
    expect(drawing.entities.map((e) => e.kind).sort()).toEqual([
      'circle',
      'line',
      'line',
      'line',
      'line',
    ])
    expect(drawing.entities.every((e) => e.construction)).toBe(true)
    const { state } = await built(piece([base, block, ...bore, sketch('top', drawing)]))
    const ring = state.profiles.sketch!.shape.drawn.find((d) => d.curve.kind === 'arc')!
    if (ring.curve.kind !== 'arc') throw new Error('no circle')
    expect(ring.curve.c[0]).toBeCloseTo(20, 9)
    expect(ring.curve.c[1]).toBeCloseTo(15, 9)
    expect(lengthOf(ring.curve)).toBeCloseTo(12 * Math.PI, 9)
  })
  it('from the front: straight edges at their height; a circle seen from the side is a line of its width', async () => {
    const drawing = await projected([base, block, ...bore], 'front')
    const { state } = await built(piece([base, block, ...bore, sketch('front', drawing)]))
    const boxes = state.profiles.sketch!.shape.drawn.map((d) => boundsOf(d.curve))
    expect(Math.max(...boxes.map((b) => b.max[0]))).toBeCloseTo(60, 6)
    expect(Math.max(...boxes.map((b) => b.max[1]))).toBeCloseTo(20, 6)
    expect(
      boxes.some((b) => Math.abs(b.min[0] - 14) < 1e-3 && Math.abs(b.max[0] - 26) < 1e-3),
    ).toBe(true)
  })
  it('follow the body: what is drawn on the hole goes with it', async () => {
    const drawing = await projected([base, block, ...bore], 'top')
    // The aid becomes a drawn circle: a plug of the hole's size.
    const plug = {
      ...drawing,
      entities: drawing.entities.map((e) =>
        e.kind === 'circle' ? { ...e, construction: false } : e,
      ),
    }
    const route = (radius: number, x: number) => [
      base,
      block,
      circles(22, 'bore', 'top', [[x, 15, radius]]),
      bore[1]!,
      sketch('top', plug),
      op(50, 'extrude', 'plug', { profile: 'sketch', mode: 'new', length: 5 }),
    ]
    expect(await volume(route(6, 20), 'plug')).toBeCloseTo(Math.PI * 36 * 5, 4)
    expect(await volume(route(4, 31), 'plug')).toBeCloseTo(Math.PI * 16 * 5, 4)
  })
  it('says so when the edge is gone', async () => {
    const drawing = await projected([base, block, ...bore], 'top')
    const { reports } = await built(piece([base, block, sketch('top', drawing)]))
    expect(
      reports
        .at(-1)!
        .diagnoses.map((d) => d.message)
        .join(),
    ).toMatch(/edge it is projected from is gone/)
  })
})
