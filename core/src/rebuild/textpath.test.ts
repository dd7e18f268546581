import { describe, expect, it } from 'vitest'
import { boundsOf } from '../curve'
import type { Op } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, piece } from './exactroute.test-data'

const text = (more: object): Op =>
  op(50, 'text', 'words', { plane: 'top', words: 'SALT', height: 6, ...more })
const curvesOf = async (route: Op[]) => {
  const { reports, state } = await built(piece(route))
  expect([reports.at(-1)!.status === 'fail', reports.at(-1)!.diagnoses[0]?.message]).toEqual([
    false,
    reports.at(-1)!.diagnoses[0]?.message,
  ])
  return state.profiles.words!.shape.drawn.map((d) => d.curve)
}
const box = (curves: Awaited<ReturnType<typeof curvesOf>>) => {
  const all = curves.map(boundsOf)
  const of = (f: (...x: number[]) => number, k: 'min' | 'max', i: 0 | 1) =>
    f(...all.map((b) => b[k][i]))
  return [
    of(Math.min, 'min', 0),
    of(Math.max, 'max', 0),
    of(Math.min, 'min', 1),
    of(Math.max, 'max', 1),
  ]
}
const way = (stops: object[], more: object = {}): Op =>
  op(10, 'path', 'way', { how: 'stops', stops, ...more })
const straight = way([
  { x: 0, y: 10, z: 5 },
  { x: 80, y: 10, z: 20 },
])

describe('text along a path', () => {
  it('on a straight one it is the plain line, as it is seen from above', async () => {
    const plain = box(await curvesOf([text({ x: 40, y: 10 })]))
    const along = box(await curvesOf([straight, text({ along: 'path', path: 'way' })]))
    for (const [k, v] of along.entries()) expect(v).toBeCloseTo(plain[k]!, 6)
    const moved = box(await curvesOf([straight, text({ along: 'path', path: 'way', x: 5, y: -2 })]))
    expect(moved[0]! - along[0]!).toBeCloseTo(5, 6)
    expect(moved[2]! - along[2]!).toBeCloseTo(-2, 6)
    // On the other side it is upside down, about the middle of the path.
    const under = box(await curvesOf([straight, text({ along: 'path', path: 'way', feet: 'out' })]))
    expect(under[2]!).toBeCloseTo(20 - along[3]!, 6)
    // Read from behind it keeps its place.
    const behind = box(
      await curvesOf([straight, text({ along: 'path', path: 'way', read: 'behind' })]),
    )
    expect(behind[0]!).toBeCloseTo(80 - along[1]!, 6)
    expect(behind[3]!).toBeCloseTo(along[3]!, 6)
  })
  it('on an arc it is the text on that arc, on a closed one it goes round its seam', async () => {
    const arc = way([
      { x: -30, y: 0, z: 0 },
      { x: 0, y: 30, z: 0, by: 'over' },
      { x: 30, y: 0, z: 0 },
    ])
    const onArc = box(await curvesOf([text({ along: 'arc', radius: 30, turn: 90 })]))
    const onPath = box(await curvesOf([arc, text({ along: 'path', path: 'way' })]))
    for (const [k, v] of onPath.entries()) expect(v).toBeCloseTo(onArc[k]!, 4)
    const ring = way(
      [
        { x: 0, y: 0, z: 0 },
        { x: 20, y: 0, z: 0 },
        { x: 20, y: 20, z: 0 },
        { x: 0, y: 20, z: 0 },
      ],
      { closed: 'yes', round: 8 },
    )
    const seam = await curvesOf([
      ring,
      text({ along: 'path', path: 'way', align: 'start', x: -9, feet: 'out' }),
    ])
    expect(seam.length).toBeGreaterThan(20)
  })
  it('refused where it does not lie on the path, or there is none', async () => {
    const short = way([
      { x: 0, y: 0, z: 0 },
      { x: 12, y: 0, z: 0 },
    ])
    expect((await diagnosis([short, text({ along: 'path', path: 'way' })])).code).toBe('too-long')
    expect(
      (await diagnosis([straight, text({ along: 'path', path: 'way', align: 'end', x: 3 })])).code,
    ).toBe('too-long')
    expect((await diagnosis([text({ along: 'path' })])).code).toBe('no-path')
  })
})
