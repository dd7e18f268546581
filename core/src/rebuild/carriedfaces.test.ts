import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece } from './exactroute.test-data'

const extrude = (number: number, id: string, inputs: object): Op =>
  op(number, 'extrude', id, { mode: 'new', length: 20, ...inputs })
const ofFaces = (inputs: object, ...faces: string[]): Op =>
  extrude(60, 'slab', {
    what: 'faces',
    on: 'leaf',
    faces: faces.map((face) => ({ face })),
    ...inputs,
  })

describe('flat faces of a body carried out', () => {
  it('property: a leaf with holes, on a leaning plane: a slab under it is its area by the length, joined or by itself', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: -70, max: 70 }),
        fc.array(fc.integer({ min: 15, max: 40 }), { minLength: 3, maxLength: 7 }),
        fc.integer({ min: 2, max: 5 }),
        fc.integer({ min: 1, max: 30 }),
        async (turn, radii, hole, length) => {
          const corners = radii.map((r, i): [number, number] => {
            const a = (2 * Math.PI * i) / radii.length
            return [r * Math.cos(a), r * Math.sin(a)]
          })
          const area =
            corners.reduce((sum, [x, y], i) => {
              const [u, v] = corners[(i + 1) % corners.length]!
              return sum + (x * v - u * y) / 2
            }, 0) -
            Math.PI * hole ** 2
          const leaf = [
            op(8, 'plane', 'tilted', { how: 'angle', from: 'top', about: 'level', turn }),
            outline(10, 'edge', 'tilted', corners),
            extrude(20, 'leaf', { profile: 'edge', length: 6 }),
            circles(30, 'ring', 'tilted', [[0, 0, hole]]),
            extrude(40, 'hole', { profile: 'ring', mode: 'cut', body: 'leaf', to: 'through' }),
          ]
          const own = await exact([...leaf, ofFaces({ length }, 'leaf:end')], 'slab')
          expect(own.measure.volume / (area * length)).toBeCloseTo(1, 7)
          expect(own.faces.map((f) => f.names[0]).sort()).toEqual(
            [
              'slab:end',
              'slab:on(hole:ring1)',
              ...radii.map((_, i) => `slab:on(leaf:side${i + 1})`),
              'slab:start',
            ].sort(),
          )
          const both = await exact(
            [...leaf, ofFaces({ mode: 'join', body: 'leaf', length }, 'leaf:start')],
            'leaf',
          )
          expect(both.measure.volume / (area * (length + 6))).toBeCloseTo(1, 7)
          expect(both.measure.solids).toBe(1)
        },
      ),
      { numRuns: 5 },
    )
  })
  it('of a loft, whose edges are straight though its faces are free: true planes, which take a draft', async () => {
    const loft = [
      rectangle(10, 'low', 'top', [-30, -20], [60, 40]),
      op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 50 }),
      rectangle(14, 'high', 'up', [-35, -28], [66, 50]),
      op(20, 'loft', 'leaf', { sections: [{ profile: 'low' }, { profile: 'high' }], mode: 'new' }),
    ]
    const plain = await exact([...loft, ofFaces({ length: 4 }, 'leaf:start')], 'slab')
    expect(plain.faces.every((f) => f.kind === 'plane')).toBe(true)
    const leaning = await exact([...loft, ofFaces({ length: 4, draft: 10 }, 'leaf:start')], 'slab')
    const k = 4 * Math.tan((10 * Math.PI) / 180)
    // A frustum of a rectangle, each side drawn in by k: h (A + B + 4 M) / 6.
    const [a, b, m] = [2400, (60 - 2 * k) * (40 - 2 * k), (60 - k) * (40 - k)]
    expect(leaning.measure.volume).toBeCloseTo((4 * (a + b + 4 * m)) / 6, 6)
  })
  it('two faces in one plane together; those in others, round ones and none are told', async () => {
    const leaf = [
      rectangle(10, 'edge', 'top', [0, 0], [40, 20]),
      extrude(20, 'leaf', { profile: 'edge' }),
      rectangle(30, 'slot', 'top', [15, -1], [10, 22]),
      extrude(40, 'cut', { profile: 'slot', mode: 'cut', body: 'leaf', length: 12, offset: 8 }),
      circles(50, 'ring', 'top', [[5, 10, 2]]),
      extrude(52, 'pin', { profile: 'ring', mode: 'join', body: 'leaf', offset: 20, length: 5 }),
    ]
    const end = { face: 'leaf:end' }
    const two = [
      { ...end, at: [8, 15, 20] },
      { ...end, at: [32, 10, 20] },
    ]
    const { state, reports } = await built(
      piece([...leaf, extrude(60, 'slab', { what: 'faces', on: 'leaf', faces: two, length: 3 })]),
    )
    expect(reports.at(-1)!.diagnoses.map((d) => d.code)).toEqual(['loose-parts'])
    const slab = state.bodies.slab!.shape as ExactPart
    expect(slab.measure.volume).toBeCloseTo((2 * 15 * 20 - 4 * Math.PI) * 3, 5)
    const told = async (...faces: string[]) =>
      (await diagnosis([...leaf, ofFaces({}, ...faces)])).code
    expect(await told('pin:end', 'leaf:start')).toBe('two-planes')
    expect(await told('pin:ring1')).toBe('not-flat')
    expect(await told()).toBe('no-faces')
  })
})
