import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arc, line } from '../curve'
import type { ExactPart } from '../exact'
import { type P2, polar } from '../math'
import { CUT, combine, JOIN, type Region, regionArea } from '../profile'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { bodiesOf, built, edge, exact, piece, volume } from './exactroute.test-data'

// Discs with notches, arms and holes at their rims. What they measure: areas of the plane figures, by our own arrangement of
// curves (no kernel in it), times the height; where a closed form stands beside it that is used.

const R = 25
const HIGH = 20
const disc = [
  circles(10, 'flat', 'top', [[0, 0, R]]),
  op(20, 'extrude', 'disc', { profile: 'flat', mode: 'new', length: HIGH }),
]
/** The corners of a bar along a radius, `wide` across, from `from` to `to` off the middle. */
function bar(deg: number, wide: number, from: number, to: number): P2[] {
  const turn = (deg * Math.PI) / 180
  const at = (x: number, y: number): P2 => polar([0, 0], Math.hypot(x, y), turn + Math.atan2(y, x))
  return [at(from, -wide / 2), at(to, -wide / 2), at(to, wide / 2), at(from, wide / 2)]
}
const acting = (n: number, id: string, pts: P2[], mode: 'cut' | 'join', body = 'disc'): Op[] => [
  outline(n, `${id}-flat`, 'top', pts),
  op(n + 1, 'extrude', id, { profile: `${id}-flat`, mode, body, length: HIGH }),
]
/** What a bar from 20 to beyond the rim shares with the disc: its part of the circle less the strip to 20 (textbook integral). */
const w = 2
const NOTCH = HIGH * (w * Math.sqrt(R * R - w * w) + R * R * Math.asin(w / R) - 2 * w * 20)
const first = acting(30, 'one', bar(45, 2 * w, 20, 30), 'cut')
const whole = Math.PI * R * R * HIGH

