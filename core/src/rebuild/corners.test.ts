import { describe, expect, it } from 'vitest'
import { edgeRef, realEdges, realVertices, vertexRef } from '../exact'
import { norm3, type P3, sub3 } from '../math'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, built, exact, piece, volume } from './exactroute.test-data'

const point = (inputs: object) => op(30, 'point', 'spot', { body: 'block', ...inputs })
const corner = async (at: P3) => {
  const p = await exact([base, block], 'block')
  return vertexRef(p, realVertices(p).find((v) => norm3(sub3(p.vertices[v]!.at, at)) < 1e-6)!)
}
const at = async (route: ReturnType<typeof op>[]) => {
  const { state, reports } = await built(piece(route))
  return state.points.spot?.at ?? reports.at(-1)!.diagnoses[0]!.message
}

describe('points on corners and edges of bodies', () => {
  it('a corner follows the body; what is carried to its level too', async () => {
    const on = point({ how: 'vertex', vertices: [await corner([60, 40, 20])] })
    expect(await at([base, block, on])).toEqual([60, 40, 20])
    const tall = { ...block, inputs: { ...block.inputs, length: 33 } }
    expect(await at([base, tall, on])).toEqual([60, 40, 33])
    const ring = circles(40, 'ring', 'top', [[100, 0, 3]])
    const pin = (to: object) =>
      op(50, 'extrude', 'pin', { profile: 'ring', mode: 'new', to: 'point', ...to })
    const up = { point: { point: 'spot' } }
    expect(await volume([base, tall, on, ring, pin(up)], 'pin')).toBeCloseTo(9 * Math.PI * 33, 6)
  })
  it('a corner that is rounded away is asked for, never another', async () => {
    const p = await exact([base, block], 'block')
    const edges = realEdges(p)
      .map((i) => edgeRef(p, i))
      .filter((e) => e.edge.includes('block:end'))
    const round = op(25, 'fillet', 'round', { body: 'block', edges, radius: 3 })
    const on = point({ how: 'vertex', vertices: [await corner([60, 40, 20])] })
    const { reports } = await built(piece([base, block, round, on]))
    expect(reports.at(-1)!.status).toBe('fail')
    expect(reports.at(-1)!.diagnoses[0]!.message).toMatch(/do not meet in a corner here/)
    expect(reports.at(-1)!.diagnoses[0]!.fixes.length).toBeGreaterThan(1)
  })
  it('along straight edges and circles exactly, and in the middle of a circle', async () => {
    const ring = circles(20, 'ring', 'top', [[20, 10, 8]])
    const hole = op(25, 'extrude', 'hole', {
      profile: 'ring',
      mode: 'cut',
      body: 'block',
      to: 'through',
    })
    const route = [base, { ...block, number: 15 }, ring, hole]
    const p = await exact(route, 'block')
    const edgeOf = (...names: string[]) => {
      const i = realEdges(p).find((e) => names.every((n) => edgeRef(p, e).edge.includes(n)))!
      return edgeRef(p, i)
    }
    const long = edgeOf('block:end', 'block:side1')
    const third = (await at([
      ...route,
      point({ how: 'edge', edges: [long], fraction: 0.25 }),
    ])) as P3
    expect([15, 45]).toContainEqual(Math.round(third[0] * 1e9) / 1e9)
    expect(third.slice(1)).toEqual([0, 20])
    const rim = edgeOf('block:end', 'hole:ring1')
    expect(await at([...route, point({ how: 'edge', edges: [rim], spot: 'centre' })])).toEqual(
      [20, 10, 20].map((x) => expect.closeTo(x, 9)),
    )
    for (const fraction of [0, 0.2, 0.7, 1]) {
      const on = (await at([...route, point({ how: 'edge', edges: [rim], fraction })])) as P3
      expect(Math.hypot(on[0] - 20, on[1] - 10)).toBeCloseTo(8, 9)
      expect(on[2]).toBeCloseTo(20, 9)
    }
  })
  it('says what is missing', async () => {
    expect(await at([base, block, point({ how: 'vertex' })])).toBe('Pick the corner it is set on.')
    expect(await at([base, block, point({ how: 'edge' })])).toBe('Pick the edge it is set on.')
    const p = await exact([base, block], 'block')
    const straight = edgeRef(p, realEdges(p)[0]!)
    const middle = point({ how: 'edge', edges: [straight], spot: 'centre' })
    expect(await at([base, block, middle])).toMatch(/no part of a circle/)
    const far = point({ how: 'edge', edges: [straight], fraction: 1.2 })
    expect(await at([base, block, far])).toMatch(/from 0 to 1/)
  })
})

describe('where a drawn curve pierces a plane', () => {
  const ring = circles(10, 'ring', 'front', [[12, 8, 5]])
  const place = (inputs: object) =>
    at([
      ring,
      op(20, 'plane', 'level', { from: 'top', offset: 11 }),
      op(30, 'point', 'spot', { how: 'pierce', profile: 'ring', piece: 'ring1', ...inputs }),
    ])
  it('one of several, along the curve; it follows both (a circle of 5 about 12, 8, at 3 over its middle)', async () => {
    const [one, two] = [
      (await place({ plane: 'level' })) as P3,
      (await place({ plane: 'level', which: 2 })) as P3,
    ]
    expect([one[0], two[0]].sort((a, b) => a - b)).toEqual([
      expect.closeTo(8, 9),
      expect.closeTo(16, 9),
    ])
    for (const p of [one, two]) expect(p.slice(1)).toEqual([0, expect.closeTo(11, 9)])
  })
  it('says how often it goes through, or that it does not', async () => {
    expect(await place({ plane: 'level', which: 3 })).toMatch(/goes through the plane 2 times/)
    expect(await place({ plane: 'side' })).toBe('The curve does not go through the plane.')
    expect(await place({ plane: 'front' })).toMatch(/pierces it nowhere/)
  })
})
