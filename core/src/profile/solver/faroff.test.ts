import { describe, expect, it } from 'vitest'
import { hold } from '.'
import { outlineMovedBy } from './faroff.test-data'
import { flips } from './flips'
import { equationsOf } from './loose'
import { roundedMovedBy } from './rounded.test-data'
import { variablesOf } from './system'

const solved = (make: typeof outlineMovedBy, share: number, cases: number) => {
  const out = { held: 0, conflicts: 0, turned: 0 }
  for (let seed = 1; seed <= cases; seed++) {
    const { loose, truth } = make(share, seed)
    const h = hold(loose)
    if (h.state.conflict.length > 0) out.conflicts++
    if (h.state.conflict.length > 0 || h.state.unreached) continue
    out.held++
    for (const [id, want] of Object.entries(loose.targets))
      expect(Math.abs(h.state.measures[id]! - want)).toBeLessThan(1e-8)
    // Where the moved drawing still turns every corner as the true one does and every dimension has the
    // side it has there, so does the result.
    const at = (points: Record<string, readonly [number, number]>) =>
      variablesOf({ ...loose, points })
    const turned = (a: typeof truth, b: typeof truth) =>
      flips(loose.drawing, at(a), at(a).x, at(b).x)
    const moved = loose.points as typeof truth
    const { x } = at(truth)
    const sides = equationsOf(loose, at(moved), loose.targets, []).every(
      (e) => Math.abs(e.value(x).v) < 1e-6,
    )
    if (sides && turned(truth, moved) === 0 && turned(moved, h.points) > 0) out.turned++
  }
  return out
}

describe('drawings far from what they are to be, all of them solvable', () => {
  it.each([
    ['lines', outlineMovedBy, 0.05, 1, 20],
    ['lines', outlineMovedBy, 0.15, 0.96, 30],
    ['lines', outlineMovedBy, 0.3, 0.9, 20],
    ['lines and tangent arcs', roundedMovedBy, 0.05, 1, 12],
    ['lines and tangent arcs', roundedMovedBy, 0.15, 0.91, 12],
  ])('%s: points moved by a share of the size are brought back', (_, make, share, least, cases) => {
    const { held, conflicts, turned } = solved(make, share, cases)
    expect(held / cases).toBeGreaterThanOrEqual(least)
    // What is not reached is never called a conflict.
    expect(conflicts).toBe(0)
    expect(turned).toBe(0)
  })
})

describe('conflicts that are built in', () => {
  it('are named by members that cannot hold together; the rest holds without any one of them', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const { loose, truth } = outlineMovedBy(0, seed)
      const { drawing } = loose
      // A second full width for the first corner, other than the one it has.
      const extra = { ...drawing.dimensions![0]!, id: 'more', value: 2 * truth.p0![0] + 7 }
      const both = {
        ...loose,
        drawing: { ...drawing, dimensions: [...drawing.dimensions!, extra] },
        targets: { ...loose.targets, more: extra.value as number },
      }
      expect([...hold(both).state.conflict].sort()).toEqual(['d0', 'more'])
    }
  })
  it('a set that has a solution on its side is not called one, though the start is singular', () => {
    // Two sides of 40 and 45 between uprights: the longer one has to tilt, which a level start hides.
    const { loose } = outlineMovedBy(0, 1)
    const points = { a: [0, 0], b: [30, 0], c: [30, 20], d: [0, 20] } as const
    const line = (id: string, a: string, b: string) => ({ id, kind: 'line' as const, a, b })
    const drawing = {
      ...loose.drawing,
      points: Object.fromEntries(Object.entries(points).map(([k, [x, y]]) => [k, { x, y }])),
      entities: [
        line('ab', 'a', 'b'),
        line('bc', 'b', 'c'),
        line('cd', 'c', 'd'),
        line('da', 'd', 'a'),
      ],
      relations: ['bc', 'da'].map((e, i) => ({
        id: `r${i}`,
        kind: 'upright' as const,
        points: [],
        entities: [e],
      })),
      dimensions: [
        { id: 'd1', kind: 'distance' as const, points: [], entities: ['ab'], value: 40 },
        { id: 'd2', kind: 'distance' as const, points: [], entities: ['cd'], value: 45 },
      ],
    }
    const h = hold({ drawing, points, radii: {}, targets: { d1: 40, d2: 45 } })
    expect(h.state.conflict).toEqual([])
  })
})
