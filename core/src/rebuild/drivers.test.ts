import { describe, expect, it } from 'vitest'
import { emptyWorkpiece, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { rebuild } from '.'
import { driversOf } from './drivers'

/** A barrel: belly width by a figure, its height by an expression of two, the rim by plain numbers. */
const barrel: Workpiece = {
  ...emptyWorkpiece('w', 'Barrel'),
  figures: [
    { name: 'belly', expr: '80 mm', max: 120 },
    { name: 'tall', expr: '4 in' },
    { name: 'rise', expr: '5 mm' },
    { name: 'middle', expr: 'tall / 2 + rise' },
  ],
  route: [
    op(10, 'profile', 'line', {
      plane: 'front',
      drawing: {
        points: {
          o: { x: 0, y: 0 },
          a: { x: 30, y: 0 },
          b: { x: 40, y: 55 },
          c: { x: 25, y: 101 },
          t: { x: 0, y: 101 },
        },
        entities: [
          { id: 'base', kind: 'line', a: 'o', b: 'a' },
          { id: 'low', kind: 'line', a: 'a', b: 'b' },
          { id: 'up', kind: 'line', a: 'b', b: 'c' },
          { id: 'top', kind: 'line', a: 'c', b: 't' },
        ],
        relations: [
          { id: 'r1', kind: 'coincident', points: ['o', 'origin'], entities: [] },
          { id: 'r2', kind: 'level', points: [], entities: ['base'] },
          { id: 'r3', kind: 'level', points: [], entities: ['top'] },
          { id: 'r4', kind: 'on', points: ['t'], entities: ['axis'] },
        ],
        dimensions: [
          { id: 'foot', kind: 'across', points: ['a'], entities: [], value: 60 },
          { id: 'wide', kind: 'across', points: ['b'], entities: [], value: 'belly' },
          { id: 'high', kind: 'upright', points: ['origin', 'b'], entities: [], value: 'middle' },
          { id: 'rim', kind: 'across', points: ['c'], entities: [], value: 50 },
          { id: 'all', kind: 'upright', points: ['origin', 'c'], entities: [], value: 'tall' },
        ],
      },
    }),
  ],
}
const of = (point: string) => driversOf(barrel, rebuild(barrel), 'line', point)

describe('what a held point answers to', () => {
  it('the figure of its width, half a millimetre for each', () => {
    const { drivers } = of('b')
    const belly = drivers.find((d) => d.id === 'belly')!
    expect(belly).toMatchObject({ of: 'figure', value: 80, suffix: ' mm', direct: true, max: 120 })
    expect(belly.moves[0]).toBeCloseTo(0.5, 6)
    expect(belly.moves[1]).toBeCloseTo(0, 6)
  })
  it('of an expression the figure that moves it most, in the unit it is written in', () => {
    const tall = of('b').drivers.find((d) => d.id === 'tall')!
    // Half of 25.4 mm for each inch of `tall`, against 1 mm for each of `rise`.
    expect(tall.moves[1]).toBeCloseTo(12.7, 5)
    expect(tall).toMatchObject({ value: 4, suffix: ' in' })
    expect(of('b').drivers.map((d) => d.id)).not.toContain('rise')
  })
  it('the plain number of a dimension, by its words', () => {
    const rim = of('c').drivers.find((d) => d.id === 'rim')!
    expect(rim).toMatchObject({ of: 'dimension', value: 50, direct: true })
    expect(rim.moves[0]).toBeCloseTo(0.5, 6)
    expect(of('c').drivers.map((d) => d.id)).not.toContain('belly')
  })
  it('where nothing moves it, what holds it is said', () => {
    const { drivers, heldBy } = of('o')
    expect(drivers).toEqual([])
    expect(heldBy.join(' ')).toMatch(/One place|Same place|oincident|\(o, origin\)/)
  })
  it('coordinates driven by figures answer too', () => {
    const w: Workpiece = {
      ...barrel,
      route: [
        op(10, 'profile', 'line', {
          plane: 'front',
          drawing: {
            points: { a: { x: 'belly / 2', y: 3 }, b: { x: 9, y: 9 } },
            entities: [{ id: 'l', kind: 'line', a: 'a', b: 'b' }],
          },
        }),
      ],
    }
    const { drivers } = driversOf(w, rebuild(w), 'line', 'a')
    expect(drivers.map((d) => d.id)).toEqual(['belly'])
    expect(drivers[0]!.moves[0]).toBeCloseTo(0.5, 6)
  })
})
