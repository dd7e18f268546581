import { drawingSchema, emptyDrawing, hold, withHolds } from '@ivory/core/profile'
import { describe, expect, it } from 'vitest'
import type { ProfileView } from '../../engine'
import { addEntity, type Spot } from './edits'
import {
  draggedDrawing,
  looseFrom,
  typedAs,
  typedDimension,
  withDimension,
  withHints,
} from './holding'

const line = (from: Spot, to: Spot) =>
  addEntity(emptyDrawing(), 'line', [from, to], { construction: false })
const shown = (points: Record<string, [number, number]>): ProfileView =>
  ({ points, radii: {}, targets: {} }) as unknown as ProfileView

describe('what is snapped to is held', () => {
  it('an end on the axis and base, a level line', () => {
    const spots: Spot[] = [
      { at: [0, 0], holds: ['axis', 'base'] },
      { at: [30, 0], holds: ['level'] },
    ]
    const made = line(spots[0]!, spots[1]!)
    const d = withHints(made.drawing, made.entity, 'line', spots)
    expect(d.relations!.map((r) => r.kind)).toEqual(['on', 'level', 'level'])
    expect(drawingSchema.safeParse(d).success).toBe(true)
  })
  it('a smooth arc is tangent to the line it goes on from', () => {
    const first = line({ at: [0, 0] }, { at: [30, 0] })
    const spots: Spot[] = [{ at: [30, 0], id: first.last }, { at: [40, 10] }]
    const made = addEntity(first.drawing, 'tangent-arc', spots, {
      construction: false,
      via: [37, 3],
    })
    const d = withHints(made.drawing, made.entity, 'tangent-arc', spots)
    expect(d.relations).toMatchObject([{ kind: 'tangent', entities: ['line1', 'arc1'] }])
  })
  it('nothing snapped, nothing held', () => {
    const spots: Spot[] = [{ at: [3, 4] }, { at: [9, 9] }]
    const made = line(spots[0]!, spots[1]!)
    expect(withHints(made.drawing, made.entity, 'line', spots).relations).toBeUndefined()
  })
})

describe('holding', () => {
  const base = line({ at: [0, 0] }, { at: [30, 0] }).drawing
  it('relations and dimensions get ids of their own', () => {
    const one = withHolds(base, [{ kind: 'level', points: [], entities: ['line1'] }])
    const two = withHolds(one, [{ kind: 'fixed', points: ['p1'], entities: [] }])
    const { drawing, id } = withDimension(two, 'distance', { points: [], entities: ['line1'] }, 30)
    expect(drawing.relations!.map((r) => r.id)).toEqual(['hold1', 'hold2'])
    expect(id).toBe('dim1')
    expect(drawingSchema.safeParse(drawing).success).toBe(true)
  })
  it('angles are kept in degrees, typed text as a number where it is one', () => {
    expect(typedAs('angle', Math.PI / 3)).toBe(60)
    expect(typedDimension('⌀ 40', 'across', 'mm')).toBe(40)
    expect(typedDimension('R 4,5', 'radius', 'mm')).toBe(4.5)
    expect(typedDimension('60', 'angle', 'in')).toBe(60)
    expect(typedDimension('2', 'radius', 'in')).toBe('2')
    expect(typedDimension('belly / 2', 'radius', 'mm')).toBe('belly / 2')
  })
  it('a drag moves only what is free', () => {
    const held = withDimension(
      withHolds(base, [
        { kind: 'fixed', points: ['p1'], entities: [] },
        { kind: 'level', points: [], entities: ['line1'] },
      ]),
      'distance',
      { points: [], entities: ['line1'] },
      30,
    ).drawing
    const at = { p1: [0, 0] as [number, number], p2: [30, 0] as [number, number] }
    const still = draggedDrawing(held, { ...shown(at), targets: { dim1: 30 } } as ProfileView, {
      p2: [44, 9],
    })
    expect(still?.points.p2).toEqual({ x: 30, y: 0 })
    const loose = withHolds(base, [{ kind: 'level', points: [], entities: ['line1'] }])
    const moved = draggedDrawing(loose, shown(at), { p2: [44, 9] })!
    expect(moved.points.p2!.x).toBeCloseTo(44, 4)
    expect(moved.points.p1!.y).toBeCloseTo(Number(moved.points.p2!.y), 6)
    expect(hold(looseFrom(moved, shown(at))!).state.freedoms).toBe(3)
  })
  it('a view that lags behind the drawing gives nothing to solve', () =>
    expect(looseFrom(base, shown({ p1: [0, 0] }))).toBeNull())
})
