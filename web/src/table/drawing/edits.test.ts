import { type Drawing, drawingSchema, emptyDrawing } from '@ivory/core/profile'
import { describe, expect, it } from 'vitest'
import { addEntity, insertPoint, movePoints, removeFrom, typedSpot } from './edits'
import { gridStep, snapTo } from './snap'
import { typedRadius, typedValue } from './typed'

const plain = { construction: false }
const chain = () => {
  const a = addEntity(emptyDrawing(), 'line', [{ at: [0, 0] }, { at: [30, 0] }], plain)
  return addEntity(a.drawing, 'line', [{ at: [30, 0], id: a.last }, { at: [30, 40] }], plain)
}

describe('drawing', () => {
  it('shares the point where a chain goes on', () => {
    const { drawing } = chain()
    expect(Object.keys(drawing.points)).toHaveLength(3)
    expect(drawingSchema.safeParse(drawing).success).toBe(true)
  })
  it.each([
    [
      'arc',
      [
        [0, 0],
        [5, 5],
        [10, 0],
      ],
    ],
    [
      'centre-arc',
      [
        [0, 0],
        [5, 0],
        [0, 5],
      ],
    ],
    [
      'tangent-arc',
      [
        [0, 0],
        [5, 5],
      ],
    ],
    [
      'circle',
      [
        [0, 0],
        [5, 0],
      ],
    ],
    [
      'fit',
      [
        [0, 0],
        [5, 5],
        [9, 3],
      ],
    ],
    [
      'poles',
      [
        [0, 0],
        [5, 5],
        [9, 3],
        [12, 0],
      ],
    ],
    [
      'axis',
      [
        [0, 0],
        [0, 9],
      ],
    ],
    [
      'elliptic',
      [
        [0, 0],
        [12, 0],
        [0, 7],
      ],
    ],
  ] as const)('%s makes a valid drawing', (tool, at) => {
    const spots = at.map((p) => ({ at: [p[0], p[1]] as [number, number] }))
    const { drawing } = addEntity(emptyDrawing(), tool, spots, { construction: true, via: [3, 3] })
    expect(drawingSchema.safeParse(drawing).success).toBe(true)
  })
  it('removing a shared point removes what hangs on it, and loose points with it', () => {
    const { drawing } = chain()
    const shared = drawing.entities[1]!.kind === 'line' ? drawing.entities[1].a : ''
    expect(removeFrom(drawing, [], [shared])).toEqual(emptyDrawing())
  })
  it('a point put into a line keeps the first half’s name', () => {
    const d = insertPoint(chain().drawing, 'line1', [15, 1], 0)
    expect(d.entities.map((e) => e.id)).toEqual(['line1', 'line3', 'line2'])
  })
  it('a spline with knots of its own keeps standing when a control point comes or goes', () => {
    const at = [0, 5, 9, 12, 15].map((x, i) => ({ at: [x, i % 2] as [number, number] }))
    const { drawing, entity } = addEntity(emptyDrawing(), 'poles', at, { construction: false })
    const knots = [0, 0, 0, 0, 0.3, 1, 1, 1, 1]
    const own = { ...drawing, entities: drawing.entities.map((e) => ({ ...e, knots })) } as Drawing
    expect(drawingSchema.safeParse(own).success).toBe(true)
    const second = Object.keys(own.points)[1]!
    for (const next of [insertPoint(own, entity, [2, 2], 0), removeFrom(own, [], [second])])
      expect(drawingSchema.safeParse(next).error?.issues ?? []).toEqual([])
  })
  it('a driven coordinate does not follow the pointer', () => {
    const { drawing } = chain()
    const id = Object.keys(drawing.points)[1]!
    const driven = { ...drawing, points: { ...drawing.points, [id]: { x: 'neck / 2', y: 4 } } }
    expect(movePoints(driven, driven, [id], [3, 3]).points[id]).toEqual({ x: 'neck / 2', y: 7 })
  })
})

describe('typing a place', () => {
  it.each([
    ['40 25', null, [40, 25]],
    ['40,5 ; 25', null, [40.5, 25]],
    ['+10 -5', [1, 1], [11, -4]],
    ['10 < 90', [1, 1], [1, 11]],
  ] as const)('%s', (text, last, want) => {
    const p = typedSpot(text, last as [number, number] | null)
    if (typeof p === 'string') throw new Error(p)
    expect(p[0]).toBeCloseTo(want[0], 9)
    expect(p[1]).toBeCloseTo(want[1], 9)
  })
  it.each([['hello'], ['4'], ['10 < 90']])('refuses %s in words', (t) =>
    expect(typeof typedSpot(t, null)).toBe('string'),
  )
})

describe('snapping', () => {
  const points = { a: [10, 10] as [number, number] }
  it('prefers a point, then axis, upright and level, then the grid', () => {
    const o = { points, last: [20, 30] as [number, number], reach: 1, grid: 1 }
    expect(snapTo([10.4, 9.7], o)).toMatchObject({ id: 'a' })
    expect(snapTo([0.6, 5.2], o)).toMatchObject({ at: [0, 5], to: 'axis' })
    expect(snapTo([20.5, 30.9], o)).toMatchObject({ at: [20, 30], to: 'upright, level' })
    expect(snapTo([14.4, 0.4], o)).toMatchObject({ at: [14, 0], to: 'base', holds: ['base'] })
    expect(snapTo([14.4, 5.2], o)).toMatchObject({ at: [14, 5], to: 'grid' })
  })
  it('grid steps are round', () => {
    expect(gridStep(0.1, 14)).toBe(2)
    expect(gridStep(0.3, 14)).toBe(5)
  })
})

describe('typed coordinates', () => {
  it.each([
    ['40', 'mm', 40],
    ['40,5', 'mm', 40.5],
    ['40', 'in', '40'],
    ['3/4 in', 'mm', '3/4 in'],
    ['belly / 2', 'mm', 'belly / 2'],
    ['  ', 'mm', null],
  ] as const)('%s in %s', (text, unit, want) => expect(typedValue(text, unit)).toBe(want))
  it('a diameter is halved', () => {
    expect(typedRadius('⌀ 75', 'mm')).toBe(37.5)
    expect(typedRadius('ø belly', 'mm')).toBe('(belly) / 2')
    expect(typedRadius('12', 'mm')).toBe(12)
  })
})
