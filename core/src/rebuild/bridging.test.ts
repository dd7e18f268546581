import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { bodiesOf, exact, face, gauged } from './exactroute.test-data'

/** Two round bars end to end with 30 between them, the second beside the first by so much. */
const bars = (beside: number): Op[] => [
  circles(10, 'a', 'side', [[0, 0, 5]]),
  op(12, 'extrude', 'one', { profile: 'a', mode: 'new', length: 20, side: 'against' }),
  op(14, 'plane', 'far', { how: 'offset', from: 'side', offset: 30 }),
  { ...circles(16, 'b', 'far', [[beside, 0, 5]]) },
  op(18, 'extrude', 'two', { profile: 'b', mode: 'new', length: 20 }),
]
const BAR = Math.PI * 25 * 20

describe('blends between the end faces of two bodies', () => {
  it('with their curvature, ends drawn back first, joined, and repeated beside it', async () => {
    const given = bars(6)
    const { one } = await bodiesOf(given)
    if (one!.shape.kind !== 'exact') throw new Error('not exact')
    const back = op(20, 'offset', 'back', {
      body: 'one',
      faces: [face(one!.shape, 'one:end')],
      distance: 4,
      way: 'in',
    })
    const drawn = await exact([...given, back], 'one')
    const two = await exact(given, 'two')
    expect(1 - drawn.measure.volume / BAR).toBeCloseTo(0.2, 9)
    const neck = op(30, 'loft', 'neck', {
      sections: [
        { body: 'one', face: face(drawn, 'one:end') },
        { body: 'two', face: face(two, 'two:start') },
      ],
      begins: 'bent',
      ends: 'bent',
      mode: 'join',
      body: 'one',
    })
    const join = op(40, 'combine', 'all', { how: 'join', body: 'one', tools: ['two'] })
    const route = [...given, back, neck, join]
    const [g] = await gauged(route, [{ kind: 'seams', body: 'one' }])
    expect([g!.why, g!.reading?.text]).toEqual(['', 'G2'])
    const joined = await exact(route, 'one')
    expect(joined.measure.solids).toBe(1)
    // The neck goes all the way between them, to the side by 6.
    expect(joined.measure.volume).toBeGreaterThan(2 * BAR + Math.PI * 25 * 24)
    const row = op(50, 'pattern', 'row', {
      body: 'one',
      how: 'row',
      along: 'y',
      count: 3,
      space: 'gap',
      gap: 0,
    })
    const all = await exact([...route, row], 'one')
    expect(all.measure.volume / joined.measure.volume).toBeCloseTo(3, 4)
  })
})
