import { describe, expect, it } from 'vitest'
import { norm3, type P3, sub3 } from '../math'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, face, piece, volume } from './exactroute.test-data'

/** A quarter of a circle of radius 100 that starts upwards from the origin. */
const bow = (id = 'way'): Op =>
  op(30, 'path', id, {
    how: 'stops',
    stops: [
      { x: 0, y: 0, z: 0, by: 'line' },
      { x: 100 - 50 * Math.SQRT2, y: 0, z: 50 * Math.SQRT2, by: 'over' },
      { x: 100, y: 0, z: 100, by: 'line' },
    ],
  })
/** A plane square to the end of that, and one square to its middle. */
const planes = [op(31, 'plane', 'atend', { how: 'offset', from: 'side', offset: 100 })]
const rings = (r0: number, r1: number) => [
  circles(10, 'low', 'top', [[0, 0, r0]]),
  {
    ...circles(32, 'high', 'top', [[0, 100, r1]]),
    inputs: { ...circles(32, 'high', 'atend', [[0, 100, r1]]).inputs },
  },
]
const loft = (more: object = {}, ids = ['low', 'high']): Op =>
  op(90, 'loft', 'neck', {
    sections: ids.map((profile) => ({ profile })),
    mode: 'new',
    ...more,
  })

describe('a loft along a centre line', () => {
  it('of two equal circles square to an arc: a piece of a ring; without it a straight cut across', async () => {
    const [low, high] = rings(8, 8)
    const route = [low!, bow(), ...planes, high!]
    const along = await volume([...route, loft({ centre: 'way' })], 'neck')
    // Pappus: area times the way of its middle.
    expect(along / (Math.PI * 64 * (Math.PI / 2) * 100)).toBeCloseTo(1, 6)
    expect(await volume([...route, loft()], 'neck')).toBeLessThan(0.95 * along)
  })
  it('from one size to another evenly: a cone bent along the arc', async () => {
    const [low, high] = rings(10, 4)
    const v = await volume([low!, bow(), ...planes, high!, loft({ centre: 'way' })], 'neck')
    // The section's middle stays on the arc: the mean of the areas times the way.
    const mean = (Math.PI * (100 + 40 + 16)) / 3
    expect(v / (mean * (Math.PI / 2) * 100)).toBeCloseTo(1, 5)
  })
  it('drawn the other way round it is the same; a straight one changes nothing', async () => {
    const [low, high] = rings(10, 4)
    const route = [low!, bow(), ...planes, high!]
    const one = await volume([...route, loft({ centre: 'way' })], 'neck')
    const turned = op(34, 'path', 'back', {
      how: 'stops',
      stops: [
        { x: 100, y: 0, z: 100, by: 'line' },
        { x: 100 - 50 * Math.SQRT2, y: 0, z: 50 * Math.SQRT2, by: 'over' },
        { x: 0, y: 0, z: 0, by: 'line' },
      ],
    })
    const other = await volume([...route, turned, loft({ centre: 'back' })], 'neck')
    expect(other / one).toBeCloseTo(1, 6)
    const square = rectangle(10, 'a', 'top', [-10, -6], [20, 12])
    const up = op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 60 })
    const small = rectangle(14, 'b', 'up', [-5, -3], [10, 6])
    const line = op(16, 'path', 'way', {
      how: 'stops',
      stops: [
        { x: 0, y: 0, z: -10, by: 'line' },
        { x: 0, y: 0, z: 90, by: 'line' },
      ],
    })
    const frustum = await volume(
      [square, up, small, line, loft({ centre: 'way' }, ['a', 'b'])],
      'neck',
    )
    expect(frustum).toBeCloseTo((60 / 3) * (240 + 120 + 60), 5)
  })
  it('through three tilted sections: every one is met, and the skin is smooth across the middle', async () => {
    const [low, high] = rings(10, 7)
    const tilt = op(33, 'plane', 'mid', {
      how: 'three',
      p1: { x: 100 - 50 * Math.SQRT2, y: 0, z: 50 * Math.SQRT2 },
      p2: { x: 100 - 50 * Math.SQRT2, y: 10, z: 50 * Math.SQRT2 },
      p3: { x: 100 - 60 * Math.SQRT2, y: 0, z: 60 * Math.SQRT2 },
    })
    const oval = circles(34, 'oval', 'mid', [[0, 0, 6]])
    const route = [low!, bow(), ...planes, high!, tilt, oval]
    const { reports, state } = await built(
      piece([...route, loft({ centre: 'way' }, ['low', 'oval', 'high'])]),
    )
    expect([reports.at(-1)!.status, reports.at(-1)!.diagnoses[0]?.message ?? '']).toEqual([
      'ok',
      '',
    ])
    const { shape } = state.bodies.neck!
    if (shape.kind !== 'exact') throw new Error('not exact')
    // The waist is there: triangles come as near to the middle of the arc as the small circle is wide.
    const middle: P3 = [100 - 50 * Math.SQRT2, 0, 50 * Math.SQRT2]
    const { positions } = shape.mesh
    let near = Number.POSITIVE_INFINITY
    for (let i = 0; i < positions.length; i += 3)
      near = Math.min(
        near,
        norm3(sub3([positions[i]!, positions[i + 1]!, positions[i + 2]!], middle)),
      )
    expect(near).toBeGreaterThan(5.9)
    expect(near).toBeLessThan(6.3)
  })
  it('through an S of two arcs, whose bend jumps: faces end there, the mean area times the way, and it can be hollowed', async () => {
    // Up, over to the right by a radius of 50 and back up by 35, 60 degrees each.
    const [c, s] = [0.5, Math.sqrt(0.75)]
    const [c2, s2] = [Math.sqrt(0.75), 0.5]
    const joint: P3 = [50 - 50 * c, 0, 50 * s]
    const centre: P3 = [joint[0] - 35 * c, 0, joint[2] + 35 * s]
    const end: P3 = [centre[0] + 35, 0, centre[2]]
    const way = op(30, 'path', 'way', {
      how: 'stops',
      stops: [
        [0, 0, 0, 'line'],
        [50 - 50 * c2, 0, 50 * s2, 'over'],
        [...joint, 'line'],
        [centre[0] + 35 * c2, 0, centre[2] - 35 * s2, 'over'],
        [...end, 'line'],
      ].map(([x, y, z, by]) => ({ x, y, z, by })),
    })
    const route = [
      circles(10, 'low', 'top', [[0, 0, 12]]),
      way,
      op(31, 'plane', 'up', { how: 'offset', from: 'top', offset: end[2] }),
      circles(32, 'high', 'up', [[end[0], 0, 7]]),
      loft({ centre: 'way' }),
    ]
    const p = await exact(route, 'neck')
    const length = (Math.PI / 3) * 85
    expect(p.measure.volume / ((Math.PI / 3) * (144 + 84 + 49) * length)).toBeCloseTo(1, 6)
    expect(p.faces.filter((f) => f.kind === 'free')).toHaveLength(2)
    const ends = ['neck:start', 'neck:end'].map((name) => face(p, name))
    const thin = await exact(
      [...route, op(95, 'shell', 'thin', { body: 'neck', wall: 1, open: ends, side: 'in' })],
      'neck',
    )
    // About a wall square to the skin: the ring between both radii, all along.
    const rings = Math.PI * (2 * (12 + 7) * 0.5 * 1 - 1) * length
    expect(thin.measure.volume / rings).toBeCloseTo(1, 2)
  })
  it('refused with the place: a kink, one that stops short, sections in another order', async () => {
    const [low, high] = rings(8, 8)
    const kinked = op(30, 'path', 'way', {
      how: 'stops',
      stops: [
        { x: 0, y: 0, z: 0, by: 'line' },
        { x: 0, y: 0, z: 100, by: 'line' },
        { x: 100, y: 0, z: 100, by: 'line' },
      ],
    })
    const no = await diagnosis([low!, kinked, ...planes, high!, loft({ centre: 'way' })])
    expect([no.code, no.places[0]!.at]).toEqual(['kink', [0, 0, 100]])
    const beside = op(30, 'path', 'way', {
      how: 'stops',
      stops: [
        { x: 200, y: 0, z: 0, by: 'line' },
        { x: 300, y: 0, z: 0, by: 'line' },
      ],
    })
    expect((await diagnosis([low!, beside, ...planes, high!, loft({ centre: 'way' })])).code).toBe(
      'doubles-back',
    )
  })
})

