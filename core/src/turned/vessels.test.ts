import fc from 'fast-check'
import { expect, it } from 'vitest'
import { fitSpline, type Handle, line } from '../curve'
import { dist, type P2 } from '../math'
import { enclosed } from '../profile'
import {
  cornersOf,
  facesOf,
  filletCorner,
  isSharp,
  shell,
  type TurnedBody,
  volumeOf,
  type WallSpot,
  wallAlong,
} from '.'
import { UPRIGHT_FRAME } from './samples.test-data'

const handle = fc.constantFrom<Handle>({ hold: 'auto' }, { hold: 'auto' }, { hold: 'upright' })
const vessel = fc
  .record({
    height: fc.double({ min: 40, max: 160, noNaN: true }),
    radii: fc.array(fc.double({ min: 8, max: 53, noNaN: true }), { minLength: 3, maxLength: 6 }),
    handles: fc.array(handle, { minLength: 6, maxLength: 6 }),
    wall: fc.double({ min: 0.5, max: 5, noNaN: true }),
    round: fc.double({ min: 0.5, max: 6, noNaN: true }),
  })
  .map(({ height, radii, handles, wall, round }) => {
    const n = radii.length
    const points = radii.map((r, i): P2 => [r, (height * i) / (n - 1)])
    const free: Handle = { hold: 'auto' }
    const side = fitSpline(
      points,
      points.map((_, i) => (i === 0 || i === n - 1 ? free : handles[i]!)),
    )
    const regions = enclosed([
      { curve: line([0, 0], points[0]!), name: 'base' },
      { curve: side, name: 'side' },
      { curve: line(points[n - 1]!, [0, height]), name: 'top' },
      { curve: line([0, height], [0, 0]), name: 'axis' },
    ])
    const body = { frame: UPRIGHT_FRAME, start: 0, sweep: 2 * Math.PI, regions }
    return { body, wall, round }
  })

/** An edge of less than 45 deg or so, such as the rim of a side that leans more, is thin by definition. */
const atTip = (b: TurnedBody, { at, wall }: WallSpot): boolean =>
  cornersOf(b).some((c) => c.turn > 1.2 && dist(c.at, at) < 2 * wall + 1e-3)

it('random curved vessels: rounded and hollowed they close, and the wall measures what was asked', () => {
  let [hollowed, unclosed] = [0, 0]
  fc.assert(
    fc.property(
      vessel,
      fc.constantFrom<'in' | 'out'>('in', 'in', 'out'),
      ({ body, wall, round }, way) => {
        // A side that crosses itself is no outline: the profile says so before a body is made of it.
        fc.pre(body.regions.length === 1 && body.regions[0]!.holes.length === 0)
        const foot = cornersOf(body).find((c) => c.before.name === 'base' && isSharp(c))
        const rounded = foot ? filletCorner(body, foot, round, 'round') : null
        const start = rounded?.ok ? rounded.value : body
        const open = new Set(
          facesOf(start)
            .filter((f) => f.seg.name === 'top')
            .map((f) => f.seg),
        )
        const made = shell(start, wall, open, way, 's')
        if (!made.ok) {
          // Too thick, or a waist that closes off; one outline in some thousands is refused because its
          // wall comes out unclosed. Each with its place.
          if (made.diagnosis.code === 'shell-unclosed') unclosed++
          else expect(['no-cavity', 'pinched']).toContain(made.diagnosis.code)
          expect(made.diagnosis.places.length).toBeGreaterThan(0)
          return
        }
        hollowed++
        const { body: hollow } = made.value
        expect(volumeOf(hollow)).toBeGreaterThan(0)
        if (way === 'in') expect(volumeOf(hollow)).toBeLessThan(volumeOf(start))
        const reading = wallAlong(hollow)
        // Where a wall runs level into the opening it ends in a round of radius t; the ball there is
        // 2 (sqrt 2 - 1) t across. Everywhere else it is t.
        // A fin that the outline itself has is as thin as it was.
        const fin = wallAlong(start)?.min.wall ?? Number.POSITIVE_INFINITY
        const least = Math.min(2 * (Math.SQRT2 - 1) * wall, fin)
        // Grown outward over a narrow waist the two outsides may meet, which leaves the wall thicker.
        if (reading && way === 'in' && !atTip(hollow, reading.min))
          expect(reading.min.wall).toBeGreaterThan(least - 5e-4)
        // Grown outward, a groove that the outline has is filled, and as thin as it is narrow.
        const groove = way === 'out' && reading !== null && reading.min.wall < wall / 2
        expect(reading === null || fin < wall || groove || reading.mean > wall * 0.9).toBe(true)
      },
    ),
    { numRuns: 60, endOnFailure: true },
  )
  expect(hollowed).toBeGreaterThan(20)
  expect(unclosed).toBeLessThanOrEqual(1)
})
