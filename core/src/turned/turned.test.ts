import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arc, line, pointAt, spline, startOf } from '../curve'
import type { P2 } from '../math'
import { measureMesh } from '../mesh'
import { CUT, combine, enclosed, JOIN, MEET, regionArea } from '../profile'
import {
  areaOf,
  brimVolume,
  cavityOf,
  centroidOf,
  chamferCorner,
  cornersOf,
  facesOf,
  filledTo,
  filletCorner,
  levelFor,
  sectionAreaOf,
  sectionCentroid,
  shell,
  solidMesh,
  spaceBounds,
  splitAt,
  type TurnedBody,
  volumeOf,
  wallAlong,
} from '.'
import { polygon, turn } from './samples.test-data'

const rel = (got: number, want: number, tol = 1e-9) =>
  expect(Math.abs(got / want - 1), `${got} against ${want}`).toBeLessThan(tol)
const PI = Math.PI

/** Row A6: cubic Bezier profile closed by discs at both ends. */
const vase = turn([
  { curve: line([0, 0], [30, 0]), name: 'foot' },
  {
    curve: spline(
      3,
      [0, 0, 0, 0, 1, 1, 1, 1],
      [
        [30, 0],
        [55, 25],
        [15, 60],
        [35, 100],
      ],
    ),
    name: 'side',
  },
  { curve: line([35, 100], [0, 100]), name: 'top' },
  { curve: line([0, 100], [0, 0]), name: 'axis' },
])

describe('volume, area and centroid by Pappus-Guldin', () => {
  it('rings of rectangle and triangle (A1)', () => {
    const a = turn(
      polygon([
        [20, 0],
        [30, 0],
        [30, 15],
        [20, 15],
      ]),
    )
    rel(volumeOf(a), 7500 * PI)
    rel(areaOf(a), 2500 * PI)
    const b = turn(
      polygon([
        [10, 0],
        [22, 0],
        [10, 9],
      ]),
    )
    rel(volumeOf(b), 1512 * PI)
    rel(areaOf(b), 1044 * PI)
  })
  it('sphere (A2)', () => {
    const s = turn([
      { curve: arc([0, 0], 25, -PI / 2, PI), name: 'round' },
      { curve: line([0, 25], [0, -25]), name: 'axis' },
    ])
    rel(volumeOf(s), 65449.8469498)
    rel(areaOf(s), 7853.98163397)
    rel(sectionCentroid(s)[0], 10.6103295395)
  })
  it('torus (A3)', () => {
    const t = turn([{ curve: arc([40, 0], 10, 0, 2 * PI), name: 'ring' }])
    rel(volumeOf(t), 78956.8352087)
    rel(areaOf(t), 15791.3670417)
  })
  it('Bezier vase (A6) and a third of it (A7)', () => {
    rel(volumeOf(vase), (9501025 * PI) / 84)
    rel(areaOf(vase), 28584.7862961)
    rel(centroidOf(vase)[2], 192809280 / 4180451)
    const third = { ...vase, sweep: (2 * PI) / 3 }
    rel(volumeOf(third), 118445.834689, 1e-8)
    rel(areaOf(third), 16223.2620987, 1e-8)
    rel(sectionAreaOf(third), 3347.5)
    rel(Math.hypot(centroidOf(third)[0], centroidOf(third)[1]), 18.8015604247, 1e-8)
    expect(spaceBounds(vase).max[0]).toBeCloseTo(38.5178077048, 8)
  })
  it('bounds of a quarter turn reach only where it was swept', () => {
    const q = { ...vase, sweep: PI / 2 }
    const b = spaceBounds(q)
    expect(b.min[0]).toBeCloseTo(0, 9)
    expect(b.min[1]).toBeCloseTo(0, 9)
    expect(b.max[1]).toBeCloseTo(38.5178077048, 8)
  })
})

const cornerAt = (b: TurnedBody, p: P2) => {
  const c = cornersOf(b).find((x) => Math.hypot(x.at[0] - p[0], x.at[1] - p[1]) < 1e-6)
  if (!c) throw new Error(`no corner at ${p}`)
  return c
}
const must = <T>(o: { ok: true; value: T } | { ok: false; diagnosis: { message: string } }): T => {
  if (!o.ok) throw new Error(o.diagnosis.message)
  return o.value
}
const cylinder = (r: number, h: number) =>
  turn(
    polygon([
      [0, 0],
      [r, 0],
      [r, h],
      [0, h],
    ]),
  )

