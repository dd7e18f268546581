import { describe, expect, it } from 'vitest'
import { boundsOf, type Curve, pointAt } from '../../curve'
import { FONT_NAMES, placeLetters, setLine } from '../../letters'
import { regionArea, regionsOf } from '../../profile'
import { thinnestNeck } from '../../turned'

const regions = (curves: readonly Curve[]) => {
  const r = regionsOf(curves.map((curve, i) => ({ curve, name: `${i}` })))
  if (!r.ok) throw new Error(r.diagnosis.message)
  return r.value
}
const box = (curves: readonly Curve[]) => {
  const b = curves.map(boundsOf)
  return {
    low: Math.min(...b.map((x) => x.min[1])),
    high: Math.max(...b.map((x) => x.max[1])),
  }
}

describe('letters', () => {
  it.each(FONT_NAMES)('capitals of %s are as high as asked, and all letters close', (font) => {
    for (const height of [0.5, 6, 120]) {
      const { letters, missing } = setLine(font, 'HEB&8g', height)
      expect(missing).toEqual([])
      const h = box(letters[0]!.curves)
      expect((h.high - h.low) / height).toBeCloseTo(1, 6)
      const parts = letters.map((l) => regions(l.curves))
      expect(parts.map((p) => p.reduce((n, r) => n + r.holes.length, 0))).toEqual([
        0,
        0,
        2,
        expect.any(Number),
        2,
        expect.any(Number),
      ])
    }
  })
  it('are set wider by what is asked, and areas do not depend on where they stand', () => {
    const plain = setLine('bold', 'SOFT', 8)
    const wide = setLine('bold', 'SOFT', 8, 0.7)
    expect(wide.width - plain.width).toBeCloseTo(3 * 0.7, 9)
    const area = (curves: readonly Curve[]) =>
      regions(curves).reduce((sum, r) => sum + regionArea(r), 0)
    const sum = plain.letters.reduce((a, l) => a + area(l.curves), 0)
    const way = {
      at: [3, -4],
      align: 'middle',
      along: 'arc',
      radius: 60,
      turn: 1.1,
      feet: 'in',
    } as const
    for (const behind of [false, true]) {
      const placed = placeLetters(plain.letters, plain.width, way, behind)
      expect(area(placed.flatMap((l) => l.curves))).toBeCloseTo(sum, 6)
    }
  })
  it('stand on an arc with their feet in or out', () => {
    const { letters, width } = setLine('mono', 'HHHHH', 5)
    for (const feet of ['in', 'out'] as const) {
      const way = {
        at: [0, 0],
        align: 'middle',
        along: 'arc',
        radius: 40,
        turn: 0.4,
        feet,
      } as const
      const far = placeLetters(letters, width, way, false).flatMap(({ curves }) =>
        curves.map((c) => Math.hypot(...pointAt(c, 0))),
      )
      // Square letters: their corners lie a little outside the arcs through their middles.
      const [low, high] = [Math.min(...far), Math.max(...far)]
      expect(low).toBeGreaterThan(feet === 'in' ? 39.999 : 35)
      expect(low).toBeLessThan(feet === 'in' ? 40.2 : 35.3)
      expect(high).toBeLessThan(feet === 'in' ? 45.2 : 40.2)
    }
  })
  it('start, middle or end lie at the place', () => {
    const { letters, width } = setLine('mono', 'HH', 5)
    const left = (align: 'start' | 'middle' | 'end') =>
      Math.min(
        ...placeLetters(letters, width, { at: [10, 0], align, along: 'line', turn: 0 }, false)
          .flatMap((l) => l.curves)
          .map((c) => boundsOf(c).min[0]),
      )
    expect(left('start') - left('middle')).toBeCloseTo(width / 2, 9)
    expect(left('middle') - left('end')).toBeCloseTo(width / 2, 9)
  })
  it('a character the font has not is named', () =>
    expect(setLine('sans', 'A漢B漢', 5).missing).toEqual(['漢']))
})

describe('the thinnest neck', () => {
  const outline = (points: [number, number][]) =>
    regions(
      points.map((a, i) => ({ kind: 'line', a, b: points[(i + 1) % points.length]! }) as const),
    )
  it('of a bar is its width, wherever it lies, its tips aside', () => {
    for (const [x, y] of [
      [0, 0],
      [-300, 12],
      [55, -7],
    ] as const) {
      const bar = outline([
        [x, y],
        [x + 30, y],
        [x + 33, y + 1.3],
        [x + 30, y + 2.6],
        [x, y + 2.6],
      ])
      expect(thinnestNeck(bar)?.wall).toBeCloseTo(2.6, 6)
    }
  })
  it('of a waist is where it is narrowest, within what two samples can miss', () => {
    const waist = outline([
      [0, 0],
      [10, 1],
      [20, 0],
      [20, 6],
      [10, 3],
      [0, 6],
    ])
    const neck = thinnestNeck(waist)!
    expect(neck.wall).toBeGreaterThan(1.9)
    expect(neck.wall).toBeLessThan(2.3)
    expect(Math.abs(neck.at[0] - 10)).toBeLessThan(2)
  })
})