describe('what is cut from a disc at its rim, or joined to it there, is neither lost nor doubled', () => {
  it('one face goes all round, with one edge above and one below', async () => {
    const p = await exact(disc, 'disc')
    expect(p.faces.map((f) => f.names)).toHaveLength(3)
    expect(p.edges.filter((e) => e.faces.length === 2)).toHaveLength(2)
    expect(p.measure.volume).toBeCloseTo(whole, 3)
  })
  it.each([200, 280, 330, 150, 90, 270])('a second notch at %d deg', async (deg) => {
    const second = acting(50, 'two', bar(deg, 2 * w, 20, 30), 'cut')
    expect(await volume([...disc, ...first, ...second], 'disc')).toBeCloseTo(whole - 2 * NOTCH, 2)
  })
  it('a round pattern of it', async () => {
    const round = op(60, 'pattern', 'round', {
      what: 'ops',
      body: 'disc',
      ops: ['one'],
      how: 'round',
      count: 7,
    })
    expect(await volume([...disc, ...first, round], 'disc')).toBeCloseTo(whole - 7 * NOTCH, 2)
  })
  it('a split goes through it, both parts as large as they are', async () => {
    const half = op(60, 'split', 'half', { body: 'disc', how: 'plane', plane: 'front' })
    const parts = Object.values(await bodiesOf([...disc, ...first, half]))
    const volumes = parts.map((b) => (b.shape as ExactPart).measure.volume).sort((a, b) => a - b)
    expect(volumes).toHaveLength(2)
    expect(volumes[0]).toBeCloseTo(whole / 2 - NOTCH, 2)
    expect(volumes[1]).toBeCloseTo(whole / 2, 2)
  })
  it('an arm joined at the rim makes one solid', async () => {
    const p = await exact(
      [...disc, ...first, ...acting(50, 'arm', bar(200, 2 * w, 20, 30), 'join')],
      'disc',
    )
    expect(p.measure.solids).toBe(1)
    const arm = HIGH * 2 * w * 10 - NOTCH
    expect(p.measure.volume).toBeCloseTo(whole - NOTCH + arm, 2)
  })
  it('its rim is rounded all round', async () => {
    const notched = [...disc, ...first]
    const rim = edge(await exact(notched, 'disc'), 'disc:ring1', 'disc:end')
    const round = op(70, 'fillet', 'round', { body: 'disc', edges: [rim], radius: 1 })
    const before = await volume(notched, 'disc')
    const after = await volume([...notched, round], 'disc')
    // A spandrel of 1 - pi/4 along what is left of the rim, its centre a little further in.
    const left = 2 * Math.PI - 2 * Math.asin(w / R)
    expect((before - after) / ((1 - Math.PI / 4) * left * (R - 0.2234))).toBeCloseTo(1, 3)
  })
  it('what only touches is said to touch, what is off is said not to', async () => {
    const told = async (from: number) => {
      const { reports } = await built(
        piece([...disc, ...acting(30, 'off', bar(45, 4, from, from + 9), 'cut')]),
      )
      return reports.at(-1)!.diagnoses[0]!.message
    }
    expect(await told(R)).toMatch(/it touches .* but does not reach into it/)
    expect(await told(R + 2)).toMatch(/does not touch/)
  })

  const straight = fc.record({
    deg: fc.oneof(
      fc.constantFrom(0, 45, 90, 180, 270),
      fc.double({ min: 0, max: 360, noNaN: true }),
    ),
    wide: fc.double({ min: 1, max: 9, noNaN: true }),
    from: fc.double({ min: 8, max: 22, noNaN: true }),
    to: fc.double({ min: 26, max: 36, noNaN: true }),
    how: fc.constantFrom('cut' as const, 'join' as const),
  })
  const bore = fc.record({
    deg: fc.double({ min: 0, max: 360, noNaN: true }),
    off: fc.double({ min: 15, max: 29, noNaN: true }),
    radius: fc.double({ min: 1, max: 6, noNaN: true }),
    how: fc.constantFrom('cut' as const, 'join' as const),
  })
  it('property: any notches, arms and bores one after another measure what the plane figure does', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.oneof(straight, bore), { minLength: 2, maxLength: 4 }),
        async (works) => {
          let figure: Region[] = [ring([0, 0], R)]
          const route = [...disc]
          for (const [i, x] of works.entries()) {
            const n = 30 + 10 * i
            const keep = x.how === 'cut' ? CUT : JOIN
            if ('wide' in x) {
              const pts = bar(x.deg, x.wide, x.from, x.to)
              route.push(...acting(n, `t${i}`, pts, x.how))
              figure = combine(figure, [polygon(pts)], keep)
            } else {
              const c = polar([0, 0], x.off, (x.deg * Math.PI) / 180)
              route.push(
                circles(n, `t${i}-flat`, 'top', [[...c, x.radius]]),
                op(n + 1, 'extrude', `t${i}`, {
                  profile: `t${i}-flat`,
                  mode: x.how,
                  body: 'disc',
                  length: HIGH,
                }),
              )
              figure = combine(figure, [ring(c, x.radius)], keep)
            }
          }
          const { state, reports } = await built(piece(route))
          // Refused in a sentence is no loss; anything that is given out is right.
          if (reports.some((r) => r.status === 'fail')) return
          const want = HIGH * figure.reduce((sum, r) => sum + regionArea(r), 0)
          const { measure } = state.bodies.disc!.shape as ExactPart
          expect(measure.volume / want).toBeCloseTo(1, 6)
          expect(measure.solids).toBe(figure.length)
        },
      ),
      { numRuns: 12 },
    )
  })
})

describe('holes that leave no wall', () => {
  const hole = (off: number): Op[] => [
    circles(30, 'hole-flat', 'top', [[off, 0, 5]]),
    op(40, 'extrude', 'hole', { profile: 'hole-flat', mode: 'cut', body: 'disc', length: HIGH }),
  ]
  it.each([
    [R - 5, ['touches-itself']],
    [R - 5.01, []],
  ])(
    'a hole whose middle is %d off: what it touches is told where nothing is left',
    async (off, codes) => {
      const { state, reports } = await built(piece([...disc, ...hole(off)]))
      const { measure } = state.bodies.disc!.shape as ExactPart
      expect(measure.volume / (HIGH * Math.PI * (R * R - 25))).toBeCloseTo(1, 6)
      const told = reports.at(-1)!.diagnoses
      expect(told.map((d) => d.code)).toEqual(codes)
      for (const d of told) expect(d.places).toHaveLength(1)
    },
  )
  it('drawn with its outline, a hole that touches it is refused with its place, never lost', async () => {
    const both = circles(10, 'flat', 'top', [
      [0, 0, R],
      [R - 5, 0, 5],
    ])
    const { reports } = await built(piece([both, disc[1]!]))
    const [found] = reports.at(-1)!.diagnoses
    expect(found!.message).toMatch(/^The area touches itself here/)
    expect(found!.places).toHaveLength(1)
  })
})

const ring = (c: P2, radius: number): Region => ({
  outer: [{ curve: arc(c, radius, 0, 2 * Math.PI), name: 'ring' }],
  holes: [],
})
const polygon = (pts: readonly P2[]): Region => ({
  outer: pts.map((a, i) => ({ curve: line(a, pts[(i + 1) % pts.length]!), name: `side${i}` })),
  holes: [],
})