describe('what a loft shows on the Stage', () => {
  const shownOf = async (route: Op[]) => (await built(piece(route))).reports.at(-1)!
  const square = rectangle(10, 'a', 'top', [-10, -10], [20, 20])
  const up = op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 60 })
  const top = rectangle(14, 'b', 'up', [-5, -5], [10, 10])
  it('corner to corner, also where it is refused for a twist; turned on by a corner', async () => {
    const { shown } = await shownOf([square, up, top, loft({}, ['a', 'b'])])
    expect(shown!.threads).toHaveLength(4)
    expect(shown!.corners).toBe(true)
    for (const [p, q] of shown!.threads! as [P3, P3][])
      expect([Math.sign(p[0]), Math.sign(p[1])]).toEqual([Math.sign(q[0]), Math.sign(q[1])])
    const twisted = op(90, 'loft', 'neck', {
      sections: [{ profile: 'a' }, { profile: 'b', shift: 2 }],
      mode: 'new',
    })
    const no = await shownOf([square, up, top, twisted])
    expect(no.status).toBe('fail')
    for (const [p, q] of no.shown!.threads! as [P3, P3][])
      expect([Math.sign(p[0]), Math.sign(p[1])]).toEqual([-Math.sign(q[0]), -Math.sign(q[1])])
  })
  it('where rails touch, and where the next would help: in the waist of a wasp', async () => {
    const levels = [20, 8, 20].flatMap((r, k) => [
      op(10 + 3 * k, 'plane', `l${k}`, { how: 'offset', from: 'top', offset: 30 * k }),
      circles(11 + 3 * k, `c${k}`, `l${k}`, [[0, 0, r]]),
    ])
    const { shown } = await shownOf([...levels, loft({}, ['c0', 'c1', 'c2'])])
    expect(shown!.corners).toBe(false)
    expect(shown!.next!.at[2]).toBeGreaterThan(20)
    expect(shown!.next!.at[2]).toBeLessThan(40)
    expect(shown!.next!.places).toHaveLength(3)
    for (const [k, p] of shown!.next!.places.entries())
      expect([Math.hypot(p[0], p[1]), p[2]].map((x) => Math.round(x * 1e4) / 1e4)).toEqual([
        [20, 8, 20][k],
        30 * k,
      ])
    const rail = op(40, 'path', 'rail', {
      how: 'stops',
      stops: shown!.next!.places.map(([x, y, z]) => ({ x, y, z, by: 'spline' })),
    })
    const led = await shownOf([...levels, rail, loft({ rails: ['rail'] }, ['c0', 'c1', 'c2'])])
    expect([led.status, led.shown!.touches!.length]).toEqual(['ok', 3])
    for (const t of led.shown!.touches!) expect(t.gap).toBeLessThan(1e-4)
    const p = await exact([...levels, loft({}, ['c0', 'c2'])], 'neck')
    expect(p.measure.solids).toBe(1)
  })
})