describe('rounding and bevelling', () => {
  it('takes the spandrel off a cylinder edge (A5)', () => {
    const c = cylinder(30, 40)
    const f = must(filletCorner(c, cornerAt(c, [30, 40]), 5, 'f'))
    rel(volumeOf(c) - volumeOf(f), 973.639135546)
  })
  it('puts tangent points and centre where the closed form has them (C2)', () => {
    for (const [phi, r, t1x, t2, centre] of [
      [60, 10, 17.3205080757, [8.66025403784, 15], 20],
      [140, 8, 2.91176187413, [-2.23053900336, 1.87164445505], 8.51342217981],
    ] as const) {
      const a = (phi * PI) / 180
      const o: P2 = [100, 0]
      const far: P2 = [100 + 40 * Math.cos(a), 40 * Math.sin(a)]
      const b = turn(polygon([o, [140, 0], [140, 60], far]))
      const f = must(filletCorner(b, cornerAt(b, o), r, 'round'))
      const round = facesOf(f).find((x) => x.seg.name === 'round')!.seg.curve
      if (round.kind !== 'arc') throw new Error('expected an arc')
      expect(Math.hypot(round.c[0] - 100, round.c[1])).toBeCloseTo(centre, 9)
      const ends = [pointAt(round, 0), pointAt(round, 1)].sort((p, q) => q[0] - p[0])
      expect(ends[0]![0] - 100).toBeCloseTo(t1x, 9)
      expect(ends[1]![0] - 100).toBeCloseTo(t2[0], 9)
      expect(ends[1]![1]).toBeCloseTo(t2[1], 9)
      expect((Math.abs(round.sweep) * 180) / PI).toBeCloseTo(180 - phi, 9)
    }
  })
  it('fills a concave corner and rounds line to spline', () => {
    const step = turn(
      polygon([
        [0, 0],
        [30, 0],
        [30, 10],
        [15, 10],
        [15, 40],
        [0, 40],
      ]),
    )
    const f = must(filletCorner(step, cornerAt(step, [15, 10]), 4, 'f'))
    expect(volumeOf(f)).toBeGreaterThan(volumeOf(step))
    const v = must(filletCorner(vase, cornerAt(vase, [30, 0]), 3, 'f'))
    expect(volumeOf(v)).toBeLessThan(volumeOf(vase))
    const w = must(filletCorner(v, cornerAt(v, [35, 100]), 2, 'g'))
    for (const c of cornersOf(w)) expect(Math.abs(c.turn)).toBeLessThan(1e-6)
  })
  it('names the face that is used up and at what radius', () => {
    const c = cylinder(30, 8)
    const f = filletCorner(c, cornerAt(c, [30, 8]), 9, 'f')
    expect(f.ok).toBe(false)
    if (!f.ok) expect(f.diagnosis.message).toMatch(/used up at 8 mm/)
  })
  it('bevels by the asked setbacks', () => {
    const c = cylinder(30, 40)
    const f = must(chamferCorner(c, cornerAt(c, [30, 40]), 3, 2, 'b'))
    // triangle 3 x 2 / 2 swept at its centroid, Pappus; before runs up the wall, after along the top
    rel(volumeOf(c) - volumeOf(f), 2 * PI * (30 - 2 / 3) * 3)
  })
})

