import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { diagnosis, exact } from './exactroute.test-data'

type Bore = readonly [x: number, y: number]
/** A plate of 120 x 80 about a place with round holes of radius 4. */
function plate(number: number, id: string, plane: string, bores: readonly Bore[]): Op {
  const corners = [
    [-60, -40],
    [60, -40],
    [60, 40],
    [-60, 40],
  ] as const
  const at = ([x, y]: readonly [number, number]) => ({ x, y })
  return op(number, 'profile', id, {
    plane,
    use: 'flat',
    drawing: {
      points: Object.fromEntries([
        ...corners.map((p, i) => [`p${i}`, at(p)]),
        ...bores.map((p, i) => [`c${i}`, at(p)]),
      ]),
      entities: [
        ...corners.map((_, i) => ({
          id: `side${i}`,
          kind: 'line',
          a: `p${i}`,
          b: `p${(i + 1) % 4}`,
        })),
        ...bores.map((_, i) => ({ id: `bore${i}`, kind: 'circle', c: `c${i}`, radius: 4 })),
      ],
    },
  })
}
const bored = (from: readonly Bore[], to: readonly Bore[], holes: number[] = []): Op[] => [
  plate(10, 'a', 'top', from),
  op(20, 'plane', 'high', { how: 'offset', from: 'top', offset: 50 }),
  plate(30, 'b', 'high', to),
  op(90, 'loft', 'block', {
    sections: [{ profile: 'a' }, { profile: 'b', holes }],
    mode: 'new',
  }),
]
/** A leaning bore takes its circle times the height, wherever it leans (Cavalieri). */
const left = (bores: number) => 120 * 80 * 50 - bores * Math.PI * 16 * 50

describe('lofts with holes: each goes on in one of the next section, best in sum', () => {
  it('where the nearest of one is the nearest of another too', async () => {
    // Both are nearest to the one at 20: the sum of squares sends the left one there.
    const route = bored(
      [
        [0, 0],
        [20, 0],
      ],
      [
        [22, 0],
        [45, 0],
      ],
    )
    const { measure } = await exact(route, 'block')
    expect(measure.volume / left(2)).toBeCloseTo(1, 7)
  })
  it('property: whatever the order they are drawn in, the bores lean side by side', async () => {
    const places = fc.record({
      lean: fc.tuple(fc.integer({ min: -18, max: 18 }), fc.integer({ min: -10, max: 10 })),
      order: fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }),
    })
    const at: Bore[] = [
      [-30, -20],
      [5, 12],
      [16, -14],
      [34, 20],
    ]
    await fc.assert(
      fc.asyncProperty(places, async ({ lean: [x, y], order }) => {
        const to = order.map((k): Bore => [at[k]![0] + x, at[k]![1] + y])
        const { measure, faces } = await exact(bored(at, to), 'block')
        expect(Math.abs(measure.volume / left(4) - 1)).toBeLessThan(1e-7)
        // Each bore's middle lies half-way along the same lean.
        const bores = faces.filter((f) => f.names.some((n) => n.startsWith('block:bore')))
        expect(bores).toHaveLength(4)
      }),
      { numRuns: 8 },
    )
  })
  it('matched by hand: crossed over it is told where they meet, swapped back they hold; wrong numbers are named', async () => {
    const [from, to]: Bore[][] = [
      [
        [-20, 0],
        [20, 0],
      ],
      [
        [-20, 12],
        [20, 12],
      ],
    ]
    expect((await exact(bored(from!, to!, [1, 2]), 'block')).measure.volume / left(2)).toBeCloseTo(
      1,
      7,
    )
    expect((await diagnosis(bored(from!, to!, [2, 1]))).message).toBeTruthy()
    expect((await diagnosis(bored(from!, to!, [1, 1]))).code).toBe('holes')
    expect((await diagnosis(bored(from!, to!, [3, 1]))).code).toBe('holes')
  })
})
