import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { inPlace, RebuildCache, rangeOf, rebuildWith, workedOut } from '.'
import {
  base,
  block,
  built,
  diagnosis,
  edge,
  exact,
  face,
  piece,
  the,
  volume,
} from './exactroute.test-data'

describe('rounding, draft and shell of bodies that are not turned', () => {
  it('a picked edge follows an early change, or asks', async () => {
    const p = await exact([base, block], 'block')
    const round = op(30, 'fillet', 'round', {
      body: 'block',
      edges: [edge(p, 'block:side1', 'block:side2')],
      radius: 5,
    })
    expect(await volume([base, block, round], 'block')).toBeCloseTo(
      48000 - (25 - (Math.PI * 25) / 4) * 20,
      5,
    )
    const taller = { ...block, inputs: { ...block.inputs, length: 33 } }
    expect(await volume([base, taller, round], 'block')).toBeCloseTo(
      60 * 40 * 33 - (25 - (Math.PI * 25) / 4) * 33,
      5,
    )
    const gone = await diagnosis([
      base,
      block,
      { ...round, inputs: { ...round.inputs, edges: [{ edge: ['block:side1', 'block:sideX'] }] } },
    ])
    expect(gone.code).toBe('lost-reference')
  })
  it('names the edges that fail, with the way on without them', async () => {
    const p = await exact([base, block], 'block')
    const low = rectangle(30, 'step', 'top', [60, 10], [3, 20])
    const step = op(40, 'extrude', 'ledge', {
      profile: 'step',
      mode: 'join',
      body: 'block',
      length: 2,
    })
    const joined = await exact([base, block, low, step], 'block')
    const edges = [edge(p, 'block:side3', 'block:side4'), edge(joined, 'ledge:end', 'ledge:side2')]
    const d = await diagnosis([
      base,
      block,
      low,
      step,
      op(50, 'fillet', 'round', { body: 'block', edges, radius: 4 }),
    ])
    expect(d.message).toMatch(/1 of 2 edges does not take 4 mm/)
    const on = d.fixes.find((f) => f.label === 'Go on with the others')
    expect(on).toMatchObject({ inputs: { edges: [edges[0]] } })
  })
  it('the working range of a fillet ends at the room there is', async () => {
    const p = await exact([base, block], 'block')
    const w = piece([
      base,
      block,
      op(30, 'fillet', 'round', {
        body: 'block',
        edges: [edge(p, 'block:side1', 'block:end')],
        radius: 5,
      }),
    ])
    const cache = new RebuildCache()
    const run = inPlace(w, the)
    const b = await rebuildWith(w, run, cache)
    const range = await workedOut(() => rangeOf(w, b, 'round', 'radius'), run, cache.exact)
    const most = range!.spans[0]!.to
    expect(most).toBeGreaterThan(19.8)
    expect(most).toBeLessThanOrEqual(20.0001)
  })
  it('the working range of a draft is in degrees, and ends where its sides meet at the end', async () => {
    const w = piece([base, { ...block, inputs: { ...block.inputs, draft: '-3 deg' } }])
    const [cache, run] = [new RebuildCache(), inPlace(w, the)]
    const b = await rebuildWith(w, run, cache)
    const inward = await workedOut(() => rangeOf(w, b, 'block', 'draft'), run, cache.exact)
    const outline = await exact([base, block], 'block')
    const { min, max } = outline.measure.bounds
    const half = Math.min(max[0] - min[0], max[1] - min[1]) / 2
    const most = (Math.atan(half / (max[2] - min[2])) * 180) / Math.PI
    expect(Math.abs(inward!.spans[0]!.to - Math.min(most, 60))).toBeLessThan(0.1)
  })
  it('draft then shell of a lidded box, open above', async () => {
    const p = await exact([base, block], 'block')
    const sides = ['side1', 'side2', 'side3', 'side4'].map((s) => face(p, `block:${s}`))
    const lean = op(30, 'draft', 'lean', {
      body: 'block',
      faces: sides,
      plane: 'top',
      angle: '-5 deg',
    })
    const hollow = op(40, 'shell', 'hollow', {
      body: 'block',
      wall: 2,
      open: [face(p, 'block:end')],
    })
    const cup = await exact([base, block, lean, hollow], 'block')
    const t = Math.tan((5 * Math.PI) / 180)
    // Outside and inside are frustums; the wall is square to the leaning sides, the floor is 2 thick.
    const frustum = (w: number, d: number, h: number) => {
      const [w2, d2] = [w + 2 * h * t, d + 2 * h * t]
      return (h / 6) * (w * d + w2 * d2 + (w + w2) * (d + d2))
    }
    const off = 2 / Math.cos((5 * Math.PI) / 180) - 2 * t
    expect(cup.measure.volume).toBeCloseTo(
      frustum(60, 40, 20) - frustum(60 - 2 * off, 40 - 2 * off, 18),
      4,
    )
    const much = await diagnosis([
      base,
      block,
      { ...hollow, inputs: { ...hollow.inputs, wall: 25 } },
    ])
    expect(much.code).toBe('no-shell')
  })
})

