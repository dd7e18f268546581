import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  arc,
  type Curve,
  endOf,
  intersect,
  lengthOf,
  line,
  nearest,
  pointAt,
  reverse,
} from '../../curve'
import type { Outcome, P2 } from '../../math'
import {
  type Drawing,
  drawingSchema,
  type Entity,
  enclosed,
  regionArea,
  type Shape,
  shapeOf,
} from '..'
import { breakAtCrossings, filletAt, offsetChain, trimAt } from '.'

const read = (v: number | string): number => Number(v)
const shape = (d: Drawing): Shape => shapeOf(drawingSchema.parse(d), read)
const got = <T>(o: Outcome<T>): T => {
  if (!o.ok) throw new Error(o.diagnosis.message)
  return o.value
}
const areaOf = (curves: readonly Curve[]): number =>
  enclosed(curves.map((curve, i) => ({ curve, name: `c${i}` }))).reduce(
    (a, r) => a + regionArea(r),
    0,
  )

const coordinate = fc.integer({ min: -300, max: 300 }).map((n) => n / 10)
const place = fc.tuple(coordinate, coordinate)
/** Pieces of every kind on points of their own, thrown on the same 60 by 60 mm. */
const entityOf = (kind: Entity['kind'], id: string, p: string[]): Entity => {
  switch (kind) {
    case 'arc':
      return { id, kind, a: p[0]!, via: p[1]!, b: p[2]! }
    case 'circle':
      return { id, kind, c: p[0]!, radius: 14 }
    case 'fit':
      return { id, kind, points: p, handles: p.map(() => ({ hold: 'auto' })) }
    case 'poles':
      return { id, kind, points: p, degree: 3 }
    case 'ellipse':
      return { id, kind, c: p[0]!, end: p[1]!, ratio: 0.6 }
    case 'elliptic':
      return { id, kind, c: p[0]!, a: p[1]!, b: p[2]!, sweep: 90 }
    default:
      return { id, kind: 'line', a: p[0]!, b: p[1]! }
  }
}
const KINDS = ['line', 'line', 'arc', 'circle', 'fit', 'poles', 'ellipse', 'elliptic'] as const
const tangle = fc
  .array(fc.tuple(fc.constantFrom(...KINDS), fc.array(place, { minLength: 4, maxLength: 4 })), {
    minLength: 2,
    maxLength: 6,
  })
  .map((list): Drawing => {
    const points = Object.fromEntries(
      list.flatMap(([, at], i) => at.map(([x, y], k) => [`p${i}${k}`, { x, y }])),
    )
    const entities = list.map(([kind], i) =>
      entityOf(
        kind,
        `e${i}`,
        [0, 1, 2, 3].map((k) => `p${i}${k}`),
      ),
    )
    return { points, entities }
  })
  .filter((d) => {
    const s = shape(d)
    // What crosses at a hair's breadth is decided by rounding, either way.
    return s.empty.length === 0 && s.drawn.every((c) => lengthOf(c.curve) > 2 && calm(s, c.curve))
  })

/** Every crossing of the curve stands clear of its ends and is no touch. */
function calm(s: Shape, c: Curve): boolean {
  return s.drawn.every(
    (o) =>
      o.curve === c ||
      intersect(c, o.curve).every((m) => {
        const p = pointAt(c, m.t)
        const clear = [c, o.curve].every(
          (k) =>
            Math.hypot(...minus(p, pointAt(k, 0))) > 0.01 &&
            Math.hypot(...minus(p, endOf(k))) > 0.01,
        )
        const [u, v] = [way(c, m.t), way(o.curve, m.s)]
        return clear && Math.abs(u[0] * v[1] - u[1] * v[0]) > 0.02
      }),
  )
}
const minus = (a: P2, b: P2): P2 => [a[0] - b[0], a[1] - b[1]]
const way = (c: Curve, t: number): P2 => {
  const [a, b] = [pointAt(c, Math.max(0, t - 1e-5)), pointAt(c, Math.min(1, t + 1e-5))]
  const d = minus(b, a)
  const n = Math.hypot(...d) || 1
  return [d[0] / n, d[1] / n]
}
const total = (curves: readonly Curve[]) => curves.reduce((s, c) => s + lengthOf(c), 0)
const drawnFrom = (d: Drawing) => shape(d).drawn.map((c) => c.curve)

