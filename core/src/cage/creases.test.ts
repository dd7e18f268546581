import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Crease, creaseLines } from '.'

const path = (points: number[], sharp: number): Crease[] =>
  points.slice(1).map((b, i) => ({ a: points[i]!, b, sharp }))

describe('creases as lines', () => {
  it('a ring, an open line, one that changes in sharpness, three that meet', () => {
    const ring = path([1, 2, 3, 4, 1], 10)
    const open = path([5, 6, 7, 8, 9, 10, 11], 2)
    const change = [...path([20, 21, 22], 1), ...path([22, 23], 3)]
    const meeting = [...path([30, 31, 32], 4), ...path([31, 33], 4)]
    const lines = creaseLines([...ring, ...open, ...change, ...meeting])
    expect(lines.map((l) => [l.edges.length, l.sharp, l.closed])).toEqual([
      [6, 2, false],
      [4, Number.POSITIVE_INFINITY, true],
      [2, 1, false],
      [1, 3, false],
      [1, 4, false],
      [1, 4, false],
      [1, 4, false],
    ])
  })
  it('property: whatever their order and way, each crease is in one line, and neighbours in a line share a point', () => {
    const some = fc.array(
      fc.tuple(fc.nat(12), fc.nat(12), fc.constantFrom(1, 2, 10)).filter(([a, b]) => a !== b),
      { maxLength: 30 },
    )
    fc.assert(
      fc.property(some, (raw) => {
        const once = new Map(raw.map(([a, b, sharp]) => [[a, b].sort().join(), { a, b, sharp }]))
        const creases = [...once.values()]
        const lines = creaseLines(creases)
        expect(new Set(lines.flatMap((l) => l.edges)).size).toBe(creases.length)
        expect(lines.reduce((n, l) => n + l.edges.length, 0)).toBe(creases.length)
        for (const { edges } of lines)
          for (const [i, e] of edges.slice(1).entries())
            expect([edges[i]!.a, edges[i]!.b].some((p) => p === e.a || p === e.b)).toBe(true)
      }),
    )
  })
})
