import { describe, expect, it } from 'vitest'
import { curvatureAt, tangentAt } from '../curve'
import { type Drawing, shapeOf } from '.'

/** A half circle of radius 10 from (0,-10) to (0,10) by the right, and a curve that goes on from `join`. */
const drawing = (kind: 'tangent' | 'smooth', from: 'start' | 'end', first: boolean): Drawing => {
  const join = from === 'end' ? 'b' : 'a'
  const way = from === 'end' ? 1 : -1
  const ids = first ? [join, 'm', 'n'] : ['n', 'm', join]
  return {
    points: {
      a: { x: 0, y: -10 },
      v: { x: 10, y: 0 },
      b: { x: 0, y: 10 },
      m: { x: -14, y: 4 * way },
      n: { x: -22, y: -3 * way },
    },
    entities: [
      { id: 'arc', kind: 'arc', a: 'a', via: 'v', b: 'b' },
      {
        id: 'curve',
        kind: 'fit',
        points: ids,
        handles: ids.map(() => ({ hold: 'auto' as const })),
      },
    ],
    relations: [{ id: 'r', kind, points: [], entities: ['arc', 'curve'] }],
  }
}
const curves = (d: Drawing) => {
  const shape = shapeOf(d, Number)
  const of = (id: string) => shape.drawn.find((x) => x.id === id)!.curve
  return { arc: of('arc'), curve: of('curve'), shape }
}

describe.each([
  ['end', true],
  ['end', false],
  ['start', true],
  ['start', false],
] as const)('a curve that goes on from the %s of an arc (its own start: %s)', (from, first) => {
  const [t, s] = [from === 'end' ? 1 : 0, first ? 0 : 1]
  it('tangent: no kink', () => {
    const { arc, curve, shape } = curves(drawing('tangent', from, first))
    const [u, v] = [tangentAt(arc, t), tangentAt(curve, s)]
    expect(u[0] * v[1] - u[1] * v[0]).toBeCloseTo(0, 12)
    // Run through the join the way goes on and does not turn back.
    const way = (t === 1 ? 1 : -1) * (s === 0 ? 1 : -1)
    expect((u[0] * v[0] + u[1] * v[1]) * way).toBeCloseTo(1, 12)
    expect(shape.hold).toMatchObject({ unfit: [], conflict: [] })
  })
  it('smooth: the curvature of the arc, 1/10, on the same side', () => {
    const { arc, curve, shape } = curves(drawing('smooth', from, first))
    const way = (t === 1 ? 1 : -1) * (s === 0 ? 1 : -1)
    expect(Math.abs(curvatureAt(arc, t))).toBeCloseTo(0.1, 12)
    expect(curvatureAt(curve, s) * way).toBeCloseTo(curvatureAt(arc, t), 8)
    expect(shape.hold.unfit).toEqual([])
  })
})

it('a curvature that no handle gives is told', () => {
  const d = drawing('smooth', 'end', true)
  const straight: Drawing = {
    ...d,
    entities: [{ id: 'arc', kind: 'line', a: 'a', b: 'b' }, d.entities[1]!],
  }
  expect(curves(straight).shape.hold.unfit).toMatchObject([{ id: 'r' }])
})
it('pieces that do not meet are told', () => {
  const d = drawing('tangent', 'end', true)
  const apart: Drawing = {
    ...d,
    points: { ...d.points, z: { x: 1, y: 12 } },
    entities: [
      d.entities[0]!,
      { ...d.entities[1]!, points: ['z', 'm', 'n'] } as Drawing['entities'][number],
    ],
  }
  expect(curves(apart).shape.hold.unfit).toMatchObject([{ id: 'r' }])
})
