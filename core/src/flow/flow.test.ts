import { describe, expect, it } from 'vitest'
import { cross3, dot3, type P3, unit3 } from '../math'
import { labelPanel, leastStrain, type SurfaceGrid } from '.'

type Span = [number, number]
/** A grid of a surface by formula, its derivatives by differences. */
function gridOf(f: (u: number, v: number) => P3, u: Span, v: Span, count = 33): SurfaceGrid {
  const n = count - 1
  const steps = [(u[1] - u[0]) / n, (v[1] - v[0]) / n] as const
  const grid: SurfaceGrid = {
    columns: count,
    rows: count,
    steps,
    places: [],
    us: [],
    vs: [],
    forms: [],
    inside: new Array<boolean>(n * n).fill(true),
  }
  const h = 1e-4
  for (let j = 0; j <= n; j++)
    for (let i = 0; i <= n; i++) {
      const at = (x: number, y: number) =>
        f(u[0] + i * steps[0] + x * h, v[0] + j * steps[1] + y * h)
      const sum = (list: [P3, number][], by: number) =>
        [0, 1, 2].map((k) => list.reduce((s, [p, w]) => s + p[k]! * w, 0) / by) as unknown as P3
      const p = at(0, 0)
      const [du, dv] = [
        sum(
          [
            [at(1, 0), 1],
            [at(-1, 0), -1],
          ],
          2 * h,
        ),
        sum(
          [
            [at(0, 1), 1],
            [at(0, -1), -1],
          ],
          2 * h,
        ),
      ]
      const uu = sum(
        [
          [at(1, 0), 1],
          [p, -2],
          [at(-1, 0), 1],
        ],
        h * h,
      )
      const vv = sum(
        [
          [at(0, 1), 1],
          [p, -2],
          [at(0, -1), 1],
        ],
        h * h,
      )
      const uv = sum(
        [
          [at(1, 1), 1],
          [at(1, -1), -1],
          [at(-1, 1), -1],
          [at(-1, -1), 1],
        ],
        4 * h * h,
      )
      const normal = unit3(cross3(du, dv))
      grid.places.push(...p)
      grid.us.push(...du)
      grid.vs.push(...dv)
      grid.forms.push(dot3(uu, normal), dot3(uv, normal), dot3(vv, normal))
    }
  return grid
}
const whole = (g: SurfaceGrid) => ({ u: [0, g.columns - 1] as Span, v: [0, g.rows - 1] as Span })
const strain = (g: SurfaceGrid) => leastStrain(g, whole(g), 17)!
const most = ({ low, high }: { low: number; high: number }) => Math.max(high, -low)
const ball =
  (r: number) =>
  (u: number, v: number): P3 => [
    r * Math.sin(u) * Math.cos(v),
    r * Math.sin(v),
    r * Math.cos(u) * Math.cos(v),
  ]

