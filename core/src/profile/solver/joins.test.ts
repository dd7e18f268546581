import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Curve, curvatureAt, nearest, pointAt, tangentAt } from '../../curve'
import { drawingSchema, type Entity, shapeOf } from '..'

type P2 = [number, number]
const read = (v: number | string) => Number(v)

const drawn = (points: Record<string, P2>, entities: Entity[], relations: object[] = []) =>
  shapeOf(
    drawingSchema.parse({
      points: Object.fromEntries(Object.entries(points).map(([id, [x, y]]) => [id, { x, y }])),
      entities,
      relations,
    }),
    read,
  )

/** A drawing of these points and pieces, the second piece held to the first at their shared end. */
function joined(
  points: Record<string, P2>,
  entities: Entity[],
  kind: 'tangent' | 'smooth',
  fixed: string[] = [],
): { first: Curve; second: Curve; unfit: string[]; conflict: string[] } {
  const shape = drawn(points, entities, [
    ...fixed.map((p) => ({ id: `f-${p}`, kind: 'fixed', points: [p], entities: [] })),
    { id: 'join', kind, points: [], entities: entities.map((e) => e.id) },
  ])
  const [first, second] = entities.map((e) => shape.drawn.find((d) => d.id === e.id)!.curve)
  return {
    first: first!,
    second: second!,
    unfit: shape.hold.unfit.map((u) => u.message),
    conflict: shape.hold.conflict,
  }
}
/** End direction of the first and start direction of the second: the sine of the angle between. */
const kink = ({ first, second }: { first: Curve; second: Curve }) => {
  const [u, v] = [tangentAt(first, 1), tangentAt(second, 0)]
  return u[0] * v[1] - u[1] * v[0]
}

const arc: Entity = { id: 'arc', kind: 'arc', a: 'a', via: 'm', b: 'j' }
const round: Record<string, P2> = {
  a: [20, 0],
  m: [20 * Math.SQRT1_2, 20 * Math.SQRT1_2],
  j: [0, 20],
}
const poles = (degree: number): Entity => ({
  id: 'spline',
  kind: 'poles',
  points: ['j', 'p', 'q', 'r', 's'],
  degree,
})
const legs: Record<string, P2> = { p: [-8, 22], q: [-16, 12], r: [-22, 4], s: [-30, 6] }

describe('a spline of control points at its end', () => {
  it.each([2, 3, 4])('goes on from an arc in its direction and curvature, degree %i', (degree) => {
    const j = joined({ ...round, ...legs }, [arc, poles(degree)], 'smooth', ['a', 'm', 'j', 's'])
    expect(j).toMatchObject({ unfit: [], conflict: [] })
    expect(kink(j)).toBeCloseTo(0, 10)
    expect(curvatureAt(j.second, 0)).toBeCloseTo(curvatureAt(j.first, 1), 9)
    // The arc stayed: its radius is 20.
    expect(curvatureAt(j.first, 1)).toBeCloseTo(1 / 20, 9)
  })
  it('runs out of a line without bending at first', () => {
    const line: Entity = { id: 'line', kind: 'line', a: 'a', b: 'j' }
    const j = joined({ ...round, ...legs }, [line, poles(3)], 'smooth', ['a', 'j', 's'])
    expect(kink(j)).toBeCloseTo(0, 10)
    expect(curvatureAt(j.second, 0)).toBeCloseTo(0, 9)
  })
  it('meets another spline that ends there, knots given or even', () => {
    const other: Entity = {
      id: 'before',
      kind: 'poles',
      points: ['a', 'm', 'n', 'o', 'j'],
      degree: 3,
      knots: [0, 0, 0, 0, 0.7, 1, 1, 1, 1],
    }
    const at = { ...round, ...legs, n: [8, 19] as P2, o: [4, 20.5] as P2 }
    const j = joined(at, [other, poles(3)], 'smooth', ['a', 'j', 's'])
    expect(j).toMatchObject({ unfit: [], conflict: [] })
    expect(kink(j)).toBeCloseTo(0, 10)
    expect(curvatureAt(j.second, 0)).toBeCloseTo(curvatureAt(j.first, 1), 8)
  })
  it('from wherever it is drawn', () => {
    const near = fc.tuple(
      fc.double({ min: -3, max: 3, noNaN: true }),
      fc.double({ min: -3, max: 3, noNaN: true }),
    )
    fc.assert(
      fc.property(near, near, (dp, dq) => {
        const at = {
          ...round,
          ...legs,
          p: [legs.p![0] + dp[0], legs.p![1] + dp[1]] as P2,
          q: [legs.q![0] + dq[0], legs.q![1] + dq[1]] as P2,
        }
        const j = joined(at, [arc, poles(3)], 'smooth', ['a', 'm', 'j', 's'])
        expect(j.conflict).toEqual([])
        expect(kink(j)).toBeCloseTo(0, 9)
        expect(curvatureAt(j.second, 0)).toBeCloseTo(curvatureAt(j.first, 1), 8)
      }),
      { numRuns: 40 },
    )
  })
  it('of degree 1 has no curvature to hold, and is told so', () => {
    const j = joined({ ...round, ...legs }, [arc, poles(1)], 'smooth')
    expect(j.unfit[0]).toMatch(/where a curve meets/)
  })
})

