import { describe, expect, it } from 'vitest'
import { line } from '../../curve'
import { type Drawing, shapeOf } from '..'
import { applicable, dragTo, suggestions } from '.'

const drawing: Drawing = {
  points: {
    a: { x: 0, y: 0 },
    b: { x: 30, y: 0.05 },
    c: { x: 30.02, y: 40 },
    d: { x: 0.02, y: 44 },
  },
  entities: [
    { id: 'foot', kind: 'line', a: 'a', b: 'b' },
    { id: 'side', kind: 'line', a: 'b', b: 'c' },
    { id: 'lid', kind: 'line', a: 'c', b: 'd' },
  ],
}
const solved = (d: Drawing) => {
  const shape = shapeOf(d, Number)
  return { loose: { ...shape, drawing: d }, state: shape.hold }
}
const offered = (d: Drawing) => {
  const { loose, state } = solved(d)
  return suggestions(loose, state)
}

describe('what nearly holds is offered', () => {
  it('lines within 0.2 deg of level or upright, points on the axis', () => {
    const all = offered(drawing)
    expect(all.map((s) => s.says)).toEqual([
      'foot is within 0.2° of level',
      'side is within 0.2° of upright',
      'these 2 points lie on the axis',
    ])
    expect(all[2]!.relations.map((r) => r.points)).toEqual([['a'], ['d']])
  })
  it('not what is held already, nor anything once all is held', () => {
    const level: Drawing = {
      ...drawing,
      relations: [{ id: 'r', kind: 'level', points: [], entities: ['foot'] }],
    }
    expect(offered(level).map((s) => s.says)).not.toContain('foot is within 0.2° of level')
    const fixed: Drawing = {
      ...drawing,
      relations: ['a', 'b', 'c', 'd'].map((p) => ({
        id: `f${p}`,
        kind: 'fixed',
        points: [p],
        entities: [],
      })),
    }
    expect(offered(fixed)).toEqual([])
  })
})

describe('projected points', () => {
  /** The foot follows a line on the axis, whatever its own numbers say. */
  const projected: Drawing = {
    ...drawing,
    entities: drawing.entities.map((e) =>
      e.id === 'foot' ? { ...e, source: { profile: 'other', piece: 'x' } } : e,
    ),
  }
  const shape = shapeOf(projected, Number, (id) => (id === 'foot' ? line([0, 0], [0, 9]) : null))
  const loose = { ...shape, drawing: projected }
  it('are neither offered to be held nor dragged', () => {
    expect([...shape.given]).toEqual(['a', 'b'])
    const points = suggestions(loose, shape.hold).flatMap((s) =>
      s.relations.flatMap((r) => r.points),
    )
    expect(points).toEqual(['d'])
    expect(dragTo(loose, { b: [5, 5] })!.points.b).toEqual([0, 9])
  })
})

it('only what fits a selection can be laid on it', () => {
  const { loose } = solved(drawing)
  const pair = applicable(loose, { points: [], entities: ['foot', 'side'] })
  expect(pair.relations).toEqual(['parallel', 'square', 'collinear', 'equal'])
  const laid = {
    ...loose,
    drawing: {
      ...loose.drawing,
      relations: [{ id: 'r', kind: 'equal' as const, points: [], entities: ['side', 'foot'] }],
    },
  }
  expect(applicable(laid, { points: [], entities: ['foot', 'side'] }).relations).toEqual([
    'parallel',
    'square',
    'collinear',
  ])
  const [angle] = pair.dimensions
  expect(angle!.kind).toBe('angle')
  expect(angle!.measure).toBeCloseTo(Math.PI / 2, 2)
  expect(applicable(loose, { points: ['a'], entities: [] }).dimensions.map((d) => d.kind)).toEqual([
    'across',
  ])
})