describe('flat labels on surfaces that unroll', () => {
  it('a cylinder: its round by its height, not strained (closed form)', () => {
    const g = gridOf((u, v) => [20 * Math.cos(u), 20 * Math.sin(u), v], [0, 2 * Math.PI], [0, 63])
    const panel = labelPanel(g, 1e-4)!
    expect(panel.whole).toBe(true)
    for (const x of panel.round) expect(x).toBeCloseTo(40 * Math.PI, 4)
    for (const x of panel.along) expect(x).toBeCloseTo(63, 6)
    expect(panel.area).toBeCloseTo(2520 * Math.PI, 3)
    expect(most(panel.strain)).toBeLessThan(5e-5)
  })
  it('a cone all round: both its rims by its slant side, a piece of a ring (closed form)', () => {
    const r = (v: number) => 10 + (8 * v) / 40
    const g = gridOf(
      (u, v) => [r(v) * Math.cos(u), r(v) * Math.sin(u), v],
      [0, 2 * Math.PI],
      [0, 40],
    )
    const panel = labelPanel(g, 1e-4)!
    expect(panel.round[0]).toBeCloseTo(20 * Math.PI, 4)
    expect(panel.round[1]).toBeCloseTo(36 * Math.PI, 4)
    const side = Math.hypot(40, 8)
    for (const x of panel.along) expect(x).toBeCloseTo(side, 6)
    expect(panel.area / (28 * Math.PI * side)).toBeCloseTo(1, 6)
  })
  it('an elliptic cylinder, and the tangents of a helix: no strain, though neither is a cylinder nor a cone', () => {
    const oval = gridOf(
      (u, v) => [40 * Math.cos(u), 25 * Math.sin(u), v],
      [0, Math.PI / 2],
      [0, 50],
    )
    const tangents = gridOf(
      (u, v) => {
        const w = v / Math.hypot(20, 8)
        return [
          20 * (Math.cos(u) - w * Math.sin(u)),
          20 * (Math.sin(u) + w * Math.cos(u)),
          8 * (u + w),
        ]
      },
      [0, 3],
      [5, 40],
    )
    for (const g of [oval, tangents]) expect(most(strain(g))).toBeLessThan(1e-4)
  })
  it('the side of a cone up to its tip: all but the last row of it, whose lines end in one place', () => {
    const g = gridOf(
      (u, v) => [(30 - v / 2) * Math.cos(u), (30 - v / 2) * Math.sin(u), v],
      [0, 2 * Math.PI],
      [0, 60],
    )
    const panel = labelPanel(g, 1e-4)!
    expect(panel.region).toEqual({ u: [0, 32], v: [0, 31] })
  })
})

describe('flat labels on surfaces that bend both ways', () => {
  it('a strip along the equator of a ball: half width b strains by -b²/3R² at its borders, at its corners some more (strips stretched alike)', () => {
    const [r, b] = [40, 4]
    const g = gridOf(ball(r), [-0.6, 0.6], [-b / r, b / r])
    const { low, high } = strain(g)
    const border = (b * b) / (3 * r * r)
    expect(-low / border).toBeGreaterThan(1)
    expect(-low / border).toBeLessThan(1.4)
    expect(high / border).toBeGreaterThan(0.5)
    expect(high / border).toBeLessThan(0.9)
  })
  it('a ruled surface that twists is none that unrolls: what a label takes of it is told, smaller for stiffer ones', () => {
    const g = gridOf((u, v) => [u, v, (u * v) / 50], [-30, 30], [-19, 19])
    expect(most(strain(g))).toBeGreaterThan(0.03)
    let last = Infinity
    for (const stretch of [0.1, 0.03, 0.01, 0.003, 0.001]) {
      const panel = labelPanel(g, stretch)!
      expect(most(panel.strain)).toBeLessThanOrEqual(stretch)
      expect(panel.area).toBeLessThanOrEqual(last)
      last = panel.area
    }
    expect(labelPanel(g, 0)).toBeNull()
  })
  it('strain grows with the square of the size (a theorem of Gauss, for small pieces), whatever the scale', () => {
    const of = (r: number, a: number) => most(strain(gridOf(ball(r), [-a, a], [-a, a])))
    expect(of(50, 0.2) / of(50, 0.1)).toBeCloseTo(4, 0)
    expect(of(500, 0.1) / of(50, 0.1)).toBeCloseTo(1, 6)
  })
  it('lies within what the outline leaves: beside a hole', () => {
    const g = gridOf((u, v) => [20 * Math.cos(u), 20 * Math.sin(u), v], [0, 3], [0, 60])
    const cells = g.columns - 1
    for (let j = 8; j < 12; j++) for (let i = 14; i < 18; i++) g.inside[j * cells + i] = false
    const panel = labelPanel(g, 1e-3)!
    expect(panel.region).toEqual({ u: [0, 32], v: [12, 32] })
    expect(panel.along[0]).toBeCloseTo((60 * 20) / 32, 6)
  })
})
