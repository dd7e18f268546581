import { beforeAll, describe, expect, test } from 'vitest'
import { outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece, the } from './exactroute.test-data'

beforeAll(the)

const cage = (more: object = {}) =>
  op(20, 'cage', 'cage', {
    start: { kind: 'turned', profile: 'side', columns: 24, bands: 10, ...more },
    edits: [],
    within: 0.01,
    mode: 'new',
  })
const drawn = (entities: object[], points: Record<string, [number, number]>) =>
  op(10, 'profile', 'side', {
    plane: 'front',
    use: 'open',
    drawing: {
      points: Object.fromEntries(Object.entries(points).map(([k, [x, y]]) => [k, { x, y }])),
      entities,
    },
  })

describe('a cage that begins as an outline turned', () => {
  test('a straight side, from either end: a tube through it', async () => {
    const places: [number, number][] = [
      [30, 5],
      [22, 65],
    ]
    for (const side of [places, [...places].reverse()]) {
      const part = await exact([outline(10, 'side', 'front', side, false), cage()], 'cage')
      // A frustum: pi h (R² + R r + r²) / 3; a ring of 24 cubic curves is rounder than 1e-4.
      const volume = (Math.PI * 60 * (30 ** 2 + 30 * 22 + 22 ** 2)) / 3
      expect(Math.abs(part.measure.volume / volume - 1)).toBeLessThan(2e-4)
      expect(part.measure.bounds.min[2]).toBeCloseTo(5, 6)
      expect(part.faces.filter((f) => f.kind === 'plane')).toHaveLength(2)
    }
  })
  test('a cup with a flat foot and a corner: creased there, the foot one flat face', async () => {
    const side = outline(
      10,
      'side',
      'front',
      [
        [0, 0],
        [24, 0],
        [36, 40],
        [36, 70],
      ],
      false,
    )
    const part = await exact([side, cage({ bands: 7 })], 'cage')
    const frustum = (Math.PI * 40 * (24 ** 2 + 24 * 36 + 36 ** 2)) / 3
    expect(Math.abs(part.measure.volume / (frustum + Math.PI * 36 ** 2 * 30) - 1)).toBeLessThan(
      1e-3,
    )
    expect(part.faces.some((f) => f.names.includes('cage:floor') && f.kind === 'plane')).toBe(true)
  })
  test('a quarter of a circle into the axis: near half a ball, nearer with more bands', async () => {
    const quarter = drawn([{ id: 'bow', kind: 'arc', a: 'a', via: 'm', b: 'b' }], {
      a: [40, 0],
      m: [32, 24],
      b: [0, 40],
    })
    const off: number[] = []
    for (const bands of [5, 10]) {
      const part = await exact([quarter, cage({ bands })], 'cage')
      off.push(Math.abs(part.measure.volume / ((2 / 3) * Math.PI * 40 ** 3) - 1))
      expect(part.measure.closed).toBe(true)
    }
    expect(off[1]).toBeLessThan(off[0]! / 2)
    expect(off[1]).toBeLessThan(2e-3)
  })
  test('told: no profile, a closed one aside, one across the axis, pieces apart', async () => {
    const told = async (places: [number, number][], closed = false) =>
      (await diagnosis([outline(10, 'side', 'front', places, closed), cage()])).code
    expect((await diagnosis([cage({ profile: 'gone' })])).code).toBe('no-profile')
    expect(
      await told(
        [
          [20, 0],
          [30, 0],
          [30, 20],
          [20, 20],
        ],
        true,
      ),
    ).toBe('no-chain')
    expect(
      await told([
        [20, 0],
        [-5, 30],
      ]),
    ).toBe('left-of-axis')
    const apart = drawn(
      [
        { id: 'l1', kind: 'line', a: 'a', b: 'b' },
        { id: 'l2', kind: 'line', a: 'c', b: 'd' },
      ],
      { a: [20, 0], b: [25, 20], c: [25, 30], d: [20, 50] },
    )
    expect((await diagnosis([apart, cage()])).code).toBe('no-chain')
  })
  test('it follows its drawing', async () => {
    const heights = [40, 55]
    const at = async (h: number) => {
      const side: [number, number][] = [
        [30, 0],
        [30, h],
      ]
      const { state } = await built(piece([outline(10, 'side', 'front', side, false), cage()]))
      return state.bodies.cage!.shape
    }
    for (const h of heights) {
      const shape = await at(h)
      if (shape.kind === 'turned') throw new Error('not exact')
      expect(shape.measure.bounds.max[2]).toBeCloseTo(h, 6)
    }
  })
})
