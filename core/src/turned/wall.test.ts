import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arcThrough, type Curve, line, pointAt, tangentAt } from '../curve'
import { along, dist, left, type P2, sub } from '../math'
import { facesOf, shell, wallAlong } from '.'
import { polygon, turn } from './samples.test-data'

/** Shells a polygon with the faces of these names open. */
const hollowed = (points: P2[], wall: number, open: string[]) => {
  const b = turn(polygon(points))
  const faces = new Set(
    facesOf(b)
      .filter((f) => open.includes(f.seg.name))
      .map((f) => f.seg),
  )
  const made = shell(b, wall, faces, 'in', 's')
  if (!made.ok) throw new Error(made.diagnosis.message)
  return made.value.body
}
const can: P2[] = [
  [0, 0],
  [30, 0],
  [30, 60],
  [0, 60],
]
/** Largest ball at an L corner of two walls t, both sharp: 2 t (2 - sqrt 2), inscribed circle. */
const corner = (t: number) => 2 * t * (2 - Math.SQRT2)

describe('which bodies have a wall', () => {
  it.each([
    ['a bell, shelled from below', hollowed(can, 3, ['e0']), 3],
    ['a cup', hollowed(can, 3, ['e2']), 3],
    ['a tube shelled at both ends', hollowed(can, 3, ['e0', 'e2']), 3],
    ['a closed can', hollowed(can, 3, []), 3],
    [
      'a tube as drawn',
      turn(
        polygon([
          [20, 0],
          [24.5, 0],
          [24.5, 80],
          [20, 80],
        ]),
      ),
      4.5,
    ],
  ])('%s', (_, b, t) => {
    const w = wallAlong(b)!
    expect(w.min.wall).toBeCloseTo(t, 6)
  })
  it('solid bodies have none', () => {
    expect(wallAlong(turn(polygon(can)))).toBeNull()
    const spool: P2[] = [
      [0, 0],
      [30, 0],
      [10, 30],
      [30, 60],
      [0, 60],
    ]
    expect(wallAlong(turn(polygon(spool)))).toBeNull()
  })
})

describe('the thickest place is the largest ball', () => {
  it.each([2, 3, 4.4])('a sharp floor corner of a wall of %d', (t) => {
    const w = wallAlong(hollowed(can, t, ['e2']))!
    expect(w.max.wall).toBeCloseTo(corner(t), 6)
    expect(w.min.wall).toBeCloseTo(t, 6)
    expect(w.max.at).toEqual([30 - t, t])
  })
  it('of eccentric balls, thinnest and thickest by formula', () => {
    // Outer R 30 about z 0, inner r 25 about z 2: along the axis 30 - 27 and 30 - 23.
    const w = wallAlong(
      turn([
        { curve: arcThrough([0, -30], [30, 0], [0, 30]), name: 'out' },
        { curve: line([0, 30], [0, 27]), name: 'axis' },
        { curve: arcThrough([0, 27], [25, 2], [0, -23]), name: 'in' },
        { curve: line([0, -23], [0, -30]), name: 'axis' },
      ]),
    )!
    expect(w.min.wall).toBeCloseTo(3, 6)
    expect(w.max.wall).toBeCloseTo(7, 6)
  })
})

const pointsOn = (c: Curve, n: number): P2[] =>
  Array.from({ length: n + 1 }, (_, k) => pointAt(c, k / n))

/** The largest ball at a place of a curve (material left) that no point of the cloud lies in. */
function ballAmong(cloud: P2[], c: Curve, t: number) {
  const p = pointAt(c, t)
  const n = left(tangentAt(c, t))
  const nearestTo = (q: P2) => cloud.reduce((a, b) => (dist(a, q) <= dist(b, q) ? a : b), cloud[0]!)
  let [lo, hi] = [0, 100]
  let touch: P2 | null = null
  for (let i = 0; i < 40; i++) {
    const rho = (lo + hi) / 2
    const q = nearestTo(along(p, n, rho))
    if (dist(q, along(p, n, rho)) < rho - 1e-3 && dist(q, p) > 0.5) {
      hi = rho
      touch = q
    } else lo = rho
  }
  if (!touch) return null
  const out = sub(touch, along(p, n, lo))
  return { at: p, wall: 2 * lo, facing: -(out[0] * n[0] + out[1] * n[1]) / Math.hypot(...out) }
}

describe('property: no place on a fine grid reads thinner or thicker', () => {
  const radius = fc.double({ min: 12, max: 40, noNaN: true })
  it('on random shelled outlines', () => {
    fc.assert(
      fc.property(
        fc.array(radius, { minLength: 3, maxLength: 6 }),
        fc.double({ min: 1, max: 3.5, noNaN: true }),
        (rs, t) => {
          const outline: P2[] = [
            [0, 0],
            ...rs.map((r, i): P2 => [r, i * 20]),
            [0, (rs.length - 1) * 20],
          ]
          const b = turn(polygon(outline))
          const top = facesOf(b).filter((f) => f.seg.name === `e${rs.length}`)
          const made = shell(b, t, new Set(top.map((f) => f.seg)), 'in', 's')
          fc.pre(made.ok)
          if (!made.ok) return
          const body = made.value.body
          const w = wallAlong(body)!
          // Independently: the boundary as a cloud of points, balls by bisection among them.
          const topLevel = (rs.length - 1) * 20
          const cloud = facesOf(body).flatMap((f) => pointsOn(f.seg.curve, 160))
          for (const f of facesOf(body).filter((x) => x.seg.name.startsWith('s:wall')))
            for (let k = 1; k < 6; k++) {
              const spot = ballAmong(cloud, f.seg.curve, k / 6)
              // Near the open rim the cloud is too coarse to tell its edge.
              if (!spot || spot.facing > -0.8 || spot.at[1] > topLevel - 3 * t) continue
              expect(spot.wall).toBeGreaterThan(w.min.wall - 0.02)
              expect(spot.wall).toBeLessThan(w.max.wall + 0.02)
            }
        },
      ),
      { numRuns: 10 },
    )
  })
})
