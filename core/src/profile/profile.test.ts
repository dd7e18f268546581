import { describe, expect, it } from 'vitest'
import {
  type Drawing,
  drawingSchema,
  enclosed,
  profileHealth,
  regionArea,
  shapeOf,
  turningRegions,
} from '.'
import type { Entity } from './drawing'

const read = (v: number | string) => Number(v)
const drawing = (points: Record<string, [number, number]>, entities: Entity[]): Drawing => ({
  points: Object.fromEntries(Object.entries(points).map(([id, [x, y]]) => [id, { x, y }])),
  entities,
})
const line = (id: string, a: string, b: string): Entity => ({ id, kind: 'line', a, b })
const findings = (d: Drawing) => profileHealth(d, shapeOf(d, read))
const codes = (d: Drawing) => findings(d).map((f) => f.code)

const square = { a: [10, 0], b: [20, 0], c: [20, 10], d: [10, 10] } as Record<
  string,
  [number, number]
>
const round = [
  line('1', 'a', 'b'),
  line('2', 'b', 'c'),
  line('3', 'c', 'd'),
  line('4', 'd', 'a'),
].map((e, i) => ({ ...e, id: `l${i}` }))

describe('health', () => {
  it('a closed outline is sound', () => expect(codes(drawing(square, round))).toEqual([]))
  it('a gap is measured where it is, and its fix closes it', () => {
    const d = drawing({ ...square, e: [10, 0.4] }, [...round.slice(0, 3), line('l3', 'd', 'e')])
    const [gap] = findings(d)
    expect(gap).toMatchObject({ code: 'gap', grave: true })
    expect(gap!.amount).toBeCloseTo(0.4, 9)
    expect(gap!.at[1]).toBeCloseTo(0.2, 9)
    expect(codes(gap!.fix!.drawing)).toEqual([])
  })
  it('a wide gap is closed by a line', () => {
    const [gap] = findings(drawing(square, round.slice(0, 3)))
    expect(gap!.fix!.label).toMatch(/line/)
    expect(codes(gap!.fix!.drawing)).toEqual([])
  })
  it('ends on the axis are no gap', () => {
    expect(
      codes(drawing({ a: [0, 0], b: [20, 0], c: [20, 10], d: [0, 10] }, round.slice(0, 3))),
    ).toEqual([])
  })
  it('crossings, doubles and pieces without length are named', () => {
    const bow = drawing({ a: [10, 0], b: [20, 10], c: [20, 0], d: [10, 10] }, round)
    expect(codes(bow)).toContain('crossing')
    const twice = drawing(square, [...round, line('again', 'a', 'b')])
    const double = findings(twice).find((f) => f.code === 'twice')!
    expect(codes(double.fix!.drawing)).toEqual([])
    const empty = drawing({ ...square, e: [10, 0] }, [...round, line('nil', 'a', 'e')])
    const nil = findings(empty).find((f) => f.code === 'no-length')!
    expect(codes(nil.fix!.drawing)).toEqual([])
  })
  it('reaching over the axis is told by how much', () => {
    const d = drawing({ a: [-1.5, 0], b: [20, 0], c: [20, 10], d: [5, 10] }, round)
    const over = findings(d).filter((f) => f.code === 'over-axis')
    expect(over.length).toBeGreaterThan(0)
    expect(over[0]!.amount).toBeCloseTo(1.5, 9)
    expect(turningRegions(shapeOf(d, read), (e) => e).ok).toBe(false)
  })
  it('meeting the axis off square shows the angle; the fix squares the handle', () => {
    const d = drawing({ a: [0, 0], b: [20, 12], c: [0, 30] }, [
      {
        id: 'curve',
        kind: 'fit',
        points: ['a', 'b', 'c'],
        handles: [{ hold: 'auto' }, { hold: 'auto' }, { hold: 'level' }],
      },
    ])
    const off = findings(d).filter((f) => f.code === 'not-square')
    expect(off).toHaveLength(1)
    expect(off[0]!.message).toMatch(/deg off square/)
    expect(codes(off[0]!.fix!.drawing)).toEqual([])
  })
})

describe('regions', () => {
  it('several outlines and nested ones', () => {
    const circle = (id: string, c: string, radius: number): Entity => ({
      id,
      kind: 'circle',
      c,
      radius,
    })
    const d = drawing({ c: [50, 0], o: [90, 0] }, [
      circle('c1', 'c', 20),
      circle('c2', 'c', 8),
      circle('c3', 'o', 5),
    ])
    const regions = turningRegions(shapeOf(d, read), (e) => e)
    expect(regions.ok && regions.value.map((r) => r.holes.length).sort()).toEqual([0, 1])
    const area = regions.ok ? regions.value.reduce((s, r) => s + regionArea(r), 0) : 0
    expect(area).toBeCloseTo(Math.PI * (400 - 64 + 25), 8)
  })
  it('loose ends beside a closed outline do no harm', () => {
    const d = drawing({ ...square, x: [30, 30], y: [40, 35] }, [...round, line('loose', 'x', 'y')])
    expect(
      enclosed(shapeOf(d, read).drawn.map((x) => ({ curve: x.curve, name: x.id }))),
    ).toHaveLength(1)
  })
  it('construction aids bound nothing', () => {
    const d = drawing(
      square,
      round.map((e) => ({ ...e, construction: true })),
    )
    const r = turningRegions(shapeOf(d, read), (e) => e)
    expect(r.ok).toBe(false)
  })
})

describe('the drawing in a file', () => {
  it.each([
    [{ points: {}, entities: [line('l', 'a', 'b')] }, /point "a", which is not there/],
    [drawing(square, [round[0]!, round[0]!]), /used twice/],
    [
      {
        ...drawing(square, round),
        dimensions: [{ id: 'd1', kind: 'distance', points: ['a', 'zz'], entities: [], value: 4 }],
      },
      /dimensions.*"d1" names the point "zz", which is not there/,
    ],
    [
      drawing(square, [{ id: 'f', kind: 'fit', points: ['a', 'b'], handles: [] }]),
      /one handle for each/,
    ],
    [{ points: { a: { x: Number.POSITIVE_INFINITY, y: 0 } }, entities: [] }, /./],
  ])('refuses what does not hang together', (d, why) => {
    const r = drawingSchema.safeParse(d)
    expect(r.success).toBe(false)
    if (!r.success)
      expect(r.error.issues.map((i) => `${i.path.join('.')} ${i.message}`).join()).toMatch(why)
  })
})
