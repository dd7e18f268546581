import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { arc, type Curve, line } from '../curve'
import type { P2 } from '../math'
import { regionArea, regionsOf, touchesItself } from '.'

const circle = ([x, y]: P2, r: number, from = 0): Curve => arc([x, y], r, from, 2 * Math.PI)
const box = (w: number, h: number): Curve[] => {
  const p: P2[] = [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ]
  return p.map((a, i) => line(a, p[(i + 1) % 4]!))
}
const areas = (curves: readonly Curve[]) => {
  const made = regionsOf(curves.map((curve, i) => ({ curve, name: `${i}` })))
  if (!made.ok) throw new Error(made.diagnosis.message)
  return made.value
}
const total = (curves: readonly Curve[]) => areas(curves).reduce((s, r) => s + regionArea(r), 0)
const span = fc.double({ min: 0.05, max: 0.95, noNaN: true })
const angle = fc.double({ min: 0, max: 6.28, noNaN: true })
/** Where a circle begins, from where it touches: there, or clear of it (a hair beside is refused as tangled). */
const begins = fc.oneof(fc.constant(0), fc.double({ min: 0.02, max: 6.26, noNaN: true }))

describe('holes that touch what they lie in', () => {
  test('a circle tangent to a side of a rectangle, wherever it begins: it is taken out, and the touch is told', () => {
    fc.assert(
      fc.property(fc.constantFrom(0, 1, 2, 3), span, span, begins, (side, along, share, from) => {
        const [w, h] = [40, 30]
        const r = (share * Math.min(w, h)) / 2
        const x = r + along * (w - 2 * r)
        const y = r + along * (h - 2 * r)
        const at: P2 = (
          [
            [x, r],
            [w - r, y],
            [x, h - r],
            [r, y],
          ] as P2[]
        )[side]!
        const curves = [...box(w, h), circle(at, r, from + [-1, 0, 1, 2][side]! * (Math.PI / 2))]
        expect(total(curves)).toBeCloseTo(w * h - Math.PI * r * r, 6)
        expect(touchesItself(areas(curves))).toHaveLength(1)
      }),
    )
  })
  test('a circle in a circle that touches it from inside, at any angle', () => {
    fc.assert(
      fc.property(angle, span, begins, begins, (a, share, from, other) => {
        const [R, r] = [20, 20 * share]
        const at: P2 = [(R - r) * Math.cos(a), (R - r) * Math.sin(a)]
        const curves = [circle([0, 0], R, a + from), circle(at, r, a + other)]
        expect(total(curves)).toBeCloseTo(Math.PI * (R * R - r * r), 5)
      }),
    )
  })
  test('two holes that touch each other in a rectangle', () => {
    fc.assert(
      fc.property(angle, span, begins, (a, share, from) => {
        const [r, q] = [4 * share + 1, 5 - 3 * share]
        const [x, y] = [(r + q) * Math.cos(a), (r + q) * Math.sin(a)]
        const curves = [
          ...box(60, 60),
          circle([30, 30], r, a + from),
          circle([30 + x, 30 + y], q, a + Math.PI + from),
        ]
        expect(total(curves)).toBeCloseTo(3600 - Math.PI * (r * r + q * q), 5)
      }),
    )
  })
})
