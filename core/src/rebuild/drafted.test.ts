import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { edgeRef } from '../exact'
import type { Op } from '../workpiece'
import { rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, exact, piece } from './exactroute.test-data'

interface Block {
  wide: number
  deep: number
  /** deg */
  draft: number
  round: number
}

/** A block with leaning sides whose uprights are rounded, and an oval over it. */
async function drafted({ wide, deep, draft, round }: Block, ratio: number): Promise<Op[]> {
  const leaning = [
    rectangle(10, 'a', 'top', [-wide / 2, -deep / 2], [wide, deep]),
    op(20, 'extrude', 'block', { profile: 'a', mode: 'new', length: 20 }),
    op(30, 'draft', 'lean', {
      body: 'block',
      faces: [1, 2, 3, 4].map((k) => ({ face: `block:side${k}` })),
      plane: 'top',
      angle: `${draft} deg`,
    }),
  ]
  const part = await exact(leaning, 'block')
  const side = (f: number) => part.faces[f]!.names.some((n) => n.includes(':side'))
  const edges = part.edges.flatMap((e, i) => (e.faces.every(side) ? [edgeRef(part, i)] : []))
  expect(edges).toHaveLength(4)
  return [
    ...leaning,
    op(40, 'fillet', 'soft', { body: 'block', edges, radius: round }),
    op(50, 'plane', 'high', { how: 'offset', from: 'top', offset: 60 }),
    op(60, 'profile', 'oval', {
      plane: 'high',
      use: 'flat',
      drawing: {
        points: { c: { x: 2, y: 1 }, e: { x: 14, y: 1 } },
        entities: [{ id: 'ring', kind: 'ellipse', c: 'c', end: 'e', ratio }],
      },
    }),
  ]
}

describe('from a block with leaning sides and rounded corners to a pipe', () => {
  it('property: the skin runs on in all of them, with their curvature too: measured, and closed', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          wide: fc.double({ min: 36, max: 70, noNaN: true }),
          deep: fc.double({ min: 30, max: 50, noNaN: true }),
          draft: fc.double({ min: 0.5, max: 12, noNaN: true }),
          round: fc.double({ min: 2, max: 8, noNaN: true }),
        }),
        fc.constantFrom(1, 0.75),
        fc.constantFrom('on', 'bent'),
        fc.constantFrom('free', 'square'),
        fc.double({ min: 0.4, max: 1, noNaN: true }),
        async (block, ratio, begins, ends, beginPull) => {
          const skin = op(90, 'loft', 'pipe', {
            sections: [{ body: 'block', face: { face: 'block:end' } }, { profile: 'oval' }],
            mode: 'new',
            begins,
            ends,
            beginPull,
          })
          const route = [...(await drafted(block, ratio)), skin]
          const { reports, state } = await built(piece(route))
          const last = reports.at(-1)!
          expect([last.status, last.diagnoses[0]?.message ?? '']).toEqual(['ok', ''])
          const [, angle] = /beginning runs on within ([\d.]+)°/.exec(last.consequence)!
          expect(Number(angle)).toBeLessThan(0.05)
          const { shape } = state.bodies.pipe!
          if (shape.kind !== 'exact') throw new Error('not exact')
          expect([shape.measure.closed, shape.measure.valid]).toEqual([true, true])
        },
      ),
      { numRuns: 12 },
    )
  })
})
