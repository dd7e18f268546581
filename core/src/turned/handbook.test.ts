import { describe, expect, it } from 'vitest'
import { fitSpline, line, spline } from '../curve'
import type { P2 } from '../math'
import { CUT, combine } from '../profile'
import { areaOf, brimVolume, cavityOf, facesOf, filledTo, levelFor, volumeOf } from '.'
import { polygon, turn } from './samples.test-data'

// Closed forms by Pappus-Guldin and handbook formulas; the rows are those of the reference values.
const PI = Math.PI
const rel = (got: number, want: number, tol: number) =>
  expect(Math.abs(got / want - 1), `${got} against ${want}`).toBeLessThan(tol)

describe('bodies with a known volume', () => {
  it('a half-round lip on an open wall (A4)', () => {
    const lip = turn([
      {
        curve: { kind: 'arc', c: [39, 0], radius: 1, start: 0, sweep: PI },
        name: 'round',
      },
      { curve: line([38, 0], [40, 0]), name: 'seat' },
    ])
    rel(volumeOf(lip), 39 * PI ** 2, 1e-9)
    rel(areaOf(lip) - 2 * PI * 39 * 2, 78 * PI ** 2, 1e-9)
  })

  it('a vase r = 30 + 5 sin(2 pi z / 100), by a spline through samples of it (A8)', () => {
    const n = 80
    const at = Array.from({ length: n + 1 }, (_, i): P2 => {
      const z = (100 * i) / n
      return [30 + 5 * Math.sin((2 * PI * z) / 100), z]
    })
    const slope: [number, number] = [(5 * 2 * PI) / 100, 1]
    const side = fitSpline(
      at,
      at.map((_, i) =>
        i === 0 || i === n
          ? { hold: 'free' as const, d: [10 * slope[0], 10 * slope[1]] as [number, number] }
          : { hold: 'auto' as const },
      ),
    )
    const vase = turn([
      { curve: line([0, 0], [30, 0]), name: 'foot' },
      { curve: side, name: 'side' },
      { curve: line([30, 100], [0, 100]), name: 'top' },
      { curve: line([0, 100], [0, 0]), name: 'axis' },
    ])
    // The fit's own error decides: an 80-piece cubic follows this sine to about 1e-6.
    rel(volumeOf(vase), 91250 * PI, 1e-6)
    rel(areaOf(vase) - 2 * PI * 900, 19306.3792176, 1e-5)
  })

  it('a ring of elliptic section, by a closed chain of splines through samples (A9)', () => {
    const half = (from: number) => {
      const n = 60
      const at = Array.from({ length: n + 1 }, (_, i): P2 => {
        const a = from + (PI * i) / n
        return [50 + 12 * Math.cos(a), 6 * Math.sin(a)]
      })
      return {
        curve: fitSpline(
          at,
          at.map((_, i) =>
            i === 0 || i === n ? { hold: 'upright' as const } : { hold: 'auto' as const },
          ),
        ),
        name: `half${from}`,
      }
    }
    const ring = turn([half(0), half(PI)])
    rel(volumeOf(ring), 7200 * PI ** 2, 1e-5)
    rel(areaOf(ring), 18262.2946526, 1e-4)
  })
})

describe('a paraboloid bowl (B4)', () => {
  /** r = 50 (z / 60)^(1/2), exactly a quadratic B-spline. */
  const parabola = spline(
    2,
    [0, 0, 0, 1, 1, 1],
    [
      [0, 0],
      [25, 0],
      [50, 60],
    ],
  )
  const solid = turn([
    { curve: parabola, name: 'side' },
    { curve: line([50, 60], [0, 60]), name: 'top' },
    { curve: line([0, 60], [0, 0]), name: 'axis' },
  ])
  it('has the volume and area of the closed form', () => {
    rel(volumeOf(solid), (PI * 2500 * 60) / 2, 1e-9)
    rel(areaOf(solid) - PI * 2500, 15068.0092089, 1e-9)
    expect(facesOf(solid)).toHaveLength(2)
  })
  it('cut from a block it holds that much, and half of it at h / sqrt 2', () => {
    const block = turn(
      polygon([
        [0, -5],
        [60, -5],
        [60, 60],
        [0, 60],
      ]),
    )
    const cavity = cavityOf({ ...block, regions: combine(block.regions, solid.regions, CUT) })!
    rel(brimVolume(cavity), 235619.449019, 1e-9)
    rel(levelFor(cavity, 235619.449019 / 2)!, 42.4264068712, 1e-7)
    rel(filledTo(cavity, 30).volume, (PI * 2500 * 30 * 30) / 60 / 2, 1e-9)
  })
})
