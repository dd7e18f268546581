import fc from 'fast-check'
import { beforeAll, describe, expect, test } from 'vitest'
import { type ExactPart, edgeRef, realEdges } from '../exact'
import type { Op } from '../workpiece'
import { outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, edge, exact, piece, the } from './exactroute.test-data'

beforeAll(the)

const box = (w: number, d: number, h: number): Op[] => [
  rectangle(10, 'flat', 'top', [0, 0], [w, d]),
  op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: h }),
]
const round = (n: number, radius: number, edges: unknown[], more: object = {}): Op =>
  op(n, 'fillet', `round${n}`, { body: 'block', edges, radius, ...more })
const sharp = (p: ExactPart) => realEdges(p).filter((e) => p.edges[e]!.bend !== 'smooth')

/** A stair of three treads, each as high as it is deep. */
const stair: Op[] = [
  outline(10, 'flat', 'front', [
    [0, 0],
    [40, 0],
    [40, 10],
    [30, 10],
    [30, 20],
    [20, 20],
    [20, 30],
    [0, 30],
  ]),
  op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 25 }),
]

describe('a set of rounds', () => {
  test('inner and outer edges by as much take and add the same, and are round', async () => {
    const plain = await exact(stair, 'block')
    // The two noses and the two inner corners between; their spandrels cancel.
    const names = [4, 5, 6, 3].map((k) => edge(plain, `block:side${k}`, `block:side${k + 1}`))
    const part = await exact([...stair, round(30, 2, names)], 'block')
    const [outer, inner] = [-1, 1].map(
      (s) => sharp(plain).filter((e) => plain.edges[e]!.bend === (s < 0 ? 'out' : 'in')).length,
    )
    expect([outer! > 0, inner]).toEqual([true, 2])
    expect(part.measure.volume).toBeCloseTo(plain.measure.volume, 6)
    expect(part.faces).toHaveLength(plain.faces.length + 4)
  })

  test.each([
    [50, 40, 30, 6],
    [80, 30, 25, 4],
  ])(
    'edges below a box of %d x %d x %d, then its uprights, both r %d: as in one op',
    async (w, d, h, r) => {
      const plain = await exact(box(w, d, h), 'block')
      const uprights = [1, 2, 3, 4].map((k) =>
        edge(plain, `block:side${k}`, `block:side${(k % 4) + 1}`),
      )
      const start = { round: [{ face: 'block:start' }] }
      const one = await exact([...box(w, d, h), round(30, r, uprights, start)], 'block')
      const route = [...box(w, d, h), round(30, r, [], start), round(40, r, uprights)]
      const { state, reports } = await built(piece(route))
      const { shape } = state.bodies.block!
      if (shape.kind !== 'exact') throw new Error()
      expect(shape.measure.volume).toBeCloseTo(one.measure.volume, 6)
      expect(reports.at(-1)!.consequence).toContain('together with the round before')
      // The faces are still told by the ops that asked for them.
      const names = shape.faces.flatMap((f) => f.names)
      expect(
        names.filter((n) => /^round30:round\(block:side\d\|block:start\)$/.test(n)),
      ).toHaveLength(4)
      expect(
        names.filter((n) => /^round40:round\(block:side\d\|block:side\d\)$/.test(n)),
      ).toHaveLength(4)
      // And a wall thicker than both is found under them.
      const hollow = op(90, 'shell', 'hollow', {
        body: 'block',
        wall: r + 1,
        open: [{ face: 'block:end' }],
      })
      const thick = await exact([...route, hollow], 'block')
      const room = (w - 2 * r - 2) * (d - 2 * r - 2) * (h - r - 1)
      expect(shape.measure.volume - thick.measure.volume).toBeCloseTo(room, 4)
    },
  )

  test('two edges in each other’s way are named, with what all take; the fix holds', async () => {
    const plain = await exact(box(50, 40, 10), 'block')
    const edges = sharp(plain).map((e) => edgeRef(plain, e))
    const found = await diagnosis([...box(50, 40, 10), round(30, 6, edges)])
    expect(found.message).toMatch(
      /two of them are in each other’s way\. Together they take 4\.9\d mm\./,
    )
    expect(found.places).toHaveLength(2)
    const fix = found.fixes[0]!
    expect(fix.label).toMatch(/^All of them by 4\.9\d mm$/)
    const mended = {
      ...round(30, 6, edges),
      inputs: { ...round(30, 6, edges).inputs, ...fix.inputs },
    }
    const part = await exact([...box(50, 40, 10), mended as Op], 'block')
    expect(part.measure.valid).toBe(true)
  })

  test('random edges of random stairs: whatever is said, what is offered holds', async () => {
    const sizes = fc.record({
      r: fc.double({ min: 0.5, max: 6, noNaN: true }),
      some: fc.array(fc.boolean(), { minLength: 24, maxLength: 24 }),
    })
    const plain = await exact(stair, 'block')
    await fc.assert(
      fc.asyncProperty(sizes, async ({ r, some }) => {
        const edges = sharp(plain)
          .filter((_, i) => some[i])
          .map((e) => edgeRef(plain, e))
        if (edges.length === 0) return
        const own = round(30, Math.round(r * 100) / 100, edges)
        const { reports } = await built(piece([...stair, own]))
        const last = reports.at(-1)!
        if (last.status === 'ok') return
        for (const { label, inputs } of last.diagnoses[0]!.fixes) {
          const again = await built(
            piece([...stair, { ...own, inputs: { ...own.inputs, ...inputs } }]),
          )
          if (/^All|^Give/.test(label))
            expect([label, again.reports.at(-1)!.status]).toEqual([label, 'ok'])
        }
      }),
      { numRuns: 12 },
    )
  })
})
