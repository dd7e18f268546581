import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { type P3, placeAt } from '../../math'
import { areaVector, columnAt, type Patch, rowAt } from '../../surface'
import {
  bridged,
  type Cage,
  creased,
  cutAcross,
  dissolved,
  edgeKey,
  extrudeFaces,
  filled,
  insertLoops,
  movedAlike,
  movedBy,
  openLoops,
  orbitsOf,
  relaxed,
  rounded,
  type Symmetry,
  startBox,
  startCylinder,
  startPlane,
  startRing,
  surfaced,
  tableOf,
  welded,
  withCopies,
  withFalloff,
  without,
} from '..'
import { enclosed, euler, good, number } from '../cages.test-data'

const rings = (n: number) => Array.from({ length: n }, (_, k) => ({ radius: 10, z: 5 * k }))
const tube = (columns: number, bands: number, shut = false) =>
  startCylinder(columns, rings(bands + 1), { floor: shut, lid: shut })
const orbits = (c: Cage, s: Symmetry) => {
  const found = orbitsOf(c, s)
  if ('without' in found) throw new Error('not symmetric')
  return found
}
const face = (c: Cage, name: string) => c.layout.faces.findIndex((f) => f.name === name)

describe('what a cage begins as', () => {
  test('hangs together as its shape does (Euler)', () => {
    expect(euler(tube(7, 3))).toBe(0)
    expect(euler(tube(7, 3, true))).toBe(2)
    expect(euler(startBox([1, 2, 3], [2, 3, 4], false))).toBe(2)
    expect(euler(startBox([9, 9, 9], [2, 2, 2], true))).toBe(2)
    expect(euler(startPlane([3, 4], 5, 2))).toBe(1)
    expect(euler(startRing(20, 5, 9, 4))).toBe(0)
  })
  test('looks out: what it encloses is above 0', () => {
    for (const c of [
      tube(8, 2, true),
      startBox([1, 2, 3], [2, 3, 4], false),
      startRing(20, 5, 9, 4),
    ])
      expect(enclosed(c)).toBeGreaterThan(0)
  })
})
describe('edits', () => {
  test('faces carried out: walls all round, as many as the border has edges', () => {
    const c = extrudeFaces(tube(8, 3), [[face(tube(8, 3), 'f1.2')]], 3, 0.5, 'e1')
    const t = good(tableOf(c))
    expect([t.faces, euler(c)]).toEqual([24 + 4, 0])
    expect(c.layout.points).toContain('e1:1.2')
    // A row all round: two rings of walls.
    const band = withCopies(orbits(tube(8, 3), { turns: 8, mirrors: [] }).faces, [
      face(tube(8, 3), 'f1.0'),
    ])
    expect(band).toHaveLength(8)
    expect(good(tableOf(extrudeFaces(tube(8, 3), [band], 3, 1, 'e1'))).faces).toBe(24 + 16)
  })
  test('a line round a tube becomes a row between its rows; across, it ends at its rims', () => {
    const c = tube(8, 3)
    const round = insertLoops(c, [[number(c, '1.0'), number(c, '2.0')]], 0.25, 'e1')
    expect(good(tableOf(round)).faces).toBe(32)
    expect(round.layout.rows.map((r) => r.name)).toEqual(['0', '1', 'e1', '2', '3'])
    for (const p of round.layout.rows[2]!.points)
      expect(placeAt(round.at, p)[2]).toBeCloseTo(5 + 0.25 * 5)
    const up = insertLoops(c, [[number(c, '1.0'), number(c, '1.1')]], 0.5, 'e1')
    expect(good(tableOf(up)).faces).toBe(27)
    expect(euler(up)).toBe(0)
  })
  test('a line that comes to a face of more corners leaves no half-joined point', () => {
    const c = tube(8, 3, true)
    const up = insertLoops(c, [[number(c, '1.0'), number(c, '1.1')]], 0.5, 'e1')
    expect(euler(up)).toBe(2)
    expect(up.layout.faces[face(up, 'floor')]!.corners).toHaveLength(9)
  })
  test('a line over some faces ends inside: the next face takes its end in; over none it is a point on an edge', () => {
    const c = tube(8, 4)
    const edge = [[number(c, '2.0'), number(c, '2.1')]] as [number, number][]
    const corners = (of: Cage) => of.layout.faces.map((f) => f.corners.length).sort()
    const one = insertLoops(c, edge, 0.5, 'e1', 1)
    expect([one.layout.points.length - c.layout.points.length, euler(one)]).toEqual([3, 0])
    expect(corners(one).slice(-3)).toEqual([4, 5, 5])
    expect(one.layout.faces).toHaveLength(34)
    const point = insertLoops(c, edge, 0.25, 'e1', 0)
    expect([point.layout.faces.length, euler(point)]).toEqual([32, 0])
    expect(corners(point).slice(-3)).toEqual([4, 5, 5])
    const n = number(point, 'e1:2.0~2.1')
    const [a, b] = ['2.0', '2.1'].map((name) => placeAt(c.at, number(c, name)))
    for (const d of [0, 1, 2])
      expect(placeAt(point.at, n)[d]).toBeCloseTo(0.75 * a![d]! + 0.25 * b![d]!, 12)
    // Longer than the strip it is the whole of it.
    expect(insertLoops(c, edge, 0.5, 'e1', 99)).toEqual(insertLoops(c, edge, 0.5, 'e1'))
  })
  test('two lines across each other part the face they cross in into four', () => {
    const c = startPlane([4, 4], 2, 2)
    const made = insertLoops(
      c,
      [
        [number(c, '0.0'), number(c, '0.1')],
        [number(c, '0.0'), number(c, '1.0')],
      ],
      0.5,
      'e1',
    )
    expect(good(tableOf(made)).faces).toBe(9)
    expect(euler(made)).toBe(1)
  })
  test('holes: found, shut, fanned, gridded and bridged', () => {
    const c = tube(8, 2)
    const loops = openLoops(c)
    expect(loops.map((l) => l.length)).toEqual([8, 8])
    for (const how of ['shut', 'fan', 'grid'] as const) {
      const made = good(filled(good(filled(c, loops[0]!, how, 'a')), loops[1]!, how, 'b'))
      expect([how, euler(made)]).toEqual([how, 2])
      expect(enclosed(made)).toBeGreaterThan(0)
    }
    expect(filled(tube(7, 1), openLoops(tube(7, 1))[0]!, 'grid', 'a').ok).toBe(false)
    const ring = good(bridged(c, loops[0]!, loops[1]!, 'r'))
    expect(euler(ring)).toBe(0)
    expect(openLoops(ring)).toEqual([])
  })
  test('taken out, rubbed out, cut across and welded', () => {
    const c = tube(8, 3)
    expect(openLoops(without(c, new Set([face(c, 'f1.2')])))).toHaveLength(3)
    const one = dissolved(c, [[number(c, '1.1'), number(c, '1.2')]])
    expect([good(tableOf(one)).faces, euler(one)]).toEqual([23, 0])
    const cut = good(cutAcross(c, [[number(c, '1.1'), number(c, '2.2')]], 'e1'))
    expect([good(tableOf(cut)).faces, euler(cut)]).toEqual([25, 0])
    expect(cutAcross(c, [[number(c, '1.1'), number(c, '1.2')]], 'e1').ok).toBe(false)
    const joined = good(welded(c, [[number(c, '1.1'), number(c, '1.2')]]))
    expect([good(tableOf(joined)).faces, euler(joined)]).toEqual([24, 0])
    expect(welded(c, [[number(c, '1.1'), number(c, '2.2')]]).ok).toBe(false)
  })
  test('a crease goes with its edge; where the edge goes, so does the crease', () => {
    const c = creased(tube(8, 3), [[number(tube(8, 3), '1.1'), number(tube(8, 3), '1.2')]], [], 2)
    expect([...c.layout.creases.values()]).toEqual([2])
    const out = extrudeFaces(c, [[face(c, 'f1.1')]], 2, 1, 'e1')
    expect(out.layout.creases.size).toBe(2)
    expect(without(c, new Set([face(c, 'f1.1'), face(c, 'f0.1')])).layout.creases.size).toBe(0)
    expect(creased(c, [[number(c, '1.1'), number(c, '1.2')]], [], 0).layout.creases.size).toBe(0)
  })
  test('falls off along edges, rows go round, relaxing brings points together', () => {
    const c = tube(8, 4)
    const counts = withFalloff(c, [number(c, '2.0')], 6)
    expect(counts.get(number(c, '2.0'))).toBe(1)
    const beside = counts.get(number(c, '3.0'))!
    expect(beside).toBeGreaterThan(0)
    expect(beside).toBeLessThan(1)
    expect(counts.has(number(c, '2.4'))).toBe(false)
    const row = c.layout.rows[2]!.points
    const bent = {
      ...c,
      at: c.at.map((x, i) => (row.includes(Math.floor(i / 3)) ? x * 1.3 + 0.1 * (i % 7) : x)),
    }
    const ways = rounded(bent, row, true)
    const to = row.map((p) => [0, 1].map((d) => bent.at[3 * p + d]! + ways.get(p)![d]!))
    const middle = [0, 1].map((d) => to.reduce((s, q) => s + q[d]!, 0) / 8)
    const radii = to.map((q) => Math.hypot(q[0]! - middle[0]!, q[1]! - middle[1]!))
    expect(Math.max(...radii) - Math.min(...radii)).toBeLessThan(1e-9)
    const gap = Math.hypot(to[0]![0]! - to[1]![0]!, to[0]![1]! - to[1]![1]!)
    expect(gap).toBeCloseTo(2 * radii[0]! * Math.sin(Math.PI / 8), 9)
    expect(relaxed(c, row, 2).size).toBe(8)
  })
})