describe('breaking and trimming whatever is thrown together', () => {
  it('a piece broken at its crossings is as long as before, and its parts cross nothing', () => {
    fc.assert(
      fc.property(tangle, (d) => {
        const s = shape(d)
        const piece = s.drawn[0]!
        const others = s.drawn.slice(1).map((c) => c.curve)
        const crossings = others.flatMap((o) => intersect(piece.curve, o))
        const broken = breakAtCrossings(d, s, piece.id)
        if (!broken.ok) {
          const ring = Math.hypot(...minus(pointAt(piece.curve, 0), endOf(piece.curve))) < 1e-9
          expect(crossings.length).toBeLessThanOrEqual(ring ? 1 : 0)
          return
        }
        const next = shape(got(broken))
        const parts = next.drawn.filter((c) => !d.entities.some((e) => e.id === c.id))
        expect(total(parts.map((p) => p.curve))).toBeCloseTo(lengthOf(piece.curve), 4)
        for (const part of parts)
          for (const o of others)
            for (const m of intersect(part.curve, o))
              expect(Math.min(m.t, 1 - m.t) * lengthOf(part.curve)).toBeLessThan(1e-3)
      }),
      { numRuns: 120 },
    )
  })
  it('trimming takes one stretch between crossings and leaves all else where it was', () => {
    fc.assert(
      fc.property(tangle, fc.double({ min: 0.02, max: 0.98, noNaN: true }), (d, t) => {
        const s = shape(d)
        const piece = s.drawn[0]!
        const at = pointAt(piece.curve, t)
        const others = s.drawn.slice(1)
        const stops = others.flatMap((o) => intersect(piece.curve, o.curve).map((m) => m.t))
        fc.pre(stops.every((x) => Math.abs(x - t) > 1e-3))
        const trimmed = trimAt(d, s, piece.id, at)
        if (!trimmed.ok) {
          expect(trimmed.diagnosis.message).toMatch(/crossed fewer than twice/)
          return
        }
        const next = shape(drawingSchema.parse(trimmed.value))
        const parts = next.drawn.filter((c) => !others.some((o) => o.id === c.id))
        // The others stand as they stood.
        for (const o of others)
          expect(next.drawn.find((c) => c.id === o.id)?.curve).toEqual(o.curve)
        // What is left lies on the old piece and keeps away from the place that was clicked.
        for (const p of parts) {
          for (const u of [0, 0.25, 0.5, 0.75, 1])
            expect(nearest(piece.curve, pointAt(p.curve, u)).d).toBeLessThan(2e-3)
          expect(nearest(p.curve, at).d).toBeGreaterThan(0)
        }
        expect(total(parts.map((p) => p.curve))).toBeLessThan(lengthOf(piece.curve))
        // And it is what breaking leaves when the one part under the pointer is taken out.
        // (An ellipse is broken at its seam as well.)
        const broken = breakAtCrossings(d, s, piece.id)
        if (!broken.ok || d.entities[0]!.kind === 'ellipse') return
        const all = shape(broken.value).drawn.filter((c) => !others.some((o) => o.id === c.id))
        const nearestPart = Math.min(...all.map((p) => nearest(p.curve, at).d))
        const taken = all.find((p) => nearest(p.curve, at).d === nearestPart)!
        expect(total(parts.map((p) => p.curve))).toBeCloseTo(
          lengthOf(piece.curve) - lengthOf(taken.curve),
          3,
        )
      }),
      { numRuns: 120 },
    )
  })
})

