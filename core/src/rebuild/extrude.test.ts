import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import {
  base,
  block,
  bodiesOf,
  built,
  diagnosis,
  exact,
  piece,
  volume,
} from './exactroute.test-data'

describe('extrude', () => {
  it.each([
    ['along', 0, 20],
    ['against', -20, 0],
    ['alike', -10, 10],
  ])('%s the normal', async (side, low, high) => {
    const p = await exact([base, { ...block, inputs: { ...block.inputs, side } }], 'block')
    expect(p.measure.volume).toBeCloseTo(60 * 40 * 20, 5)
    expect(p.measure.bounds.min[2]).toBeCloseTo(low, 4)
    expect(p.measure.bounds.max[2]).toBeCloseTo(high, 4)
    expect(p.faces.map((f) => f.names[0]).sort()).toEqual([
      'block:end',
      'block:side1',
      'block:side2',
      'block:side3',
      'block:side4',
      'block:start',
    ])
  })
  it('each side by itself, from an offset, by figures and in inches', async () => {
    const inputs = { ...block.inputs, side: 'two', length: 'h', second: '1 in', offset: 5 }
    const p = (
      await bodiesOf([base, { ...block, inputs }], [{ name: 'h', expr: '12 mm', note: '' }])
    ).block!.shape as ExactPart
    expect(p.measure.bounds.min[2]).toBeCloseTo(5 - 25.4, 4)
    expect(p.measure.bounds.max[2]).toBeCloseTo(17, 4)
  })
  it('has holes, and several areas become several parts, which is told', async () => {
    const rings = circles(10, 'rings', 'front', [
      [0, 0, 10],
      [0, 0, 6],
      [30, 0, 4],
    ])
    const w = piece([
      rings,
      op(20, 'extrude', 'tube', { profile: 'rings', mode: 'new', length: 7 }),
    ])
    const { state, reports } = await built(w)
    const p = state.bodies.tube!.shape as ExactPart
    expect(p.measure.volume).toBeCloseTo(Math.PI * (100 - 36 + 16) * 7, 5)
    expect(p.measure.solids).toBe(2)
    expect(reports[1]).toMatchObject({ status: 'warn', diagnoses: [{ code: 'loose-parts' }] })
  })
  it('with draft is a frustum; to both sides its waist lies in the plane', async () => {
    const a = (3 * Math.PI) / 180
    const frustum = (w: number, d: number, h: number) => {
      const [w2, d2] = [w - 2 * h * Math.tan(a), d - 2 * h * Math.tan(a)]
      return (h / 6) * (w * d + w2 * d2 + (w + w2) * (d + d2))
    }
    const leaning = (side: string) =>
      volume([base, { ...block, inputs: { ...block.inputs, side, draft: '3 deg' } }], 'block')
    expect(await leaning('along')).toBeCloseTo(frustum(60, 40, 20), 4)
    expect(await leaning('against')).toBeCloseTo(frustum(60, 40, 20), 4)
    expect(await leaning('alike')).toBeCloseTo(2 * frustum(60, 40, 10), 4)
  })
  it('up to an oblique plane is a truncated prism: area times its height at the middle', async () => {
    const slope = op(15, 'plane', 'slope', {
      how: 'angle',
      from: 'top',
      about: 'upright',
      turn: '20 deg',
    })
    const lifted = op(16, 'plane', 'lid', { how: 'offset', from: 'slope', offset: 40 })
    const p = await exact(
      [
        base,
        slope,
        lifted,
        op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', to: 'plane', plane: 'lid' }),
      ],
      'block',
    )
    const a = (20 * Math.PI) / 180
    // Height over (x, y): the plane is z cos a = 40 -+ x sin a.
    const either = [1, -1].map((s) => 2400 * ((40 + s * 30 * Math.sin(a)) / Math.cos(a)))
    expect(Math.min(...either.map((v) => Math.abs(p.measure.volume - v)))).toBeLessThan(1e-3)
    expect(p.faces.some((f) => f.names.includes('block:cut'))).toBe(true)
  })
  it('joins, cuts right through and meets; what cannot be is said', async () => {
    const hole = circles(30, 'hole', 'top', [[30, 20, 8]])
    const with_ = (mode: string, more: object = {}) => [
      base,
      block,
      hole,
      op(40, 'extrude', 'tool', { profile: 'hole', mode, body: 'block', ...more }),
    ]
    expect(await volume(with_('cut', { to: 'through' }), 'block')).toBeCloseTo(
      48000 - Math.PI * 64 * 20,
      4,
    )
    expect(await volume(with_('join', { length: 30 }), 'block')).toBeCloseTo(
      48000 + Math.PI * 64 * 10,
      4,
    )
    expect(await volume(with_('meet', { length: 5 }), 'block')).toBeCloseTo(Math.PI * 64 * 5, 4)
    expect(await diagnosis(with_('cut', { to: 'through', side: 'against' }))).toMatchObject({
      code: 'misses',
    })
    expect(await diagnosis(with_('cut', { length: 0 }))).toMatchObject({ code: 'not-positive' })
    expect(
      await diagnosis([base, op(20, 'extrude', 'x', { profile: 'none', mode: 'new' })]),
    ).toMatchObject({
      code: 'no-profile',
    })
    expect(await diagnosis([...with_('cut', { side: 'against', length: 5 })])).toMatchObject({
      code: 'no-change',
    })
  })
  it('an open outline says so and offers what the profile offers', async () => {
    const open = outline(10, 'flat', 'top', [
      [0, 0],
      [10, 0],
      [10, 10],
    ])
    const drawing = open.inputs.drawing as { entities: unknown[] }
    drawing.entities.pop()
    const d = await diagnosis([open, block])
    expect(d.code).toBe('open-profile')
    expect(d.fixes.length).toBeGreaterThan(0)
  })
})
