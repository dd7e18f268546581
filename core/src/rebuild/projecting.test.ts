import { describe, expect, it } from 'vitest'
import { boundsOf, lengthOf } from '../curve'
import type { Drawing } from '../profile'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, built, piece, the, volume } from './exactroute.test-data'
import { reshape } from './reshape'
import { inPlace, workedOut } from './solids'

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

describe('sections of bodies on the plane of a drawing', () => {
  const slice = op(30, 'plane', 'slice', { from: 'front', offset: -15 })
  async function sectioned(route: Op[], plane: string, of: string) {
    const result = await built(piece([...route, sketch(plane)]))
    const run = inPlace(piece(route), the)
    const made = await workedOut(
      () => reshape(result, 'sketch', { do: 'section', of }),
      run,
      result.exact,
    )
    if (!made.ok) throw new Error(made.diagnosis.message)
    return made.value
  }
  const boxes = async (route: Op[], plane: string, drawing: Drawing) => {
    const { state, reports } = await built(piece([...route, sketch(plane, drawing)]))
    const { drawn } = state.profiles.sketch!.shape
    return { drawn, report: reports.at(-1)! }
  }
  it('of a drilled block through the hole: two rectangles, which follow it', async () => {
    const route = [base, block, ...bore, slice]
    const drawing = await sectioned(route, 'slice', 'block')
    expect(drawing.entities).toHaveLength(8)
    expect(drawing.entities.every((e) => e.construction)).toBe(true)
    const { drawn } = await boxes(route, 'slice', drawing)
    expect(drawn.every((d) => d.curve.kind === 'line')).toBe(true)
    // Through the middle of the hole of 12 across, 20 high.
    expect(drawn.reduce((sum, d) => sum + lengthOf(d.curve), 0)).toBeCloseTo(2 * 48 + 4 * 20, 6)
    const wide = route.map((o) => (o.id === 'bore' ? circles(22, 'bore', 'top', [[20, 15, 9]]) : o))
    const wider = await boxes(wide, 'slice', drawing)
    expect(wider.report.status).not.toBe('fail')
    expect(wider.drawn.reduce((sum, d) => sum + lengthOf(d.curve), 0)).toBeCloseTo(
      2 * 42 + 4 * 20,
      6,
    )
  })
  it('of a round bar across it; a plane that misses is said', async () => {
    const puck = [
      circles(10, 'disc', 'top', [[0, 0, 10]]),
      op(20, 'extrude', 'puck', { profile: 'disc', mode: 'new', length: 30 }),
    ]
    const across = op(30, 'plane', 'across', { from: 'top', offset: 15 })
    const drawing = await sectioned([...puck, across], 'across', 'puck')
    const { drawn } = await boxes([...puck, across], 'across', drawing)
    // A circle of radius 10, in one piece or more.
    expect(drawn.reduce((sum, d) => sum + lengthOf(d.curve), 0)).toBeCloseTo(20 * Math.PI, 6)
    await expect(sectioned(puck, 'top', 'puck')).rejects.toThrow(/does not go through/)
    const far = { ...across, inputs: { from: 'top', offset: 50 } }
    const lost = await boxes([...puck, far], 'across', drawing)
    expect(lost.report.diagnoses.map((d) => d.message).join()).toMatch(/does not go through/)
  })
})
