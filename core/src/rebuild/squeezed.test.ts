import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { exact } from './exactroute.test-data'

/** A round tube of 20 all the way, 100 high, as a loft makes it. */
const tube: Op[] = [
  circles(10, 'low', 'top', [[0, 0, 20]]),
  op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 100 }),
  circles(14, 'high', 'up', [[0, 0, 20]]),
  op(20, 'loft', 'tube', { sections: [{ profile: 'low' }, { profile: 'high' }], mode: 'new' }),
]
/** A box taken from its side: x from 12 on, between the heights 30 and 60. */
const box: Op[] = [
  rectangle(30, 'side', 'front', [12, 30], [20, 30]),
  op(32, 'extrude', 'bite', {
    profile: 'side',
    mode: 'cut',
    body: 'tube',
    length: 100,
    side: 'alike',
  }),
]
/** Pressed by a round from each side, one after the other. */
const waist: Op[] = [
  circles(30, 'right', 'front', [[33, 48, 24]]),
  op(32, 'extrude', 'one', {
    profile: 'right',
    mode: 'cut',
    body: 'tube',
    length: 100,
    side: 'alike',
  }),
  circles(34, 'left', 'front', [[-35, 54, 25]]),
  op(36, 'extrude', 'two', {
    profile: 'left',
    mode: 'cut',
    body: 'tube',
    length: 100,
    side: 'alike',
  }),
]
const shelled = (wall: number): Op =>
  op(90, 'shell', 'thin', {
    body: 'tube',
    wall,
    open: [{ face: 'tube:start' }, { face: 'tube:end' }],
    side: 'in',
  })

describe('a tube that was squeezed is hollowed all the same', () => {
  it('cut flat: the room is the round one less the box grown by the wall, its edges rounded (integral)', async () => {
    const route = [...tube, ...box]
    const whole = await exact(route, 'tube')
    const thin = await exact([...route, shelled(1)], 'tube')
    const r = 19
    /** Of the round room, what lies beyond x. */
    const beyond = (x: number) => r * r * Math.acos(x / r) - x * Math.sqrt(r * r - x * x)
    let cut = 0
    const n = 20_000
    for (let k = 0; k < n; k++) {
      const z = 29 + (32 * (k + 0.5)) / n
      const out = Math.max(30 - z, z - 60, 0)
      cut += (beyond(12 - Math.sqrt(1 - out * out)) * 32) / n
    }
    const room = Math.PI * r * r * 100 - cut
    expect((whole.measure.volume - thin.measure.volume) / room).toBeCloseTo(1, 5)
  })
  it('pressed by a round from each side', async () => {
    const route = [...tube, ...waist]
    const thin = await exact([...route, shelled(0.6)], 'tube')
    const whole = await exact(route, 'tube')
    // A thin wall: about the area of its sides times 0.6.
    const sides = whole.faces.filter((f) => f.kind !== 'plane').reduce((s, f) => s + f.area, 0)
    expect(thin.measure.volume / (0.6 * sides)).toBeGreaterThan(0.93)
    expect(thin.measure.volume / (0.6 * sides)).toBeLessThan(1.02)
    expect(thin.measure.solids).toBe(1)
  })
})
