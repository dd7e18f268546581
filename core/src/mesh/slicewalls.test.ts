import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { P2 } from '../math'
import { sectionWalls } from '.'

const ring = (points: P2[]): P2[] => [...points, points[0]!]
const box = (x: number, y: number, w: number, h: number): P2[] =>
  ring([
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ])
const circle = (r: number, n: number): P2[] =>
  ring(
    Array.from({ length: n }, (_, i) => [
      r * Math.cos((2 * Math.PI * i) / n),
      r * Math.sin((2 * Math.PI * i) / n),
    ]),
  )

describe('walls of a section', () => {
  it('of a tray: floor and both walls, the thinnest first', () => {
    const tray = ring([
      [0, 0],
      [60, 0],
      [60, 20],
      [57.5, 20],
      [57.5, 3],
      [2, 3],
      [2, 20],
      [0, 20],
    ])
    const walls = sectionWalls([tray])
    expect(walls[0]!.d).toBeCloseTo(2, 9)
    const found = [...new Set(walls.map((w) => Number(w.d.toFixed(6))))].sort((a, b) => a - b)
    expect(found).toEqual(expect.arrayContaining([2, 2.5, 3]))
  })
  it('property: of a ring between two circles it is the difference of their radii, wherever', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 50, noNaN: true }),
        fc.double({ min: 1.05, max: 3, noNaN: true }),
        (r, k) => {
          const walls = sectionWalls([circle(k * r, 180), [...circle(r, 180)].reverse()])
          expect(walls.length).toBeGreaterThan(0)
          for (const w of walls) expect(w.d / ((k - 1) * r)).toBeCloseTo(1, 1)
        },
      ),
      { numRuns: 30 },
    )
  })
  it('goes through the material, never through the hollow', () => {
    const walls = sectionWalls([box(0, 0, 40, 40), [...box(5, 12, 30, 20)].reverse()])
    expect(walls[0]!.d).toBeCloseTo(5, 9)
    expect(Math.max(...walls.map((w) => w.d))).toBeLessThan(12.1)
  })
  it('of nothing, a point and an open corner there are none', () => {
    expect(sectionWalls([])).toEqual([])
    expect(
      sectionWalls([
        [
          [1, 1],
          [1, 1],
        ],
      ]),
    ).toEqual([])
    expect(
      sectionWalls([
        ring([
          [0, 0],
          [10, 0],
          [0, 10],
        ]),
      ]),
    ).toEqual([])
  })
})