describe('an arc of an ellipse', () => {
  const quarter: Entity = { id: 'oval', kind: 'elliptic', c: 'c', a: 'j', b: 'b', sweep: 90 }
  it('is met by a line in the direction of its other half-axis', () => {
    const line: Entity = { id: 'line', kind: 'line', a: 'k', b: 'j' }
    const at: Record<string, P2> = { k: [31, -9], c: [0, 0], j: [30, 0], b: [0, 12] }
    const j = joined(at, [line, quarter], 'tangent', ['c', 'j', 'b'])
    expect(kink(j)).toBeCloseTo(0, 10)
    // At the end of a half-axis an ellipse runs along the other one: the line stands upright.
    expect(Math.abs(tangentAt(j.first, 1)[0])).toBeLessThan(1e-9)
  })
  it('has the curvature of the textbook at both vertices: a / b² and b / a²', () => {
    const shape = drawn({ c: [0, 0], j: [30, 0], b: [0, 12] }, [quarter])
    const { curve } = shape.drawn[0]!
    // Within the 1e-8 of a circle's radius to which its spans meet it, seen twice differentiated.
    expect(curvatureAt(curve, 0) / (30 / 12 ** 2)).toBeCloseTo(1, 3)
    expect(curvatureAt(curve, 1) / (12 / 30 ** 2)).toBeCloseTo(1, 3)
  })
  it('lies on the ellipse whatever share of it is drawn', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 350 }).filter((s) => Math.abs(s - 180) > 3),
        fc.double({ min: 2, max: 40, noNaN: true }),
        (sweep, half) => {
          const s = (sweep * Math.PI) / 180
          const b: P2 = [20 * Math.cos(s), half * Math.sin(s)]
          const shape = drawn({ c: [0, 0], j: [20, 0], b }, [{ ...quarter, sweep }])
          const { curve } = shape.drawn[0]!
          for (const t of [0, 0.3, 0.61, 1]) {
            const [x, y] = pointAt(curve, t)
            expect(Math.hypot(x / 20, y / half)).toBeCloseTo(1, 6)
          }
        },
      ),
    )
  })
  it('that is flat is left out and told as empty', () => {
    const shape = drawn({ c: [0, 0], j: [20, 0], b: [40, 0] }, [quarter])
    expect(shape.empty).toEqual(['oval'])
  })
  it('of a half turn is refused', () =>
    expect(
      drawingSchema.safeParse({
        points: { c: { x: 0, y: 0 }, j: { x: 1, y: 0 }, b: { x: -1, y: 0 } },
        entities: [{ ...quarter, sweep: 180 }],
      }).success,
    ).toBe(false))
})