describe('symmetry by construction', () => {
  test('a tube has the turns that divide its columns, and its mirrors', () => {
    for (const turns of [2, 3, 4, 6, 12])
      expect('without' in orbitsOf(tube(12, 2), { turns, mirrors: [] })).toBe(false)
    expect('without' in orbitsOf(tube(12, 2), { turns: 5, mirrors: [] })).toBe(true)
    expect(orbits(tube(12, 2), { turns: 12, mirrors: [0] }).motions).toHaveLength(24)
  })
  test('a point on a mirror plane stays on it, whatever is asked', () => {
    const c = tube(8, 2)
    const { cage, most } = movedAlike(
      c,
      orbits(c, { turns: 1, mirrors: [1] }),
      movedBy(new Map([[number(c, '1.0'), 1]]), [3, 4, 5]),
    )
    expect(placeAt(cage.at, number(c, '1.0'))).toEqual([13, 0, 10])
    expect(most).toBeCloseTo(Math.hypot(3, 5))
  })
  test('property: any moves and face edits leave the symmetry as it was, and tables whole', () => {
    const what = fc.record({
      kind: fc.constantFrom('move', 'extrude', 'loop', 'crease', 'remove'),
      at: fc.nat(1000),
      by: fc.tuple(
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
      ),
    })
    fc.assert(
      fc.property(
        fc.constantFrom(
          { turns: 6, mirrors: [] },
          { turns: 3, mirrors: [1] },
          { turns: 1, mirrors: [0, 1] },
        ),
        fc.array(what, { minLength: 1, maxLength: 5 }),
        (s, edits) => {
          const symmetry = s as Symmetry
          let c = tube(12, 3)
          for (const [k, { kind, at, by }] of edits.entries()) {
            const all = orbits(c, symmetry)
            const f = at % c.layout.faces.length
            const copies = withCopies(all.faces, [f])
            const corners = c.layout.faces[f]!.corners
            if (kind === 'move')
              c = movedAlike(c, all, movedBy(new Map([[at % c.layout.points.length, 1]]), by)).cage
            else if (kind === 'extrude') c = extrudeFaces(c, [copies], by[0], 0.8, `e${k}`)
            else if (kind === 'remove') {
              if (copies.length < c.layout.faces.length / 2) {
                const next = without(c, new Set(copies))
                if (tableOf(next).ok) c = next
              }
            } else {
              const edges = all.points.map((of) => [of[corners[0]!]!, of[corners[1]!]!] as const)
              if (kind === 'crease') c = creased(c, edges, [], 3)
              else {
                const next = insertLoops(
                  c,
                  [...new Map(edges.map((e) => [edgeKey(...e), e])).values()],
                  0.5,
                  `e${k}`,
                  [0, 1, 2, Number.POSITIVE_INFINITY][at % 4],
                )
                c = next
              }
            }
            expect(good(tableOf(c)).faces).toBe(c.layout.faces.length)
            expect('without' in orbitsOf(c, symmetry)).toBe(false)
          }
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('what is no skin is told with its places', () => {
  const broken = (faces: number[][]): Cage => ({
    layout: {
      points: ['a', 'b', 'c', 'd', 'e', 'f', 'g'],
      faces: faces.map((corners, k) => ({ name: `f${k}`, corners })),
      creases: new Map(),
      peaks: new Map(),
      rows: [],
    },
    at: Float64Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, 1, 2, 0, 1, 3, 3, 3]),
  })
  const code = (c: Cage) => {
    const t = tableOf(c)
    return t.ok ? 'ok' : [t.diagnosis.code, t.diagnosis.places.length > 0]
  }
  test('each by its own words', () => {
    expect(code(broken([]))).toEqual(['cage-empty', false])
    expect(code(broken([[0, 1, 1, 2]]))).toEqual(['cage-face', true])
    expect(
      code(
        broken([
          [0, 1, 2, 3],
          [0, 1, 4],
        ]),
      ),
    ).toEqual(['cage-turned', true])
    expect(
      code(
        broken([
          [0, 1, 2, 3],
          [1, 0, 4],
          [1, 0, 5],
        ]),
      ),
    ).toEqual(['cage-edge', true])
    expect(
      code(
        broken([
          [0, 1, 2],
          [0, 3, 4],
        ]),
      ),
    ).toEqual(['cage-pinch', true])
    expect(code(broken([[0, 1, 2, 3]]))).toEqual(['cage-loose', true])
  })
})

test('exact patches of random cages meet along the same curves: what they and flat ends enclose is closed', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 60, maxLength: 60 }),
      (r) => {
        const c = startBox([10, 10, 10], [2, 2, 1], false)
        const moved = { ...c, at: c.at.map((x, i) => x + r[i % 60]!) }
        const made = surfaced(good(tableOf(moved)), moved, 0.05)
        // The area vectors of a closed skin sum up to nothing.
        const sum = [0, 0, 0]
        for (const { patch } of made.patches) {
          const area = areaOf(patch)
          for (let d = 0; d < 3; d++) sum[d]! += area[d]!
        }
        for (const s of sum) expect(Math.abs(s)).toBeLessThan(1e-6)
      },
    ),
    { numRuns: 10 },
  )
})
/** The area of a patch along x, y and z: what its border encloses. */
function areaOf(p: Patch): number[] {
  const side = (basis: Patch['u'], poles: P3[]) => areaVector([{ basis, poles }])
  const [low, high] = [side(p.u, rowAt(p, false)), side(p.u, rowAt(p, true))]
  const [left, right] = [side(p.v, columnAt(p, false)), side(p.v, columnAt(p, true))]
  return [0, 1, 2].map((d) => low[d]! + right[d]! - high[d]! - left[d]!)
}
