import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, face, piece } from './exactroute.test-data'

const level = (number: number, id: string, z: number): Op =>
  op(number, 'plane', id, { how: 'offset', from: 'top', offset: z })
/** A slit with round ends: two straight sides `length` long, `radius` to each side of the middle. */
const slit = (number: number, id: string, plane: string, length: number, radius: number): Op => {
  const [x, r] = [length / 2, radius]
  return op(number, 'profile', id, {
    plane,
    use: 'flat',
    drawing: {
      points: {
        a: { x: -x, y: -r },
        b: { x, y: -r },
        m: { x: x + r, y: 0 },
        c: { x, y: r },
        d: { x: -x, y: r },
        k: { x: -x - r, y: 0 },
      },
      entities: [
        { id: 's1', kind: 'line', a: 'a', b: 'b' },
        { id: 's2', kind: 'arc', a: 'b', via: 'm', b: 'c' },
        { id: 's3', kind: 'line', a: 'c', b: 'd' },
        { id: 's4', kind: 'arc', a: 'd', via: 'k', b: 'a' },
      ],
    },
  })
}
const loft = (ids: string[], more: object = {}): Op =>
  op(90, 'loft', 'skin', { sections: ids.map((profile) => ({ profile })), mode: 'new', ...more })
const shell = async (route: Op[], wall: number, open: string[]): Promise<Op[]> => {
  const whole = await exact(route, 'skin')
  return [
    ...route,
    op(100, 'shell', 'hollow', { body: 'skin', wall, open: open.map((n) => face(whole, n)) }),
  ]
}
const tube = (first: Op, more: object = {}): Op[] => [
  first,
  level(20, 'up', 190),
  circles(30, 'b', 'up', [[0, 0, 22]]),
  loft(['a', 'b'], more),
]

