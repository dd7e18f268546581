import * as fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { P3 } from '../../math'
import type { TriMesh } from '../../mesh'
import {
  type Cage,
  CageSkinner,
  creased,
  finer,
  formKept,
  insertLoops,
  laidOnto,
  layOf,
  orbitsOf,
  startBox,
  startCylinder,
  startPlane,
  tableOf,
  thickened,
} from '..'
import { LimitPlaces, refineRows } from '../limit/masks'
import { refined, refinePoints } from '../limit/refine'

/** A ball of radius r about a place, by n quads from pole to pole. */
function ball(r: number, [x, y, z]: P3, n: number): TriMesh {
  const at: number[] = []
  const triangles: number[] = []
  const w = 2 * n + 1
  for (let i = 0; i <= n; i++)
    for (let j = 0; j < w; j++) {
      const [a, b] = [(Math.PI * i) / n, (Math.PI * j) / n]
      at.push(
        x + r * Math.sin(a) * Math.cos(b),
        y + r * Math.sin(a) * Math.sin(b),
        z + r * Math.cos(a),
      )
    }
  for (let i = 0; i < n; i++)
    for (let j = 0; j < 2 * n; j++) {
      const p = i * w + j
      if (i > 0) triangles.push(p, p + w, p + 1)
      if (i < n - 1) triangles.push(p + 1, p + w, p + w + 1)
    }
  return { positions: Float32Array.from(at), triangles: Uint32Array.from(triangles) }
}
const table = (c: Cage) => {
  const made = tableOf(c)
  if (!made.ok) throw new Error(made.diagnosis.message)
  return made.value
}
const shaken = (c: Cage, seed: number, by: number): Cage => ({
  ...c,
  at: c.at.map((x, k) => x + by * Math.sin(12.9898 * (k + 1) + seed)),
})
/** A box, or a sheet, with creases of all kinds. */
const someCage = fc
  .record({
    seed: fc.double({ min: 0, max: 6, noNaN: true }),
    open: fc.boolean(),
    sharp: fc.constantFrom(0, 0.4, 1.5, 10),
    peak: fc.constantFrom(0, 0.7, 2, 10),
  })
  .map(({ seed, open, sharp, peak }) => {
    const c = open ? startPlane([60, 40], 3, 2) : startBox([40, 30, 20], [2, 2, 1], false)
    const [a, b] = c.layout.faces[0]!.corners as [number, number]
    return shaken(creased(creased(c, [[a, b]], [], sharp), [], [b], peak), seed, 3)
  })

describe('places of the limit by the points of a cage', () => {
  test('rows say what refining does, and hand back by their transpose', () => {
    fc.assert(
      fc.property(someCage, (c) => {
        const t = table(c)
        const out = new Float64Array(3 * refined(t).points)
        refinePoints(t, c.at, out)
        const rows = refineRows(t)
        const made = rows.of(c.at)
        for (const [k, x] of out.entries()) expect(made[k]).toBeCloseTo(x, 10)
        const asked = out.map((_, k) => Math.cos(k))
        const dot = (a: Float64Array, b: Float64Array) => a.reduce((s, x, k) => s + x * b[k]!, 0)
        expect(dot(made, asked)).toBeCloseTo(dot(c.at, rows.handedBack(asked, t.points)), 6)
      }),
      { numRuns: 40 },
    )
  })
  test('made finer, a cage keeps its limit', () => {
    fc.assert(
      fc.property(someCage, (c) => {
        const made = finer(c, 'e')
        if (!made.ok) throw new Error(made.diagnosis.message)
        // Points of the table refined twice, and of the finer one refined once, are the same places in the same order.
        const [a, b] = [
          new LimitPlaces(table(c), 2).of(c.at),
          new LimitPlaces(table(made.value), 1).of(made.value.at),
        ]
        const spots = (p: Float64Array) =>
          new Set(
            Array.from({ length: p.length / 3 }, (_, i) =>
              [...p.subarray(3 * i, 3 * i + 3)]
                .map((x) => (Math.round(x * 1e6) / 1e6 + 0).toFixed(5))
                .join(' '),
            ),
          )
        const [own, then] = [spots(a), spots(b)]
        const lost = [...own].filter((s) => !then.has(s))
        // Rounding may part a few that lie between two of the last digits.
        expect(lost.length).toBeLessThan(own.size / 20)
      }),
      { numRuns: 30 },
    )
  })
})

