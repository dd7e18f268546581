import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { fluxThrough } from '../../surface'
import { startBox, startCylinder } from '../begin/start'
import { surfaced } from '../faces/surfaced'
import { type Cage, edgeKey, edgesOf } from '../layout'
import { limitNormal, limitPoint, sectorOf } from './limit'
import { OPENSUBDIV } from './opensubdiv.test-data'
import { type Level, refinedLevel } from './refine'
import { tableOf } from './table'

/** A cage from places, faces and sharp edges. */
function cage(at: number[][], faces: number[][], creases: [number, number, number][] = []): Cage {
  return {
    layout: {
      points: at.map((_, i) => String(i)),
      faces: faces.map((corners, i) => ({ name: `f${i}`, corners })),
      creases: new Map(creases.map(([a, b, s]) => [edgeKey(a, b), s])),
      peaks: new Map(),
      rows: [],
    },
    at: Float64Array.from(at.flat()),
  }
}
const cubeAt = [0, 1].flatMap((z) => [
  [0, 0, z],
  [1, 0, z],
  [1, 1, z],
  [0, 1, z],
])
const cubeFaces = [
  [0, 3, 2, 1],
  [4, 5, 6, 7],
  [0, 1, 5, 4],
  [1, 2, 6, 5],
  [2, 3, 7, 6],
  [3, 0, 4, 7],
]
const cube = cage(cubeAt, cubeFaces)

function levels(c: Cage, n: number): Level {
  const t = tableOf(c)
  if (!t.ok) throw new Error(t.diagnosis.message)
  let level: Level = { table: t.value, at: c.at }
  for (let k = 0; k < n; k++) level = refinedLevel(level)
  return level
}
const at = ({ at }: Level, p: number) => [...at.subarray(3 * p, 3 * p + 3)]
const near = (a: number[], b: number[], places = 12) => {
  for (const [i, x] of a.entries()) expect(x).toBeCloseTo(b[i]!, places)
}
function limit(l: Level, p: number): number[] {
  const out = new Float64Array(3)
  limitPoint(l.table, l.at, p, out, 0)
  return [...out]
}

describe('refining a cube (Catmull and Clark, 1978; exact fractions)', () => {
  test('counts', () => {
    for (let k = 0; k < 4; k++) {
      const { table: t } = levels(cube, k)
      expect([t.faces, t.edges, t.points]).toEqual([6 * 4 ** k, 12 * 4 ** k, 6 * 4 ** k + 2])
    }
  })
  test('its points after one, two and three steps, and in the end', () => {
    near(at(levels(cube, 1), 0), [2 / 9, 2 / 9, 2 / 9])
    near(at(levels(cube, 2), 0), [53 / 216, 53 / 216, 53 / 216])
    near(at(levels(cube, 3), 0), [323 / 1296, 323 / 1296, 323 / 1296])
    near(limit(levels(cube, 1), 0), [1 / 4, 1 / 4, 1 / 4])
  })
  test('the limit as exact faces holds the volume 0.327552379087 (exact patch integrals)', () => {
    const t = tableOf(cube)
    if (!t.ok) throw new Error()
    for (const tolerance of [1e-2, 1e-3, 1e-4]) {
      const made = surfaced(t.value, cube, tolerance)
      const volume = made.patches.reduce((s, p) => s + fluxThrough(p.patch), 0)
      expect(made.patches).toHaveLength(6)
      expect(made.off).toBeLessThan(tolerance)
      expect(Math.abs(volume - 0.327552379087373)).toBeLessThan(4 * tolerance)
    }
  })
})

describe('against OpenSubdiv', () => {
  for (const { name, at: places, faces, creases, corners, level, seen, count } of OPENSUBDIV)
    test(name, () => {
      const bare = cage(places, faces, creases as [number, number, number][])
      const peaks = new Map(corners as [number, number][])
      const l = levels({ ...bare, layout: { ...bare.layout, peaks } }, level)
      expect(l.table.points).toBe(count)
      for (const row of seen) {
        const [, x, y, z, lx, ly, lz, nx, ny, nz] = row as number[]
        const p = nearest(l, [x!, y!, z!])
        near(at(l, p), [x!, y!, z!], 12)
        const t = l.table
        const sharp = sharpRound(l, p)
        // Where one sharp edge ends that library takes the mask of a smooth point, which is not where its own refinement ends.
        near(limit(l, p), [lx!, ly!, lz!], sharp === 1 && !(t.pointSharp[p]! > 0) ? 2 : 12)
        const normals = [...t.pointFaces.subarray(t.faceRing[p]!, t.faceRing[p + 1]!)].map((f) => {
          const out = new Float64Array(3)
          limitNormal(t, l.at, p, f, out, 0)
          return Math.acos(Math.min(1, out[0]! * nx! + out[1]! * ny! + out[2]! * nz!))
        })
        // Along a crease it tells one of the normals, at corners something between.
        if (sharp === 0 && !(t.pointSharp[p]! > 0)) expect(Math.max(...normals)).toBeLessThan(2e-6)
        else if (sharp === 2 && !(t.pointSharp[p]! > 0))
          expect(Math.min(...normals)).toBeLessThan(2e-6)
      }
    })
})
/** How many of the edges round a point are sharp. */
const sharpRound = ({ table: t }: Level, p: number): number =>
  [...t.pointEdges.subarray(t.edgeRing[p]!, t.edgeRing[p + 1]!)].filter((e) => t.edgeSharp[e]! > 0)
    .length

