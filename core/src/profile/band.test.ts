import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arc, line } from '../curve'
import type { P2 } from '../math'
import { bandAlong, CUT, combine, MEET, type Region, regionArea, type Seg, sideOf } from '.'

const NAMES = {
  left: (n: string) => `left(${n})`,
  right: (n: string) => `right(${n})`,
  end: (n: string) => `end(${n})`,
}
const path = (pts: readonly P2[]): Seg[] =>
  pts.slice(1).map((b, i) => ({ curve: line(pts[i]!, b), name: `e${i}` }))
const ring = (pts: readonly P2[]): Seg[] => path([...pts, pts[0]!])
const area = (o: ReturnType<typeof bandAlong>) => {
  if (!o.ok) throw new Error(o.diagnosis.message)
  return o.value.reduce((sum, r) => sum + regionArea(r), 0)
}
const regions = (o: ReturnType<typeof bandAlong>): Region[] => {
  if (!o.ok) throw new Error(o.diagnosis.message)
  return o.value
}

describe('a band along curves', () => {
  it('along a straight, an angle and an arc (closed forms)', () => {
    expect(
      area(
        bandAlong(
          path([
            [0, 0],
            [30, 0],
          ]),
          2,
          NAMES,
        ),
      ),
    ).toBeCloseTo(120, 9)
    // Outside of a right angle a quarter circle, inside a square counted once.
    const angle = area(
      bandAlong(
        path([
          [0, 0],
          [30, 0],
          [30, 20],
        ]),
        2,
        NAMES,
      ),
    )
    expect(angle).toBeCloseTo(4 * 50 - 4 + Math.PI, 9)
    const bow: Seg[] = [{ curve: arc([0, 0], 20, 0.3, 2), name: 'a' }]
    expect(area(bandAlong(bow, 3, NAMES))).toBeCloseTo(20 * 2 * 6, 9)
    const circle: Seg[] = [{ curve: arc([5, 1], 20, 0, 2 * Math.PI), name: 'a' }]
    expect(area(bandAlong(circle, 3, NAMES))).toBeCloseTo(2 * Math.PI * 20 * 6, 9)
  })
  it('along an outline: what lies outside is the perimeter and a circle (Steiner)', () => {
    const box = ring([
      [0, 0],
      [60, 0],
      [60, 40],
      [0, 40],
    ])
    const inside: Region = { outer: box, holes: [] }
    const band = regions(bandAlong(box, 3, NAMES))
    const out = combine(band, [inside], CUT).reduce((s, r) => s + regionArea(r), 0)
    expect(out).toBeCloseTo(200 * 3 + Math.PI * 9, 8)
    const within = combine(band, [inside], MEET).reduce((s, r) => s + regionArea(r), 0)
    expect(within).toBeCloseTo(60 * 40 - 54 * 34, 8)
  })
  it('refuses what bends more tightly than it is wide', () => {
    const bow: Seg[] = [{ curve: arc([0, 0], 2, 0, 2), name: 'a' }]
    const made = bandAlong(bow, 3, NAMES)
    expect(!made.ok && made.diagnosis.code).toBe('too-tight')
  })
  it('holds just what lies near a zigzag, for any zigzag', () => {
    const zigzag = fc.array(
      fc.tuple(
        fc.double({ min: 4, max: 30, noNaN: true }),
        fc.double({ min: -2.4, max: 2.4, noNaN: true }),
      ),
      { minLength: 1, maxLength: 6 },
    )
    fc.assert(
      fc.property(zigzag, fc.double({ min: 0.3, max: 3, noNaN: true }), (steps, d) => {
        const pts: P2[] = [[0, 0]]
        let angle = 0
        for (const [l, turn] of steps) {
          // What turns by less leaves a sliver thinner than places are told apart.
          angle += Math.abs(turn) < 1e-4 ? 0 : turn
          const p = pts[pts.length - 1]!
          pts.push([p[0] + l * Math.cos(angle), p[1] + l * Math.sin(angle)])
        }
        const chain = path(pts)
        const band = bandAlong(chain, d, NAMES)
        if (!band.ok) return
        const loops = band.value.flatMap((r) => [r.outer, ...r.holes])
        for (let k = 0; k < 60; k++) {
          const [a, b] = [pts[k % (pts.length - 1)]!, pts[(k % (pts.length - 1)) + 1]!]
          const t = ((k * 7919) % 101) / 101
          const off = (((k * 104729) % 199) / 199) * 3 * d - 1.5 * d
          const u = [b[0] - a[0], b[1] - a[1]] as const
          const l = Math.hypot(...u)
          const p: P2 = [a[0] + t * u[0] - (off * u[1]) / l, a[1] + t * u[1] + (off * u[0]) / l]
          const near = Math.min(
            ...pts.slice(1).map((q, i) => square(pts[i]!, q, p)),
            ...pts.slice(1, -1).map((q) => Math.hypot(p[0] - q[0], p[1] - q[1])),
          )
          if (Math.abs(near - d) < 1e-3) continue
          expect([near, sideOf(loops, p).inside]).toEqual([near, near < d])
        }
      }),
      { numRuns: 60 },
    )
  })
})

/** Distance from a segment where the foot lies on it, else none. */
function square(a: P2, b: P2, p: P2): number {
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
  const l = Math.hypot(ux, uy)
  const t = ((p[0] - a[0]) * ux + (p[1] - a[1]) * uy) / (l * l)
  return t < 0 || t > 1
    ? Number.POSITIVE_INFINITY
    : Math.abs((p[0] - a[0]) * uy - (p[1] - a[1]) * ux) / l
}