describe('walls behind lofts', () => {
  it('a cone, open above and closed below: by closed form', async () => {
    const route = [
      circles(10, 'a', 'top', [[0, 0, 20]]),
      level(20, 'up', 60),
      circles(30, 'b', 'up', [[0, 0, 30]]),
      loft(['a', 'b'], { run: 'ruled' }),
    ]
    const p = await exact(await shell(route, 2, ['skin:end']), 'skin')
    // Inside, the radius is less by wall / cos of the lean, measured level.
    const less = 2 * Math.hypot(1, 10 / 60)
    const r = (z: number) => 20 + z / 6 - less
    const inside = (Math.PI / 3) * 58 * (r(2) ** 2 + r(2) * r(60) + r(60) ** 2)
    const outside = (Math.PI / 3) * 60 * (400 + 600 + 900)
    expect(p.measure.volume).toBeCloseTo(outside - inside, 1)
    expect(p.faces.map((f) => f.names[0])).toContain('skin:end')
  })
  for (const [name, first, run] of [
    ['a slit with round ends', slit(10, 'a', 'top', 61, 1.5), 'smooth'],
    ['a rectangle', rectangle(10, 'a', 'top', [-32, -1.5], [64, 3]), 'ruled'],
  ] as const)
    it(`${name} to a circle, run ${run}: hollowed to 0.6 all through, measured`, async () => {
      const route = await shell(tube(first, { run }), 0.6, ['skin:start', 'skin:end'])
      const { reports, state } = await built(piece(route))
      const last = reports.at(-1)!
      expect([last.status, last.diagnoses[0]?.message ?? '']).toEqual(['ok', ''])
      const body = state.bodies.skin!.shape
      if (body.kind !== 'exact') throw new Error('not exact')
      const whole = await exact(tube(first, { run }), 'skin')
      const ends = whole.faces.filter((f) => f.kind === 'plane')
      const skin = whole.measure.area - ends.reduce((sum, f) => sum + f.area, 0)
      // Less than wall x skin by what its bends take, and that is little for so thin a wall.
      expect(body.measure.volume / (0.6 * skin)).toBeGreaterThan(0.97)
      expect(body.measure.volume / (0.6 * skin)).toBeLessThan(1.001)
    })
  it('a chain run straight: a rectangle, to circles that step in, to a straight mouth', async () => {
    const route = [
      rectangle(10, 'a', 'top', [-32, -1.5], [64, 3]),
      ...(
        [
          ['b', 190, 22],
          ['c', 198, 13],
          ['d', 212, 10],
          ['e', 218, 10],
        ] as const
      ).flatMap(([id, z, r], i) => [
        level(20 + 2 * i, `up${id}`, z),
        circles(21 + 2 * i, id, `up${id}`, [[0, 0, r]]),
      ]),
      loft(['a', 'b', 'c', 'd', 'e'], { run: 'ruled' }),
    ]
    const hollow = await exact(await shell(route, 0.6, ['skin:start', 'skin:end']), 'skin')
    const whole = await exact(route, 'skin')
    // What is poured in at the mouth: a ring of 10 and 9.4.
    const mouth = hollow.faces.find((f) => f.names[0] === 'skin:end')!
    expect(mouth.area).toBeCloseTo(Math.PI * (100 - 9.4 ** 2), 3)
    expect(hollow.measure.volume).toBeLessThan(0.12 * whole.measure.volume)
  })
  it('a bar swept along a bent path: less all round', async () => {
    const route = [
      op(10, 'path', 'way', {
        how: 'stops',
        stops: [
          [0, 0, 0],
          [40, 10, 0],
          [70, -10, 30],
          [90, 20, 60],
        ].map(([x, y, z], i) => ({ x, y, z, rel: false, by: i === 0 ? 'line' : 'spline' })),
      }),
      op(20, 'sweep', 'skin', {
        path: 'way',
        section: 'rectangle',
        wide: 12,
        high: 8,
        mode: 'new',
      }),
    ]
    const whole = await exact(route, 'skin')
    const hollow = await exact(await shell(route, 1, ['skin:start', 'skin:end']), 'skin')
    const inner = whole.measure.volume - hollow.measure.volume
    // A section whose middle is on the path sweeps its area along it.
    expect(inner / whole.measure.volume).toBeCloseTo((10 * 6) / (12 * 8), 5)
  })
  it('random lofts: hollow as measured, or refused with a place; never anything else', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          corners: fc.integer({ min: 3, max: 6 }),
          r: fc.array(fc.integer({ min: 12, max: 40 }), { minLength: 2, maxLength: 3 }),
          turn: fc.integer({ min: -20, max: 20 }),
          lean: fc.integer({ min: -10, max: 10 }),
          wall: fc.integer({ min: 1, max: 8 }),
          run: fc.constantFrom('smooth', 'ruled'),
          open: fc.subarray(['skin:start', 'skin:end']),
          round: fc.boolean(),
        }),
        async ({ corners, r, turn, lean, wall, run, open, round }) => {
          const section = (i: number, plane: string): Op => {
            const id = `s${i}`
            const at: [number, number] = [lean * i, 0]
            if (round && i === r.length - 1) return circles(21 + 2 * i, id, plane, [[...at, r[i]!]])
            const points = Array.from({ length: corners }, (_, k) => {
              const w = (2 * Math.PI * k) / corners + (i * turn * Math.PI) / 180
              return [at[0] + r[i]! * Math.cos(w), r[i]! * Math.sin(w)] as [number, number]
            })
            return outline(21 + 2 * i, id, plane, points)
          }
          const route = r.flatMap((_, i) => [
            level(20 + 2 * i, `p${i}`, 40 * i),
            section(i, `p${i}`),
          ])
          route.push(
            loft(
              r.map((_, i) => `s${i}`),
              { run },
            ),
          )
          // What is no loft has no wall.
          if ((await built(piece(route))).reports.at(-1)!.status !== 'ok') return
          const { reports } = await built(piece(await shell(route, wall, open)))
          const last = reports.at(-1)!
          if (last.status === 'ok') return
          expect(['too-tight', 'no-room', 'corner', 'no-shell', 'crosses-itself']).toContain(
            last.diagnoses[0]!.code,
          )
        },
      ),
      { numRuns: Number(process.env.RUNS ?? 5), endOnFailure: true },
    )
  }, 240_000)
  it('turned and seen in a mirror, the wall is the same', async () => {
    const first = rectangle(10, 'a', 'top', [-32, -1.5], [64, 3])
    const route = tube(first, { run: 'ruled' })
    const plain = await exact(await shell(route, 0.6, ['skin:start', 'skin:end']), 'skin')
    const ends = ['over:mirror(skin:start)', 'over:mirror(skin:end)']
    const by = async (...ops: Op[]) => exact(await shell([...route, ...ops], 0.6, ends), 'skin')
    const lean = op(91, 'axis', 'lean', {
      how: 'points',
      p1: { x: 3, y: 0, z: 0 },
      p2: { x: 1, y: 4, z: 2 },
    })
    const turned = await by(
      lean,
      op(92, 'move', 'tilt', { body: 'skin', how: 'turn', axis: 'lean', turn: '37 deg' }),
      op(93, 'mirror', 'over', { body: 'skin', plane: 'side', keep: 'only' }),
    )
    expect(turned.measure.volume / plain.measure.volume).toBeCloseTo(1, 6)
    expect(turned.faces.length).toBe(plain.faces.length)
  })
  it('refuses by curvature, with the place, before anything is tried', async () => {
    const route = await shell(tube(slit(10, 'a', 'top', 61, 1.5)), 1.6, ['skin:start', 'skin:end'])
    const d = await diagnosis(route)
    expect(d.code).toBe('too-tight')
    expect(d.message).toContain('1.6 mm')
    expect(Math.abs(d.places[0]!.at[0])).toBeGreaterThan(25)
  })
})