describe('a point on a curve', () => {
  const on = (points: Record<string, P2>, entity: Entity, more: object[] = []) =>
    drawn(
      { ...points, free: points.free! },
      [entity, { id: 'aid', kind: 'line', a: 'free', b: 'end' }],
      [
        ...Object.keys(points)
          .filter((p) => p !== 'free')
          .map((p) => ({ id: `f-${p}`, kind: 'fixed', points: [p], entities: [] })),
        { id: 'on', kind: 'on', points: ['free'], entities: [entity.id] },
        ...more,
      ],
    )
  const away = (shape: ReturnType<typeof drawn>): number => {
    const { curve } = shape.drawn[0]!
    return nearest(curve, shape.points.free!).d
  }
  const place = fc.tuple(
    fc.double({ min: -40, max: 40, noNaN: true }),
    fc.double({ min: -40, max: 40, noNaN: true }),
  )
  it('of control points lands on it from wherever it was, with one freedom left', () => {
    fc.assert(
      fc.property(place, fc.integer({ min: 1, max: 4 }), (free, degree) => {
        const points: Record<string, P2> = { j: [0, 20], ...legs, end: [60, 60], free }
        // Beyond its ends a spline counts as running on straight, as a line does.
        const { t } = nearest(drawn(points, [poles(degree)]).drawn[0]!.curve, free)
        fc.pre(t > 0.02 && t < 0.98)
        const shape = on(points, poles(degree))
        expect(shape.hold.conflict).toEqual([])
        expect(away(shape)).toBeLessThan(1e-6)
        expect(shape.hold.freedoms).toBe(1)
      }),
      { numRuns: 60 },
    )
  })
  it('stays on it where a height is held too, and where the curve is drawn over', () => {
    const points: Record<string, P2> = { j: [0, 20], ...legs, end: [60, 60], free: [-18, 9] }
    const level = { id: 'level', kind: 'level', points: ['free', 'q'], entities: [] }
    const shape = on(points, poles(3), [level])
    expect(shape.hold).toMatchObject({ freedoms: 0, conflict: [], redundant: [] })
    expect(shape.points.free![1]).toBeCloseTo(12, 9)
    expect(away(shape)).toBeLessThan(1e-7)
    // With its ends fixed alone the curve gives way as well.
    const loose = drawn(
      { j: [0, 20], ...legs, end: [60, 60], free: [-18, 30] },
      [poles(3), { id: 'aid', kind: 'line', a: 'free', b: 'end' }],
      [
        { id: 'f', kind: 'fixed', points: ['free'], entities: [] },
        { id: 'on', kind: 'on', points: ['free'], entities: ['spline'] },
      ],
    )
    expect(loose.points.free).toEqual([-18, 30])
    expect(away(loose)).toBeLessThan(1e-7)
  })
  it('of an ellipse or an arc of one', () => {
    const oval: Entity = { id: 'oval', kind: 'ellipse', c: 'c', end: 'e', ratio: 0.5 }
    const part: Entity = { id: 'part', kind: 'elliptic', c: 'c', a: 'e', b: 'b', sweep: 90 }
    fc.assert(
      fc.property(place, fc.constantFrom(oval, part), (free, entity) => {
        fc.pre(Math.hypot(...free) > 1)
        const points = { c: [0, 0], e: [24, 7], b: [-4, 12], end: [60, 60], free } as Record<
          string,
          P2
        >
        const used = entity === oval ? ['c', 'e'] : ['c', 'e', 'b']
        const shape = on(
          Object.fromEntries(
            Object.entries(points).filter(
              ([id]) => used.includes(id) || id === 'end' || id === 'free',
            ),
          ),
          entity,
        )
        expect(shape.hold.conflict).toEqual([])
        // The whole ellipse the arc is part of, by its equation in conjugate half-diameters.
        const [u, v]: [P2, P2] = [[24, 7], entity === oval ? [-3.5, 12] : [-4, 12]]
        const [x, y] = shape.points.free!
        const field = u[0] * v[1] - u[1] * v[0]
        const share = Math.hypot((x * v[1] - y * v[0]) / field, (u[0] * y - u[1] * x) / field)
        expect(share).toBeCloseTo(1, 9)
      }),
      { numRuns: 60 },
    )
  })
  it('through points is refused in words', () => {
    const fit: Entity = {
      id: 'curve',
      kind: 'fit',
      points: ['j', 'p', 'q'],
      handles: [{ hold: 'auto' }, { hold: 'auto' }, { hold: 'auto' }],
    }
    const { p, q } = legs
    const shape = on({ j: [0, 20], p: p!, q: q!, end: [60, 60], free: [3, 3] }, fit)
    expect(shape.hold.unfit[0]!.message).toMatch(/curve is none/)
  })
})
