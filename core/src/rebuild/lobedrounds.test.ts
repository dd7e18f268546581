import fc from 'fast-check'
import { beforeAll, expect, test } from 'vitest'
import { type ExactPart, realEdges } from '../exact'
import type { OpContext } from '../ops'
import { found, treated, treatedSomehow } from '../ops/refine/edges/orders'
import type { Treatment } from '../ops/refine/edges/which'
import type { Work } from '../ops/refine/edges/work'
import type { Op } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { exact, the } from './exactroute.test-data'

beforeAll(the)

/** An outline of n arcs between corners at `radius`, each `rise` (mm, inward where negative) off its chord. */
function lobes(number: number, id: string, plane: string, n: number, by: Lobes): Op {
  const points: Record<string, { x: number; y: number }> = {}
  const on = (r: number, a: number) => ({ x: r * Math.cos(a), y: r * Math.sin(a) })
  for (let i = 0; i < n; i++) {
    const a = by.turn + (2 * Math.PI * i) / n
    points[`p${i}`] = on(by.radius, a)
    points[`q${i}`] = on(by.radius * Math.cos(Math.PI / n) + by.rise, a + Math.PI / n)
  }
  const entities = Array.from({ length: n }, (_, i) => ({
    ...{ id: `lobe${i}`, kind: 'arc', a: `p${i}`, via: `q${i}` },
    b: `p${(i + 1) % n}`,
  }))
  return op(number, 'profile', id, { plane, use: 'flat', drawing: { points, entities } })
}
interface Lobes {
  radius: number
  rise: number
  turn: number
}

/** All ways to part what is there into groups one after another. */
function partitions<T>(all: readonly T[]): T[][][] {
  if (all.length === 0) return [[]]
  const subsets = Array.from({ length: 2 ** all.length - 1 }, (_, m) =>
    all.filter((_, i) => (m + 1) & (1 << i)),
  )
  return subsets.flatMap((some) =>
    partitions(all.filter((x) => !some.includes(x))).map((rest) => [some, ...rest]),
  )
}

test('random lobed bodies, their sides and rims by amounts of their own: held by one call or in 12 trials more wherever any order holds', async () => {
  const store = await the()
  const size = fc.double({ min: 0.5, max: 3, noNaN: true })
  const drawn = fc.record({
    n: fc.integer({ min: 3, max: 7 }),
    radius: fc.double({ min: 18, max: 30, noNaN: true }),
    rise: fc.double({ min: 0.15, max: 0.9, noNaN: true }),
    inward: fc.boolean(),
    height: fc.double({ min: 20, max: 45, noNaN: true }),
    turn: fc.oneof(fc.constant(0), fc.double({ min: 0.1, max: 0.4, noNaN: true })),
    sizes: fc.tuple(size, size, size),
  })
  await fc.assert(
    fc.asyncProperty(drawn, async ({ n, radius, rise, inward, height, turn, sizes }) => {
      const by = {
        radius,
        rise: inward ? -3 * rise : rise * radius * Math.sin(Math.PI / n),
        turn: 0,
      }
      const part = await exact(
        [
          op(5, 'plane', 'up', { how: 'offset', from: 'top', offset: height }),
          lobes(10, 'low', 'top', n, by),
          lobes(11, 'high', 'up', n, { ...by, turn }),
          op(20, 'loft', 'block', {
            ...{ sections: [{ profile: 'low' }, { profile: 'high' }], run: 'ruled' },
            mode: 'new',
          }),
        ],
        'block',
      )
      // The sides, then the rim below and the one above.
      const rim = (e: number) => {
        const z = part.edges[e]!.middle[2]
        return z < 1e-3 ? 1 : z > height - 1e-3 ? 2 : 0
      }
      const groups: Work[][] = [[], [], []]
      for (const edge of realEdges(part))
        if (part.edges[edge]!.bend !== 'smooth')
          groups[rim(edge)]!.push({ edge, amount: { size: sizes[rim(edge)]! }, ref: null })
      expect(groups.map((g) => g.length)).toEqual([n, n, n])
      let trials = 0
      const ctx = {
        op: 'round',
        tool: () => undefined,
        kernel: (job: Parameters<OpContext['kernel']>[0]) => {
          trials++
          return store.run(job)
        },
      } as unknown as OpContext
      const t = { word: 'round' } as Treatment
      const held = treatedSomehow(ctx, 'block', part, groups.flat(), t)
      expect(trials).toBeLessThanOrEqual(13)
      if (held) return
      for (const order of partitions(groups)) {
        let now: ExactPart | null = part
        for (const own of order) {
          const again: Work[] | null = now && found(part, now, own.flat())
          now = now && again && treated(ctx, now, again, t)
        }
        expect(now).toBeNull()
      }
    }),
    { numRuns: 5 },
  )
})