describe('shells', () => {
  const r35 = () => {
    const c = cylinder(38, 93)
    return must(filletCorner(c, cornerAt(c, [38, 0]), 13, 'base'))
  }
  it('cup with rounded bottom (B5) and its contents (B1)', () => {
    const b = r35()
    rel(volumeOf(b), 413893.14899, 1e-9)
    const open = new Set(
      facesOf(b)
        .filter((f) => f.at[1] > 92.9)
        .map((f) => f.seg),
    )
    const cup = must(shell(b, 3, open, 'in', 's')).body
    rel(volumeOf(cup), 71950.7142499, 1e-7)
    rel(areaOf(cup), 48674.0011803, 1e-7)
    const cav = cavityOf(cup)!
    rel(brimVolume(cav), 341942.43474, 1e-7)
    rel(filledTo(cav, 83).volume, 303457.924734, 1e-7)
    expect(levelFor(cav, 200000)! - 3).toBeCloseTo(53.1169957168, 6)
    // Full to the brim whichever way it is summed, a drop more is too much.
    for (const full of [brimVolume(cav), filledTo(cav, cav.brim).volume])
      expect(levelFor(cav, full)).toBeCloseTo(cav.brim, 9)
    expect(levelFor(cav, brimVolume(cav) + 1)).toBeNull()
    expect(levelFor(cav, -1)).toBeNull()
    const wall = wallAlong(cup)!
    expect(wall.min.wall).toBeCloseTo(3, 6)
    expect(wall.max.wall).toBeCloseTo(3, 6)
  })
  it('grows the same wall outward', () => {
    const inner = cylinder(35, 90)
    const f = must(filletCorner(inner, cornerAt(inner, [35, 0]), 10, 'base'))
    const open = new Set(
      facesOf(f)
        .filter((x) => x.at[1] > 89.9)
        .map((x) => x.seg),
    )
    const cup = must(shell(f, 3, open, 'out', 's')).body
    rel(volumeOf(cup), 71950.7142499, 1e-7)
    rel(brimVolume(cavityOf(cup)!), 341942.43474, 1e-7)
  })
  it('cone frustum capacity (B2)', () => {
    const t = turn(
      polygon([
        [0, -5],
        [40, -5],
        [60, 90],
        [45, 90],
        [30, 0],
        [0, 0],
      ]),
    )
    const cav = cavityOf(t)!
    rel(brimVolume(cav), 128250 * PI)
    rel(filledTo(cav, 45).volume, 161693.846889)
    expect(levelFor(cav, 250000)).toBeCloseTo(63.4364790773, 6)
  })
  it('spherical bowl (B3)', () => {
    const R = 80
    const t = turn([
      { curve: line([0, -5], [90, -5]), name: 'under' },
      { curve: line([90, -5], [90, 50]), name: 'side' },
      { curve: line([90, 50], [Math.sqrt(5500), 50]), name: 'rim' },
      {
        curve: arc(
          [0, 80],
          R,
          Math.atan2(-30, Math.sqrt(5500)),
          -PI / 2 - Math.atan2(-30, Math.sqrt(5500)),
        ),
        name: 'in',
      },
      { curve: line([0, 0], [0, -5]), name: 'axis' },
    ])
    rel(brimVolume(cavityOf(t)!), 497418.836818)
    expect(levelFor(cavityOf(t)!, 497418.836818 / 2)).toBeCloseTo(33.9504872058, 6)
  })
  it('closed hollow sphere (B7)', () => {
    const s = turn([
      { curve: arc([0, 0], 50, -PI / 2, PI), name: 'round' },
      { curve: line([0, 50], [0, -50]), name: 'axis' },
    ])
    const hollow = must(shell(s, 3, new Set(), 'in', 's')).body
    rel(volumeOf(hollow), 88706.0101668)
    expect(wallAlong(hollow)!.min.wall).toBeCloseTo(3, 8)
  })
  it('drops a detail thinner than the wall cleanly and says which', () => {
    const ribbed = turn(
      polygon([
        [0, 0],
        [40, 0],
        [40, 40],
        [42, 40],
        [42, 41],
        [40, 41],
        [40, 80],
        [0, 80],
      ]),
    )
    const open = new Set(
      facesOf(ribbed)
        .filter((f) => f.at[1] > 79)
        .map((f) => f.seg),
    )
    const s = must(shell(ribbed, 4, open, 'in', 's'))
    expect(s.lost.map((l) => l.name)).toContain('e3')
    rel(brimVolume(cavityOf(s.body)!), PI * 36 * 36 * 76, 2e-2)
    expect(wallAlong(s.body)!.min.wall).toBeGreaterThan(4 - 1e-6)
  })
  it('says so when no cavity is left, and where a neck closes off', () => {
    const c = cylinder(20, 40)
    const open = new Set(
      facesOf(c)
        .filter((f) => f.at[1] > 39)
        .map((f) => f.seg),
    )
    const none = shell(c, 21, open, 'in', 's')
    expect(none.ok).toBe(false)
    const bottle = turn(
      polygon([
        [0, 0],
        [40, 0],
        [40, 60],
        [8, 70],
        [8, 90],
        [0, 90],
      ]),
    )
    const mouth = new Set(
      facesOf(bottle)
        .filter((f) => f.at[1] > 89)
        .map((f) => f.seg),
    )
    expect(shell(bottle, 7, mouth, 'in', 's').ok).toBe(true)
    const shut = shell(bottle, 9, mouth, 'in', 's')
    expect(shut.ok).toBe(false)
    if (!shut.ok) expect(shut.diagnosis.code).toBe('pinched')
  })
})

