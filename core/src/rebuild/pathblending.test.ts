import { describe, expect, it } from 'vitest'
import { place3 } from '../surface'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, gauged, piece, volume } from './exactroute.test-data'

const through = (number: number, id: string, ...places: [number, number, number][]): Op =>
  op(number, 'path', id, {
    how: 'stops',
    stops: places.map(([x, y, z]) => ({ x, y, z })),
  })
const first = through(10, 'first', [0, 0, 0], [30, 0, 0])
const second = through(20, 'second', [50, 25, 20], [50, 60, 20])
const blend = (more: object = {}): Op =>
  op(30, 'path', 'way', { how: 'blend', from: 'first', into: 'second', ...more })
const words = async (route: Op[]) => {
  const { reports } = await built(piece(route))
  return reports[reports.length - 1]!
}

describe('paths that go on in another', () => {
  it('as one, measured to meet in what was asked, whichever ends are named', async () => {
    for (const order of ['curvature', 'change'])
      for (const leaves of ['end', 'start'])
        for (const reaches of ['start', 'end']) {
          const r = await words([first, second, blend({ order, leaves, reaches })])
          expect(r.status).toBe('ok')
          expect(r.consequence).toMatch(/joints within 0° and 0 % of curvature$/)
        }
    const g1 = await words([first, second, blend({ order: 'direction' })])
    expect(g1.consequence).toMatch(/joints within 0° and 100 % of curvature$/)
  })
  it('carries a wire whose volume is its section times its length, and meets smoothly', async () => {
    const route = [first, second, blend()]
    const r = await words(route)
    const length = Number(/([\d.]+) mm long/.exec(r.consequence)![1])
    const wire = op(40, 'sweep', 'wire', { path: 'way', section: 'round', across: 4, mode: 'new' })
    expect((await volume([...route, wire], 'wire')) / (Math.PI * 4 * length)).toBeCloseTo(1, 3)
    const [g] = await gauged([...route, wire], [{ kind: 'seams', body: 'wire' }])
    expect(g!.reading?.text).toBe('G2')
  })
  it('from both ends of one path it closes it; by itself it is what lies between', async () => {
    const hook = through(10, 'first', [0, 0, 0], [0, 30, 0], [40, 30, 0], [40, 0, 10])
    const r = await words([hook, blend({ into: 'first' })])
    expect(r.consequence).toMatch(/^closed, /)
    const own = await words([first, second, blend({ keeps: 'blend' })])
    const all = await words([first, second, blend()])
    const long = (x: typeof own) => Number(/([\d.]+) mm long/.exec(x.consequence)![1])
    expect(long(all)).toBeCloseTo(long(own) + 30 + 35, 1)
  })
  it('stays over a line, by itself and with a plane; upright lines and ends below are told', async () => {
    const down = through(10, 'first', [-40, 0, 22], [-20, 0, 2])
    const rise = through(20, 'second', [20, 3, 8], [40, 3, 28])
    /** A line in the front view that climbs as given, `low` mm up where x is 0. */
    const climb = (slope: number, low: number) =>
      op(25, 'axis', 'sill', {
        how: 'points',
        p1: { x: -50, y: 9, z: low - 50 * slope },
        p2: { x: 50, y: 9, z: low + 50 * slope },
      })
    const route = (line: Op, more: object = {}) => [
      down,
      rise,
      line,
      blend({ over: 'sill', keeps: 'blend', ...more }),
    ]
    for (const [slope, low, more] of [
      [0.1, 0, {}],
      [-0.05, -0.5, {}],
      [0.1, 0, { above: 'top' }],
    ] as const) {
      const { state } = await built(piece(route(climb(slope, low), more)))
      const [made] = state.paths['way']!.pieces
      const heights = Array.from({ length: 301 }, (_, k) => {
        const [x, , z] = place3(made!, k / 300)
        return z - Math.max(low + slope * x, 'above' in more ? 0 : Number.NEGATIVE_INFINITY)
      })
      expect(Math.min(...heights)).toBeGreaterThan(-2e-4)
      expect(Math.min(...heights)).toBeLessThan(0.02)
    }
    expect((await diagnosis(route(climb(0.1, 9)))).message).toMatch(/that line: this end lies/)
    const mast = op(25, 'axis', 'sill', {
      how: 'points',
      p1: { x: 0, y: 0, z: 0 },
      p2: { x: 0, y: 0, z: 9 },
    })
    expect((await diagnosis(route(mast))).code).toBe('upright')
  })
  it('says why it cannot: closed paths, one end twice, ends in one place, a pull of none', async () => {
    const code = async (route: Op[]) => (await diagnosis(route)).code
    const ring = op(15, 'path', 'second', { how: 'profile', profile: 'disc' })
    const disc = circles(12, 'disc', 'top', [[90, 0, 9]])
    expect(await code([first, disc, ring, blend()])).toBe('closed')
    expect(await code([first, blend({ into: 'first', reaches: 'end' })])).toBe('same-end')
    expect(await code([first, blend()])).toBe('no-path')
    const on = through(20, 'second', [30, 0, 0], [30, 40, 0])
    expect(await code([first, on, blend()])).toBe('same-place')
    expect(await code([first, second, blend({ leavePull: 0 })])).toBe('not-positive')
  })
})
