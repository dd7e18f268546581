import { describe, expect, it } from 'vitest'
import { readOverhang } from '../gauges'
import { grid } from '../gauges/skin.test-data'
import type { P3 } from '../math'
import { outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { gauged } from './exactroute.test-data'

const UP: P3 = [0, 0, 1]
const ball = (radius: number) =>
  grid(
    180,
    180,
    (u, v) => {
      const [a, b] = [2 * Math.PI * u, Math.PI * (v - 0.5)]
      return [
        radius * Math.cos(b) * Math.cos(a),
        radius * Math.cos(b) * Math.sin(a),
        radius * Math.sin(b),
      ]
    },
    (u, v) => {
      const [a, b] = [2 * Math.PI * u, Math.PI * (v - 0.5)]
      return [Math.cos(b) * Math.cos(a), Math.cos(b) * Math.sin(a), Math.sin(b)]
    },
  )
/** An upright plate of this outline in x and z, 20 deep, read for what overhangs. */
const plate = async (places: [number, number][], params: Record<string, number> = {}) => {
  const route = [
    outline(10, 'line', 'front', places),
    op(20, 'extrude', 'plate', { profile: 'line', mode: 'new', length: 20 }),
  ]
  const [g] = await gauged(route, [{ kind: 'overhang', body: 'plate', params }])
  const rows = Object.fromEntries(g!.reading!.rows.map((r) => [r.label, r]))
  const [b] = await gauged(route, [
    { kind: 'bridge', body: 'plate', params: params.up ? { up: params.up } : {} },
  ])
  const bridge = b!.reading!
  return { value: g!.reading!.low, rows, places: g!.reading!.places, bridge }
}

describe('overhang', () => {
  it('of a ball: the cap below the angle, by Archimedes 2 π R² (1 - sin α), whatever the angle', () => {
    for (const asked of [20, 45, 70]) {
      const { area, foot, starts } = readOverhang(ball(30), UP, asked)
      const cap = 2 * Math.PI * 900 * (1 - Math.sin((asked * Math.PI) / 180))
      expect(area / cap).toBeCloseTo(1, 2)
      // It touches the bed in a place, and begins there, not in the air.
      expect(foot / cap).toBeLessThan(1e-2)
      expect(starts).toEqual([])
    }
  })
  it('of a block: nothing, all of its foot on the bed; of a wall leaning out by 30°, by what is asked', async () => {
    const block = await plate([
      [0, 0],
      [30, 0],
      [30, 10],
      [0, 10],
    ])
    expect(block.value).toBe(0)
    expect(block.rows['stands on']!.text).toBe('600.0 mm²')
    const lean: [number, number][] = [
      [0, 0],
      [30, 0],
      [30 + 40 * Math.tan(Math.PI / 6), 40],
      [0, 40],
    ]
    expect((await plate(lean)).value).toBe(0)
    const { value, rows } = await plate(lean, { asked: 25 })
    expect(value).toBeCloseTo((40 / Math.cos(Math.PI / 6)) * 20, 2)
    expect(rows['steepest']!.text).toBe('30.0°')
    // Lying on its upright side nothing leans out.
    expect(rows['built along x']!.text).toBe('0.0 mm²')
  })
  it('of a table: its top between legs, half the way from each; an arm held at one side, all of it', async () => {
    const table: [number, number][] = [
      [0, 0],
      [5, 0],
      [5, 30],
      [55, 30],
      [55, 0],
      [60, 0],
      [60, 40],
      [0, 40],
    ]
    const { value, rows, bridge } = await plate(table)
    expect(bridge.high).toBeCloseTo(50, 2)
    expect(bridge.rows[0]!.text).toBe('on both sides')
    expect(value).toBeCloseTo(1000, 2)
    expect(rows['ceiling, from what holds it']!.text).toBe('up to 25.00 mm')
    expect(rows['stands on']!.text).toBe('200.0 mm²')
    const down = await plate(table, { up: -3 })
    expect([down.value, down.rows['ceiling, from what holds it']]).toEqual([0, undefined])
    expect([down.bridge.high, down.bridge.places]).toEqual([0, []])
    const arm = await plate([
      [0, 0],
      [10, 0],
      [10, 30],
      [47, 30],
      [47, 40],
      [0, 40],
    ])
    expect(arm.rows['ceiling, from what holds it']!.text).toBe('up to 37.00 mm')
    expect(arm.rows['begins in the air']!.text).toBe('nothing')
    expect(arm.bridge.high).toBeCloseTo(74, 2)
    expect(arm.bridge.rows[0]!.text).toBe('on one side only: an arm of 37.00 mm')
  })
  it('a tooth and a flat foot that hang from an arm begin in the air, at their places', async () => {
    const { rows, places } = await plate([
      [0, 0],
      [10, 0],
      [10, 30],
      [25, 30],
      [30, 22],
      [35, 30],
      [50, 30],
      [50, 20],
      [60, 20],
      [60, 40],
      [0, 40],
    ])
    expect(rows['begins in the air']!.text).toBe('2 ×')
    const heights = places.filter((p) => p.label === 'begins in the air').map((p) => p.at[2])
    expect(heights.sort()).toEqual([20, 22])
  })
  it('says what it cannot be asked', async () => {
    const route = [
      outline(10, 'line', 'front', [
        [0, 0],
        [9, 0],
        [0, 9],
      ]),
      op(20, 'extrude', 'plate', { profile: 'line', mode: 'new', length: 5 }),
    ]
    const wrong: Record<string, number>[] = [{ up: 0 }, { up: 4 }, { asked: 90 }, { asked: -1 }]
    for (const params of wrong) {
      const [g] = await gauged(route, [{ kind: 'overhang', body: 'plate', params }])
      expect(g!.reading).toBeFalsy()
    }
  })
  it('the crown of a flat arch is laid into the air: 30 wide with a rise of 2, all within about 15 deg of level', async () => {
    const pot = [
      outline(10, 'half', 'front', [
        [0, 0],
        [40, 0],
        [40, 70],
        [0, 70],
      ]),
      op(20, 'revolve', 'pot', { profile: 'half', mode: 'new', angle: 360, start: 0 }),
      op(30, 'shell', 'thin', {
        body: 'pot',
        wall: 1.44,
        open: [{ face: 'pot:side3' }],
        side: 'in',
      }),
      op(40, 'profile', 'arch', {
        plane: 'front',
        use: 'flat',
        drawing: {
          points: { a: { x: -15, y: 24 }, b: { x: 15, y: 24 }, v: { x: 0, y: 26 } },
          entities: [
            { id: 'low', kind: 'line', a: 'a', b: 'b' },
            { id: 'top', kind: 'arc', a: 'b', via: 'v', b: 'a' },
          ],
        },
      }),
      op(50, 'extrude', 'window', { profile: 'arch', mode: 'cut', body: 'pot', length: 100 }),
    ]
    const [g] = await gauged(pot, [{ kind: 'bridge', body: 'pot', params: { up: 3 } }])
    // Radius (15² + 2²) / 4 = 57.25: within 15 deg of level 2 x 57.25 sin 15 = 29.6 of its 30.
    expect(g!.reading!.high).toBeGreaterThan(27)
    expect(g!.reading!.high).toBeLessThan(31)
  })
})