describe('splits and meshes', () => {
  it('the two halves make the whole', () => {
    const s = must(splitAt(vase, 37, 'cut'))
    rel(volumeOf(s.below) + volumeOf(s.above), volumeOf(vase))
    expect(splitAt(vase, 120, 'cut').ok).toBe(false)
  })
  it('a facetted turn has the swept volume times sin(x)/x (I6)', () => {
    const c = cylinder(50, 10)
    const mesh = solidMesh(c, { chord: 0.05, angle: 1 })
    const n = 71
    rel(measureMesh(mesh).volume, volumeOf(c) * (Math.sin((2 * PI) / n) / ((2 * PI) / n)), 1e-9)
  })
  it.each([2 * PI, 2, PI])('a sweep of %f rad closes: every edge has its twin', (sweep) => {
    const mesh = solidMesh({ ...vase, sweep }, { chord: 0.1, angle: 0.3 })
    const seen = new Map<string, number>()
    for (let i = 0; i < mesh.triangles.length; i += 3) {
      for (let k = 0; k < 3; k++) {
        const [a, b] = [mesh.triangles[i + k]!, mesh.triangles[i + ((k + 1) % 3)]!]
        seen.set(`${a}-${b}`, (seen.get(`${a}-${b}`) ?? 0) + 1)
      }
    }
    for (const [key, n] of seen) {
      const [a, b] = key.split('-')
      expect(n).toBe(1)
      expect(seen.get(`${b}-${a}`)).toBe(1)
    }
    expect(Math.abs(measureMesh(mesh).volume / volumeOf({ ...vase, sweep }) - 1)).toBeLessThan(0.02)
  })
})

describe('combining random sections', () => {
  const blob = fc
    .record({
      r: fc.double({ min: 5, max: 30, noNaN: true }),
      z: fc.double({ min: -20, max: 20, noNaN: true }),
      w: fc.double({ min: 2, max: 25, noNaN: true }),
      h: fc.double({ min: 2, max: 25, noNaN: true }),
      round: fc.boolean(),
    })
    .map(({ r, z, w, h, round }) =>
      round
        ? enclosed([{ curve: arc([r + w, z], w * 0.6, 0, 2 * PI), name: 'c' }])
        : enclosed(
            polygon([
              [r, z],
              [r + w, z],
              [r + w, z + h],
              [r, z + h],
            ]),
          ),
    )
  const area = (r: ReturnType<typeof enclosed>) => r.reduce((s, x) => s + regionArea(x), 0)
  it('join + meet = a + b, cut = a - meet, and join commutes', () => {
    fc.assert(
      fc.property(blob, blob, (a, b) => {
        // Boundaries nearer than the point tolerance count as one: 4e-6 mm over some 100 mm.
        const meet = area(combine(a, b, MEET))
        expect(area(combine(a, b, JOIN)) + meet).toBeCloseTo(area(a) + area(b), 3)
        expect(area(combine(a, b, CUT))).toBeCloseTo(area(a) - meet, 3)
        expect(area(combine(b, a, JOIN))).toBeCloseTo(area(combine(a, b, JOIN)), 3)
      }),
      { numRuns: 200 },
    )
  })
  it('a body cut by itself is nothing and joined with itself is itself', () => {
    expect(combine(vase.regions, vase.regions, CUT)).toEqual([])
    expect(area(combine(vase.regions, vase.regions, JOIN))).toBeCloseTo(sectionAreaOf(vase), 8)
  })
  it('nested outlines are holes, and holes in holes material again', () => {
    const ring = (r: number) => ({ curve: arc([50, 0], r, 0, 2 * PI), name: `c${r}` })
    const regions = enclosed([ring(20), ring(12), ring(5)])
    expect(regions.length).toBe(2)
    expect(area(regions)).toBeCloseTo(PI * (400 - 144 + 25), 8)
    expect(startOf(regions[0]!.outer[0]!.curve)).toBeDefined()
  })
})
