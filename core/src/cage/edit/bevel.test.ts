import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { dot3, norm3, type P3, placeAt, sub3 } from '../../math'
import {
  bevelled,
  type Cage,
  creased,
  edgeKey,
  edgesAlike,
  edgesOf,
  facesAtEdges,
  orbitsOf,
  startBox,
  startCylinder,
  startPlane,
  startRing,
  tableOf,
} from '..'
import { enclosed, euler, good, number } from '../cages.test-data'

const tube = (columns: number, bands: number) =>
  startCylinder(
    columns,
    Array.from({ length: bands + 1 }, (_, k) => ({ radius: 10, z: 5 * k })),
    { floor: false, lid: false },
  )
const inner = (c: Cage): [number, number][] =>
  [...facesAtEdges(c.layout.faces)].flatMap(([key, at]) =>
    at.length === 2 ? [key.split(' ').map(Number) as [number, number]] : [],
  )

describe('edges cut off', () => {
  test('all edges of a cube: what is left is a cube less prisms and corners (closed form)', () => {
    const cube = startBox([20, 20, 20], [1, 1, 1], false)
    for (const w of [0.5, 2, 7]) {
      const c = good(bevelled(cube, inner(cube), w, 'b'))
      expect(good(tableOf(c)).faces).toBe(6 + 12 + 8)
      expect(enclosed(c)).toBeCloseTo(20 ** 3 - 6 * w * w * (20 - 2 * w) - (20 / 3) * w ** 3, 6)
    }
  })
  test('sides of a strip lie as far from the edge as was told, in the faces beside it', () => {
    const c = startPlane([40, 30], 4, 3)
    const line = [0, 1, 2].map((j): [number, number] => [
      number(c, `${j}.2`),
      number(c, `${j + 1}.2`),
    ])
    const made = good(bevelled(c, line, 1.5, 'b'))
    expect(euler(made)).toBe(1)
    for (const [p, name] of made.layout.points.entries())
      if (name.startsWith('b:')) expect(Math.abs(placeAt(made.at, p)[0])).toBeCloseTo(1.5, 9)
    // Rows that cross it take both its sides in.
    expect(made.layout.rows.map((r) => r.points.length)).toEqual([6, 6, 6, 6])
  })
  test('a row all round becomes two, and keeps the turns it had', () => {
    const c = tube(8, 3)
    const ring = c.layout.rows[1]!.points
    const round = ring.map((p, i): [number, number] => [p, ring[(i + 1) % 8]!])
    const made = good(bevelled(c, round, 1, 'b'))
    expect(made.layout.rows.map((r) => [r.name, r.points.length])).toEqual([
      ['0', 8],
      ['1', 8],
      ['b:1', 8],
      ['2', 8],
      ['3', 8],
    ])
    const heights = made.layout.rows.map((r) => placeAt(made.at, r.points[3]!)[2])
    expect(heights[1]).toBeCloseTo(4)
    expect(heights[2]).toBeCloseTo(6)
    expect('without' in orbitsOf(made, { turns: 8, mirrors: [] })).toBe(false)
  })
  test('a line that ends inside runs to a point; what was sharp beside it stays so', () => {
    const c = creased(tube(8, 4), [[number(tube(8, 4), '2.1'), number(tube(8, 4), '3.1')]], [], 4)
    const line = [0, 1, 2].map((j): [number, number] => [
      number(c, `${j}.3`),
      number(c, `${j + 1}.3`),
    ])
    const made = good(bevelled(c, line, 0.8, 'b'))
    expect(euler(made)).toBe(0)
    expect(made.layout.faces.filter((f) => f.corners.length === 3)).toHaveLength(1)
    expect([...made.layout.creases.values()]).toEqual([4])
  })
  test('the most that goes is told, and goes', () => {
    const c = startPlane([40, 30], 4, 3)
    const lines = [1, 2].flatMap((i) =>
      [0, 1, 2].map((j): [number, number] => [number(c, `${j}.${i}`), number(c, `${j + 1}.${i}`)]),
    )
    const made = bevelled(c, lines, 6, 'b')
    expect(made.ok ? '' : made.diagnosis.message).toContain('below 5 mm')
    expect(bevelled(c, lines, 4.999, 'b').ok).toBe(true)
    expect(bevelled(c, lines, 0, 'b').ok).toBe(false)
  })
  test('rims and single edges are refused with their place', () => {
    const c = tube(8, 2)
    expect(bevelled(c, [[number(c, '0.0'), number(c, '0.1')]], 1, 'b').ok).toBe(false)
    const ball = startBox([9, 9, 9], [3, 3, 3], true)
    const one = inner(ball)[5]!
    const made = bevelled(ball, [one], 0.2, 'b')
    expect(made.ok ? 0 : made.diagnosis.places?.length).toBe(1)
  })
  test('any edges of any cage: it hangs together as before, keeps its turns, no face turns over', () => {
    const starts = [
      tube(6, 4),
      startBox([20, 30, 24], [2, 3, 2], false),
      startBox([20, 20, 20], [3, 3, 3], true),
      startPlane([30, 30], 5, 4),
      startRing(20, 6, 9, 5),
    ]
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: starts.length - 1 }),
        fc.array(fc.nat(10_000), { minLength: 1, maxLength: 30 }),
        fc.double({ min: 0.05, max: 0.9, noNaN: true }),
        (s, picks, share) => {
          const c = starts[s]!
          const may = inner(c)
          const symmetry = { turns: s === 0 ? 6 : 1, mirrors: [] }
          const orbits = orbitsOf(c, symmetry)
          if ('without' in orbits) throw new Error('not symmetric')
          const picked = new Map(
            picks.map((k) => may[k % may.length]!).map((e) => [edgeKey(...e), e]),
          )
          const edges = edgesAlike([...picked.values()], orbits)
          const first = bevelled(c, edges, 1e3, 'b')
          const told = first.ok ? '' : first.diagnosis.message
          const most = Number(/below ([\d.]+)/.exec(told)?.[1] ?? 0)
          if (most === 0) return
          const made = good(bevelled(c, edges, most * share, 'b'))
          expect(euler(made)).toBe(euler(c))
          expect('without' in orbitsOf(made, symmetry)).toBe(false)
          const now = new Map(made.layout.faces.map((f) => [f.name, f.corners]))
          for (const { name, corners } of c.layout.faces)
            for (const [i, p] of corners.entries()) {
              const q = corners[(i + 1) % corners.length]!
              const after = now.get(name)!
              const at = (k: number, of: Cage, at: readonly number[]) =>
                placeAt(of.at, at[k % at.length]!)
              const e: P3 = sub3(placeAt(c.at, q), placeAt(c.at, p))
              const d: P3 = sub3(at(i + 1, made, after), at(i, made, after))
              expect(dot3(e, d)).toBeGreaterThan(-1e-9 * norm3(e))
            }
          expect(edgesOf(made.layout.faces).size).toBeGreaterThanOrEqual(may.length)
        },
      ),
      { numRuns: 120 },
    )
  })
})