/** A picked edge of a random block, by its two faces: which sizes its length and its corner are of. */
const EDGES: [string, string, 'w' | 'd' | 'h'][] = [
  ['block:side1', 'block:side2', 'h'],
  ['block:side3', 'block:side4', 'h'],
  ['block:side1', 'block:end', 'w'],
  ['block:side3', 'block:start', 'w'],
  ['block:side2', 'block:end', 'd'],
  ['block:side4', 'block:start', 'd'],
]
it('property: a reference still means its place after figures changed, whatever op comes between', async () => {
  const size = fc.integer({ min: 20, max: 60 })
  const sizes = fc.record({ w: size, d: size, h: size })
  const between = fc.constantFrom('nothing', 'mirror', 'pattern', 'hole')
  await fc.assert(
    fc.asyncProperty(
      sizes,
      sizes,
      fc.constantFrom(...EDGES),
      between,
      async (now, then, [a, b, along], op2) => {
        const start = (z: typeof now): Op[] => [
          rectangle(10, 'flat', 'top', [5, 5], [z.w, z.d]),
          op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: z.h }),
        ]
        const more: Record<string, Op[]> = {
          nothing: [],
          mirror: [op(30, 'mirror', 'twin', { body: 'block', plane: 'side' })],
          pattern: [op(30, 'pattern', 'row', { body: 'block', along: 'y', count: 2, pitch: 100 })],
          hole: [
            circles(30, 'ring', 'top', [[12, 12, 3]]),
            op(40, 'extrude', 'bore', {
              profile: 'ring',
              mode: 'cut',
              body: 'block',
              to: 'through',
            }),
          ],
        }
        // Picked on the first sizes, with its place; then the sizes are others.
        const block = async (of: Op[]) =>
          (await built(piece(of))).state.bodies.block!.shape as ExactPart
        const first = await block([...start(now), ...more[op2]!])
        const round = op(50, 'fillet', 'round', {
          body: 'block',
          edges: [edge(first, a, b)],
          radius: 2,
        })
        const route = [...start(then), ...more[op2]!]
        const { state, reports } = await built(piece([...route, round]))
        const report = reports[reports.length - 1]!
        // To ask is right, too; to round another edge silently is not.
        if (report.status === 'fail') {
          expect(['which-one', 'lost-reference']).toContain(report.diagnoses[0]!.code)
          return
        }
        const before = (await block(route)).measure.volume
        const after = (state.bodies.block!.shape as ExactPart).measure.volume
        if (report.diagnoses.length === 0)
          expect(before - after).toBeCloseTo((4 - Math.PI) * then[along], 4)
      },
    ),
    { numRuns: 25, endOnFailure: true },
  )
})
