import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arc, line } from '../curve'
import type { P2 } from '../math'
import { cellAt, cellOf, cellRef, cellsOf, insideOf, type Region, regionArea } from '.'

const ring = (c: P2, r: number, name: string) => ({ curve: arc(c, r, 0, 2 * Math.PI), name })
const box = (x: number, y: number, w: number, h: number, name: string) => {
  const p: P2[] = [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ]
  return p.map((a, i) => ({ curve: line(a, p[(i + 1) % 4]!), name: `${name}${i + 1}` }))
}
const areas = (cells: readonly Region[]) => cells.map(regionArea).sort((a, b) => a - b)

describe('cells', () => {
  it('of two circles that cross are a lens and two crescents; one in another a ring and a disc', () => {
    const r = 10
    const lens = 2 * r * r * Math.acos(0.5) - (r / 2) * Math.sqrt(4 * r * r - r * r)
    const two = cellsOf([ring([0, 0], r, 'a'), ring([r, 0], r, 'b')])
    expect(areas(two)).toEqual(
      [lens, Math.PI * r * r - lens, Math.PI * r * r - lens]
        .sort((a, b) => a - b)
        .map((x) => expect.closeTo(x, 6)),
    )
    const nested = cellsOf([ring([0, 0], 10, 'a'), ring([1, 2], 4, 'b')])
    expect(areas(nested)).toEqual([
      expect.closeTo(16 * Math.PI, 6),
      expect.closeTo(84 * Math.PI, 6),
    ])
    // Touching from inside, they part in a point only.
    expect(areas(cellsOf([ring([0, 0], 10, 'a'), ring([6, 0], 4, 'b')]))).toEqual([
      expect.closeTo(16 * Math.PI, 5),
      expect.closeTo(84 * Math.PI, 5),
    ])
  })
  it('of a box parted by a line are two; an open end parts nothing', () => {
    const sides = box(0, 0, 10, 6, 's')
    const wall = { curve: line([4, 0], [4, 6]), name: 'wall' }
    expect(areas(cellsOf([...sides, wall]))).toEqual([24, 36].map((x) => expect.closeTo(x, 9)))
    const stub = { curve: line([4, 0], [4, 5]), name: 'stub' }
    expect(areas(cellsOf([...sides, stub]))).toEqual([expect.closeTo(60, 9)])
  })
  it('property: of crossing boxes the cells make up their union, each with a place inside it', () => {
    const number = fc.integer({ min: 0, max: 40 })
    const size = fc.integer({ min: 3, max: 30 })
    fc.assert(
      fc.property(
        fc.array(fc.tuple(number, number, size, size), { minLength: 1, maxLength: 5 }),
        (list) => {
          // Off the grid a little, each its own, so that no two sides lie on each other.
          const boxes = list.map(([x, y, w, h], i) => [x + 0.13 * i, y + 0.17 * i, w, h] as const)
          const cells = cellsOf(boxes.flatMap(([x, y, w, h], i) => box(x, y, w, h, `b${i}s`)))
          let union = 0
          const xs = [...new Set(boxes.flatMap(([x, , w]) => [x, x + w]))].sort((a, b) => a - b)
          const ys = [...new Set(boxes.flatMap(([, y, , h]) => [y, y + h]))].sort((a, b) => a - b)
          for (let i = 1; i < xs.length; i++)
            for (let j = 1; j < ys.length; j++) {
              const [mx, my] = [(xs[i]! + xs[i - 1]!) / 2, (ys[j]! + ys[j - 1]!) / 2]
              if (boxes.some(([x, y, w, h]) => mx > x && mx < x + w && my > y && my < y + h))
                union += (xs[i]! - xs[i - 1]!) * (ys[j]! - ys[j - 1]!)
            }
          const sum = cells.reduce((s, c) => s + regionArea(c), 0)
          // Rooms that boxes close in between them are cells too.
          expect(sum).toBeGreaterThan(union - 1e-6)
          for (const c of cells) expect(cellAt(cells, insideOf(c))).toBe(c)
        },
      ),
      { numRuns: 60, endOnFailure: true },
    )
  })
  it('are found again by their pieces, wherever they go; else by their place, unsurely', () => {
    const at = (x: number) => cellsOf([ring([0, 0], 10, 'a'), ring([x, 0], 6, 'b')])
    const before = at(8)
    const lens = cellAt(before, [7, 0])!
    const ref = cellRef(lens)
    // The lens and the right crescent have the same pieces: the place decides.
    const moved = at(9)
    expect(cellOf(moved, ref)).toEqual({ cell: cellAt(moved, [7, 0]), sure: true })
    expect(cellOf(at(3), ref)!.sure).toBe(false)
    expect(cellOf(at(40), ref)).toEqual({ cell: expect.anything(), sure: false })
    expect(cellOf(cellsOf([ring([90, 0], 3, 'c')]), ref)).toBeNull()
  })
})
