import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Cage, cageCrossing, startBox, startCylinder, tableOf } from '.'

const crossing = (cage: Cage) => {
  const table = tableOf(cage)
  if (!table.ok) throw new Error(table.diagnosis.message)
  return cageCrossing(table.value, cage)
}
/** A cage with each of its points moved. */
const moved = (cage: Cage, to: (p: [number, number, number]) => [number, number, number]): Cage => {
  const at = cage.at.slice()
  for (let p = 0; p < at.length; p += 3) at.set(to([at[p]!, at[p + 1]!, at[p + 2]!]), p)
  return { ...cage, at }
}
const tube = (columns: number, rows: number) =>
  startCylinder(
    columns,
    Array.from({ length: rows + 1 }, (_, k) => ({ radius: 30, z: 15 * k })),
    { floor: true, lid: true },
  )

describe('where the limit of a cage goes through itself', () => {
  it('property: nowhere, however a tube or a block is sized along its height, turned by rows and bent a little', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 14 }),
        fc.array(fc.double({ min: 0.4, max: 1.6, noNaN: true }), { minLength: 7, maxLength: 7 }),
        fc.double({ min: -0.15, max: 0.15, noNaN: true }),
        fc.double({ min: -0.002, max: 0.002, noNaN: true }),
        (columns, sizes, twist, bend) => {
          const to = ([x, y, z]: [number, number, number]): [number, number, number] => {
            const row = Math.round(z / 15)
            const [c, s] = [Math.cos(twist * row), Math.sin(twist * row)]
            const size = sizes[row]!
            return [size * (c * x - s * y) + bend * z * z, size * (s * x + c * y), z]
          }
          expect(crossing(moved(tube(columns, 6), to))).toBeNull()
        },
      ),
      { numRuns: 40 },
    )
    expect(crossing(startBox([60, 40, 20], [2, 3, 1], false))).toBeNull()
  })
  it('a row turned inside out, a wall pulled through the one over from it: there', () => {
    const inside = crossing(moved(tube(8, 6), ([x, y, z]) => [z === 45 ? -x : x, y, z]))
    expect(Math.abs(inside![0])).toBeLessThan(1)
    // The point at (30, 0, 45) goes right through the tube and out at the back.
    const through = crossing(
      moved(tube(8, 6), ([x, y, z]) => [z === 45 && x > 29 ? -150 : x, y, z]),
    )
    expect(through![0]).toBeLessThan(0)
    expect(Math.abs(through![2] - 45)).toBeLessThan(20)
  })
  it('two walls that come near each other do not; once they overlap by more than a hair they do', () => {
    // A point of the front of a tube 60 across is pulled to the back: the limit follows by 4/9 of the way (cubic B-splines).
    const pulled = (by: number) =>
      crossing(moved(tube(8, 6), ([x, y, z]) => [z === 45 && x > 29 ? x - by : x, y, z]))
    let [free, crossed] = [0, 400]
    while (crossed - free > 0.5) {
      const by = (free + crossed) / 2
      if (pulled(by)) crossed = by
      else free = by
    }
    // The limit of eight columns lies within a circle of radius 30 (2 + cos 45 deg) / 3; both sides meet when what is pulled has gone
    // through its width.
    const width = (2 * 30 * (2 + Math.cos(Math.PI / 4))) / 3
    expect(Math.abs((4 / 9) * crossed - width)).toBeLessThan(0.05 * width)
  })
})