describe('where points end', () => {
  const box = startBox([40, 30, 20], [3, 2, 2], false)
  const tube = startCylinder(
    7,
    [0, 10, 25, 30].map((z, k) => ({ radius: 12 + 3 * (k % 2), z })),
    { floor: false, lid: true },
  )
  test('property: refined once more they end in the same place, looking the same way, whatever is sharp', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(box, tube),
        fc.array(fc.tuple(fc.nat(200), fc.constantFrom(10, 10, 1.5)), { maxLength: 12 }),
        fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 30, maxLength: 30 }),
        ({ layout, at: places }, sharp, moves) => {
          const edges = [...edgesOf(layout.faces).keys()]
          const creases = new Map(sharp.map(([k, s]) => [edges[k % edges.length]!, s]))
          const pushed = places.map((x, i) => x + moves[i % moves.length]!)
          let level = levels({ layout: { ...layout, creases }, at: pushed }, 2)
          const before = level
          level = refinedLevel(level)
          const facesAt = ({ table: t }: Level, p: number) =>
            t.pointFaces.subarray(t.faceRing[p]!, t.faceRing[p + 1]!)
          let [off, turned] = [0, 0]
          for (let p = 0; p < before.table.points; p++) {
            const [a, b] = [limit(before, p), limit(level, p)]
            off = Math.max(off, ...a.map((x, i) => Math.abs(x - b[i]!)))
            if (before.table.pointSharp[p]! > 0 || sharpRound(before, p) > 2) continue
            for (const f of facesAt(before, p)) {
              // A crease bends round the only face on its side there: what that looks like is told by no two tangents.
              if (!sectorOf(before.table, p, f).round && sectorOf(before.table, p, f).count === 1)
                continue
              const g = facesAt(level, p).find((c) => before.table.cornerFace[c] === f)!
              const [u, v] = [new Float64Array(3), new Float64Array(3)]
              limitNormal(before.table, before.at, p, f, u, 0)
              limitNormal(level.table, level.at, p, g, v, 0)
              turned = Math.max(turned, Math.hypot(u[0]! - v[0]!, u[1]! - v[1]!, u[2]! - v[2]!))
            }
          }
          expect(off).toBeLessThan(1e-10)
          expect(turned).toBeLessThan(1e-7)
        },
      ),
      { numRuns: 20 },
    )
  })
  test('a sharp edge that ends: its limit to 1e-12 of what five more refinements come to', () => {
    for (const faces of [3, 4, 5, 7]) {
      const rings = [0, 10, 20].map((z, k) => ({ radius: [15, 12, 9][k]!, z }))
      const cone = startCylinder(faces, rings, { floor: false, lid: true })
      const { layout } = cone
      const up = [layout.points.indexOf('1.0'), layout.points.indexOf('2.0')] as const
      const creases = new Map([[edgeKey(...up), 10]])
      let level = levels({ layout: { ...layout, creases }, at: cone.at }, 1)
      const ends = up.map((p) => limit(level, p))
      for (let k = 0; k < 5; k++) level = refinedLevel(level)
      for (const [i, p] of up.entries()) {
        near(limit(level, p), ends[i]!, 12)
        // The point itself is nearly there.
        near(at(level, p), ends[i]!, 1)
      }
    }
  })
})

function nearest({ at, table }: Level, [x, y, z]: [number, number, number]): number {
  let [best, far] = [0, Number.POSITIVE_INFINITY]
  for (let p = 0; p < table.points; p++) {
    const d = Math.hypot(at[3 * p]! - x, at[3 * p + 1]! - y, at[3 * p + 2]! - z)
    if (d < far) [best, far] = [p, d]
  }
  return best
}
