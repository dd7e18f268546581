import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pointAt, tangentAt } from '../curve'
import type { ExactPart } from '../exact'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, exact, piece } from './exactroute.test-data'

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
  it('pressed by a free curve: the room is the round one less all within the wall of what was taken (integral)', async () => {
    const bow = op(30, 'profile', 'side', {
      plane: 'front',
      use: 'flat',
      drawing: {
        points: {
          a: { x: 30, y: 15 },
          b: { x: 18, y: 30 },
          c: { x: 12, y: 50 },
          d: { x: 18, y: 70 },
          e: { x: 30, y: 85 },
        },
        entities: [
          {
            id: 'press',
            kind: 'fit',
            points: ['a', 'b', 'c', 'd', 'e'],
            handles: Array.from({ length: 5 }, () => ({ hold: 'auto' })),
          },
          { id: 'back', kind: 'line', a: 'e', b: 'a' },
        ],
      },
    })
    const bite = op(32, 'extrude', 'bite', { ...box[1]!.inputs, profile: 'side' })
    const route = [...tube, bow, bite]
    const { state } = await built(piece(route))
    const curve = state.profiles.side!.shape.drawn.find((d) => d.curve.kind === 'spline')!.curve
    const whole = state.bodies.tube!.shape as ExactPart
    const thin = await exact([...route, shelled(1)], 'tube')
    // The curve set off by the wall towards the axis, as heights and how far out.
    const edge = Array.from({ length: 4001 }, (_, k) => {
      const [p, t] = [pointAt(curve, k / 4000), tangentAt(curve, k / 4000)]
      const side = t[1] > 0 ? 1 : -1
      return { x: p[0] - side * t[1], z: p[1] + side * t[0] }
    }).sort((a, b) => a.z - b.z)
    const beyond = (x: number) => 361 * Math.acos(x / 19) - x * Math.sqrt(361 - x * x)
    let cut = 0
    for (const [k, b] of edge.entries()) {
      const a = edge[k - 1]
      const x = a ? (a.x + b.x) / 2 : 99
      if (a && x < 19) cut += beyond(x) * (b.z - a.z)
    }
    const room = Math.PI * 361 * 100 - cut
    expect((whole.measure.volume - thin.measure.volume) / room).toBeCloseTo(1, 5)
  })
  it('property: where an edge outside is rounded by more than the wall it is thinner over the ridge inside, and told by how much (closed form)', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.double({ min: 10, max: 16, noNaN: true }),
        fc.double({ min: 1, max: 2.5, noNaN: true }),
        fc.double({ min: 0.4, max: 0.9, noNaN: true }),
        async (flat, r, wall) => {
          // A flat square to x meets the skin in two upright lines.
          const route = [
            ...tube,
            rectangle(30, 'side', 'front', [flat, 30], [20, 30]),
            box[1]!,
            op(40, 'fillet', 'soft', {
              body: 'tube',
              edges: [],
              round: [{ face: 'bite:side4' }],
              radius: r,
            }),
          ]
          const before = await exact(route, 'tube')
          const { reports } = await built(piece([...route, shelled(wall)]))
          const report = reports[reports.length - 1]!
          expect(before.measure.closed).toBe(true)
          // In plan: the round touches the flat and the skin; the ridge is where both, set off, meet.
          const [x, u] = [flat - r, flat - wall]
          const centre = [x, Math.sqrt((20 - r) ** 2 - x * x)]
          const ridge = [u, Math.sqrt((20 - wall) ** 2 - u * u)]
          const least = r - Math.hypot(centre[0]! - ridge[0]!, centre[1]! - ridge[1]!)
          if (least < wall - 2e-3) {
            expect(report.diagnoses.map((d) => d.code)).toEqual(['thin-wall'])
            const measured = /measures? ([\d.]+)/.exec(report.diagnoses[0]!.message)
            expect(Math.abs(Number(measured![1]) - least)).toBeLessThan(2e-3)
          } else expect(report.diagnoses).toEqual([])
          // Under half of what was asked it is no wall: refused, with its figure.
          if (Math.abs(least - wall / 2) > 2e-3)
            expect(report.status).toBe(
              least < wall / 2 ? 'fail' : least < wall - 2e-3 ? 'warn' : 'ok',
            )
          if (report.status === 'fail') return
          const told = /wall ([\d.]+)/.exec(report.consequence)
          expect(Math.abs(Number(told![1]) - Math.min(least, wall))).toBeLessThan(6e-3)
        },
      ),
      { numRuns: 1, examples: [[10, 1.7, 0.4]] },
    )
  })
})