describe('a cage laid onto triangles', () => {
  const mesh = ball(60, [0, 0, -30], 120)
  const sheet = (across: number, along: number, z: number): Cage => {
    const c = startPlane([60, 40], across, along)
    return { ...c, at: c.at.map((x, k) => (k % 3 === 2 ? z : x)) }
  }
  test('a sheet over a ball: nearer the finer it is, and so far outside as asked', () => {
    let before = 1
    for (const [across, along] of [
      [6, 4],
      [12, 8],
    ] as const)
      for (const gap of [0, 0.4]) {
        const c = sheet(across, along, 40)
        const all = new Set(c.layout.points.keys())
        const at = laidOnto(c, table(c), mesh, gap, all)
        // Against the ball itself, not its triangles (0.02 mm inside it at most).
        const places = new LimitPlaces(table(c), 3).of(at)
        let most = 0
        for (let i = 0; i < places.length; i += 3) {
          const [x, y, z] = places.subarray(i, i + 3) as unknown as [number, number, number]
          most = Math.max(most, Math.abs(Math.hypot(x, y, z + 30) - 60 - gap))
        }
        expect(most).toBeLessThan(gap === 0 ? before * 0.6 : before * 1.5)
        const told = layOf({ at }, table(c), mesh, gap, all)!
        expect(Math.abs(told.most - most)).toBeLessThan(0.025)
        if (gap === 0) before = most
      }
    expect(before).toBeLessThan(0.04)
  })
  test('what is not chosen stays', () => {
    const c = sheet(6, 4, 35)
    const moves = new Set([...c.layout.points.keys()].filter((p) => c.at[3 * p]! > -15))
    const at = laidOnto(c, table(c), mesh, 0, moves)
    for (const p of c.layout.points.keys())
      if (!moves.has(p))
        expect([...at.subarray(3 * p, 3 * p + 3)]).toEqual([...c.at.subarray(3 * p, 3 * p + 3)])
    expect(layOf({ at }, table(c), mesh, 0, moves)!.most).toBeLessThan(0.2)
    expect(layOf({ at }, table(c), mesh, 0, new Set([8]))).toBeNull()
  })
})

describe('a line put into a cage', () => {
  test('whose form is kept: a round one stays round, far nearer than without', () => {
    const ring = (z: number) => ({ radius: 30 + 8 * Math.sin(z / 15), z })
    const c = startCylinder(10, [0, 18, 36, 54, 72].map(ring), { floor: false, lid: false })
    const [a, b] = [2 * 10, 3 * 10]
    const after = insertLoops(c, [[a, b]], 0.3, 'e')
    const was = new CageSkinner(table(c), 4).skin(c)
    const all = new Set(after.layout.points.keys())
    const loose = layOf(after, table(after), was, 0, all)!
    const kept = formKept(c, after)
    if (!kept.ok) throw new Error(kept.diagnosis.message)
    // As told, and measured anew on finer triangles of the form before.
    const { most } = layOf(kept.value.cage, table(kept.value.cage), was, 0, all)!
    expect(kept.value.reached.most).toBeCloseTo(most, 9)
    expect(loose.most).toBeGreaterThan(0.3)
    expect(most).toBeLessThan(0.1 * loose.most)
    // What is far from the line has not moved at all.
    const at = (cage: Cage, name: string) => {
      const p = cage.layout.points.indexOf(name)
      return [...cage.at.subarray(3 * p, 3 * p + 3)]
    }
    expect(at(kept.value.cage, '0.3')).toEqual(at(c, '0.3'))
  })
})

describe('an open cage made a wall', () => {
  test('its first side stays, the wall is as thick as asked and closed', () => {
    for (const by of [2.5, -2.5]) {
      const c = shaken(startPlane([60, 40], 6, 4), 1, 0.4)
      const made = thickened(c, by, 'e')
      if (!made.ok) throw new Error(made.diagnosis.message)
      const { cage, wall } = made.value
      expect(cage.layout.faces).toHaveLength(2 * 24 + 20)
      expect([wall.least, wall.most].every((d) => Math.abs(d - 2.5) < 0.05)).toBe(true)
      const t = table(cage)
      expect([...t.edgeCorners].every((x) => x >= 0)).toBe(true)
      // Its first points are the sheet's, and end where they ended.
      const [own, now] = [new LimitPlaces(table(c), 1).of(c.at), new LimitPlaces(t, 1).of(cage.at)]
      for (let k = 0; k < c.at.length; k++) expect(now[k]).toBeCloseTo(own[k]!, 9)
    }
  })
  test('a fold keeps its wall on both sides, and a mirrored one stays mirrored', () => {
    // A roof of two slopes of 30 degrees: its ridge goes up by t / cos 30.
    const c = startPlane([60, 40], 4, 4)
    const y = (p: number) => c.at[3 * p + 1]!
    const at = c.at.map((x, k) =>
      k % 3 === 2 ? 20 - Math.abs(y(Math.floor(k / 3))) * Math.tan(Math.PI / 6) : x,
    )
    const ridge = c.layout.rows.find((r) => r.points.every((p) => Math.abs(y(p)) < 1e-9))!.points
    const edges = ridge.slice(1).map((p, i) => [ridge[i]!, p] as [number, number])
    const roof = creased({ ...c, at }, edges, [], 10)
    const made = thickened(roof, 2, 'e')
    if (!made.ok) throw new Error(made.diagnosis.message)
    const { cage, wall } = made.value
    const top = ridge[2]!
    const over = cage.layout.points.indexOf(`e:${roof.layout.points[top]}`)
    expect(cage.at[3 * over + 2]! - roof.at[3 * top + 2]!).toBeCloseTo(2 / Math.cos(Math.PI / 6), 4)
    expect(wall.least).toBeCloseTo(2, 3)
    expect('without' in orbitsOf(cage, { turns: 1, mirrors: [0, 1] })).toBe(false)
  })
  test('a closed one has no border for it', () => {
    const made = thickened(startBox([10, 10, 10], [1, 1, 1], false), 1, 'e')
    expect(made.ok ? '' : made.diagnosis.code).toBe('cage-closed')
  })
})
