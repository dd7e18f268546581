import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { exact } from './exactroute.test-data'

type At = readonly [number, number]
/** The outline as one control polygon of degree 1. */
const polygon = (number: number, id: string, plane: string, points: readonly At[]): Op =>
  op(number, 'profile', id, {
    plane,
    use: 'flat',
    drawing: {
      points: Object.fromEntries(points.map(([x, y], i) => [`p${i + 1}`, { x, y }])),
      entities: [
        {
          id: 'whole',
          kind: 'poles',
          degree: 1,
          points: [...points.map((_, i) => `p${i + 1}`), 'p1'],
        },
      ],
    },
  })
/** A star-shaped outline: so many corners, each so far from the middle. */
const around = (radii: readonly number[]): At[] =>
  radii.map((r, i) => {
    const a = (2 * Math.PI * i) / radii.length
    return [60 + r * Math.cos(a), r * Math.sin(a)]
  })

describe('a control polygon of degree 1', () => {
  it('property: makes what lines through its points make, with corners at them', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 8, max: 30 }), { minLength: 3, maxLength: 7 }),
        async (radii) => {
          const points = around(radii)
          const made = async (drawn: typeof polygon) => {
            const up = op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 25 })
            const small = points.map(([x, y]): At => [0.8 * x, 0.8 * y])
            const ways: Op[][] = [
              [op(20, 'extrude', 'body', { profile: 'low', mode: 'new', length: 12 })],
              [
                up,
                drawn(14, 'high', 'up', small),
                op(20, 'loft', 'body', {
                  sections: [{ profile: 'low' }, { profile: 'high' }],
                  mode: 'new',
                }),
              ],
            ]
            return Promise.all(
              ways.map(async (way) => {
                const { faces, edges, measure } = await exact(
                  [drawn(10, 'low', 'top', points), ...way],
                  'body',
                )
                return [faces.length, edges.length, Math.round(1e5 * measure.volume)]
              }),
            )
          }
          expect(await made(polygon)).toEqual(await made(outline))
        },
      ),
      { numRuns: 8 },
    )
  })
})