describe('regions', () => {
  const ring = fc.tuple(
    place,
    fc.integer({ min: 30, max: 180 }).map((r) => r / 10),
  )
  const circle = ([c, r]: [[number, number], number]): Curve => arc(c, r, 0, 2 * Math.PI)

  it('two circles: what lies in one of them only, by the area of the lens (Bronshtein, 3.1.6)', () => {
    fc.assert(
      fc.property(ring, ring, (a, b) => {
        const [[p, r], [q, s]] = [a, b]
        const d = Math.hypot(p[0] - q[0], p[1] - q[1])
        fc.pre([d - r - s, d - Math.abs(r - s)].every((x) => Math.abs(x) > 0.05))
        const whole = Math.PI * (r * r + s * s)
        const part = (r: number, s: number) => Math.acos((d * d + r * r - s * s) / (2 * d * r))
        const kite = 0.5 * Math.sqrt((-d + r + s) * (d + r - s) * (d - r + s) * (d + r + s))
        const lens =
          d >= r + s
            ? 0
            : d <= Math.abs(r - s)
              ? Math.PI * Math.min(r, s) ** 2
              : r * r * part(r, s) + s * s * part(s, r) - kite
        expect(areaOf([circle(a), circle(b)])).toBeCloseTo(whole - 2 * lens, 5)
      }),
      { numRuns: 80 },
    )
  })

  const blob = fc.tuple(
    place,
    fc.array(fc.integer({ min: 40, max: 160 }), { minLength: 3, maxLength: 7 }),
  )
  /** A polygon about a centre, corner by corner at its radius. */
  const polygonOf = ([c, radii]: [[number, number], number[]]): P2[] =>
    radii.map((r, i): P2 => {
      const a = (2 * Math.PI * i) / radii.length + 0.1
      return [c[0] + (r / 10) * Math.cos(a), c[1] + (r / 10) * Math.sin(a)]
    })
  const outline = (pts: P2[]): Curve[] => pts.map((p, i) => line(p, pts[(i + 1) % pts.length]!))
  /** Even and odd by a ray to the right: the usual test of a point in a polygon. */
  const within = (pts: P2[], [x, y]: P2): boolean =>
    pts.reduce((odd, [x1, y1], i) => {
      const [x2, y2] = pts[(i + 1) % pts.length]!
      return y1 > y !== y2 > y && x < x1 + ((y - y1) * (x2 - x1)) / (y2 - y1) ? !odd : odd
    }, false)

  it('several outlines: the share of a fine grid that lies in an odd number of them', () => {
    fc.assert(
      fc.property(fc.array(blob, { minLength: 1, maxLength: 4 }), (list) => {
        const shapes = list.map(polygonOf)
        const step = 0.5
        let inside = 0
        for (let x = -47.77; x < 48; x += step)
          for (let y = -47.71; y < 48; y += step)
            if (shapes.filter((s) => within(s, [x, y])).length % 2 === 1) inside++
        const around = shapes.reduce((s, p) => s + total(outline(p)), 0)
        // Cells on a boundary are counted whole or not at all; their errors mostly cancel.
        const loose = 4 + 0.25 * step * around
        expect(Math.abs(areaOf(shapes.flatMap(outline)) - inside * step * step)).toBeLessThan(loose)
      }),
      { numRuns: 40 },
    )
  })
  it('nothing depends on the order of the pieces or the way they run', () => {
    fc.assert(
      fc.property(
        fc.array(blob, { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 1e6 }),
        (list, seed) => {
          const curves = list.flatMap((b) => outline(polygonOf(b)))
          const mixed = curves
            .map((c, i) => ({
              c: (seed * (i + 7)) % 3 === 0 ? reverse(c) : c,
              k: (seed * (i + 3)) % 101,
            }))
            .sort((a, b) => a.k - b.k)
            .map((x) => x.c)
          expect(areaOf(mixed)).toBeCloseTo(areaOf(curves), 6)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('offsets of convex outlines', () => {
  const convex = fc
    .uniqueArray(fc.integer({ min: 0, max: 359 }), { minLength: 3, maxLength: 9 })
    .map((angles) =>
      angles
        .sort((a, b) => a - b)
        .map((a): P2 => {
          const r = (a * Math.PI) / 180
          return [30 * Math.cos(r), 30 * Math.sin(r)]
        }),
    )
    .filter((pts) => pts.every((p, i) => Math.hypot(...minus(p, pts[(i + 1) % pts.length]!)) > 3))
  const outline = (pts: P2[]): Curve[] => pts.map((p, i) => line(p, pts[(i + 1) % pts.length]!))
  const distance = fc.integer({ min: 5, max: 60 }).map((n) => n / 10)

  it('outward: area + perimeter d + pi d² (Steiner), and in again the outline itself', () => {
    fc.assert(
      fc.property(convex, distance, (pts, d) => {
        const base = outline(pts)
        const grown = offsetChain(base, -d, 'round')
        const steiner = areaOf(base) + total(base) * d + Math.PI * d * d
        expect(areaOf(grown)).toBeCloseTo(steiner, 5)
        const chained = inOrder(grown)
        expect(areaOf(offsetChain(chained, d, 'round'))).toBeCloseTo(areaOf(base), 4)
      }),
      { numRuns: 60 },
    )
  })
  it('inward: never nearer than the distance, and smaller the farther', () => {
    fc.assert(
      fc.property(convex, distance, (pts, d) => {
        const base = outline(pts)
        const areas = [d / 2, d].map((k) => {
          const inner = offsetChain(base, k, 'sharp')
          for (const c of inner)
            for (const t of [0, 0.2, 0.5, 0.8, 1])
              expect(Math.min(...base.map((b) => nearest(b, pointAt(c, t)).d))).toBeGreaterThan(
                k - 1e-6,
              )
          return inner.length > 0 ? areaOf(inner) : 0
        })
        expect(areas[0]!).toBeLessThan(areaOf(base))
        expect(areas[1]!).toBeLessThan(areas[0]! + 1e-9)
      }),
      { numRuns: 60 },
    )
  })
  /** The pieces of one ring from end to end. */
  function inOrder(curves: readonly Curve[]): Curve[] {
    const left = [...curves]
    const out = [left.shift()!]
    while (left.length > 0) {
      const end = endOf(out[out.length - 1]!)
      const i = left.findIndex((c) => Math.hypot(...minus(pointAt(c, 0), end)) < 1e-5)
      if (i < 0) throw new Error('the offset is not one ring')
      out.push(...left.splice(i, 1))
    }
    return out
  }
})

describe('rounding a corner', () => {
  const corner = (angle: number, a: number, b: number): Drawing => ({
    points: {
      p: { x: a, y: 0 },
      c: { x: 0, y: 0 },
      q: { x: b * Math.cos(angle), y: b * Math.sin(angle) },
    },
    entities: [
      { id: 'l', kind: 'line', a: 'p', b: 'c' },
      { id: 'm', kind: 'line', a: 'c', b: 'q' },
    ],
  })
  const angles = fc.double({ min: 0.3, max: 2.8, noNaN: true })
  const legs = fc.double({ min: 8, max: 50, noNaN: true })
  it('touches both lines, for every angle, length and radius that fits', () => {
    fc.assert(
      fc.property(
        angles,
        legs,
        legs,
        fc.double({ min: 0.05, max: 0.9, noNaN: true }),
        (angle, a, b, share) => {
          const most = Math.min(a, b) * Math.tan(angle / 2)
          const d = corner(angle, a, b)
          const radius = share * most
          const next = drawnFrom(got(filletAt(d, shape(d), 'c', radius)))
          const round = next.find((c) => c.kind === 'arc')
          if (round?.kind !== 'arc') throw new Error('no arc')
          expect(round.radius).toBeCloseTo(radius, 4)
          // The textbook: its centre stands r / sin(half the angle) from the corner.
          expect(Math.hypot(...round.c)).toBeCloseTo(radius / Math.sin(angle / 2), 3)
          expect(Math.abs(round.sweep)).toBeCloseTo(Math.PI - angle, 5)
        },
      ),
      { numRuns: 80 },
    )
  })
  it('the largest that is told holds, and no larger one does', () => {
    fc.assert(
      fc.property(angles, legs, legs, (angle, a, b) => {
        const d = corner(angle, a, b)
        const most = Math.min(a, b) * Math.tan(angle / 2)
        const refused = filletAt(d, shape(d), 'c', most * 1.5)
        if (refused.ok) throw new Error('it should be too large')
        const sizes = [...refused.diagnosis.message.matchAll(/(\d+(?:\.\d+)?) mm/g)]
        const told = Number(sizes.at(-1)![1])
        expect(told).toBeLessThanOrEqual(most + 1e-6)
        expect(told).toBeGreaterThan(most * 0.99 - 0.002)
        expect(filletAt(d, shape(d), 'c', told * 0.999).ok).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
})
