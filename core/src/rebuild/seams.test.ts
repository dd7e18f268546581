import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, edge, exact, face, gauged } from './exactroute.test-data'

const worst = async (route: Op[], body: string) => {
  const [g] = await gauged(route, [{ kind: 'seams', body }])
  return g!
}

describe('continuity', () => {
  it('of a round on a block: G1, the curvature jumps from 0 to 1/6', async () => {
    const p = await exact([base, block], 'block')
    const soft = op(30, 'fillet', 'soft', {
      body: 'block',
      edges: [edge(p, 'block:side1', 'block:side2')],
      radius: 6,
    })
    const g = await worst([base, block, soft], 'block')
    expect(g.reading?.text).toBe('G1')
    expect(g.reading?.rows[0]).toEqual({ label: '2 seams', text: '0 G2, 2 G1, 0 less' })
    expect(g.reading?.rows[1]?.text).toMatch(/^G1, 0\.000°, 100\.0 %/)
  })
  it('of a round on a cylinder of radius 20: across its rim 0 meets 1/3, along a torus', async () => {
    const puck = [
      circles(10, 'disc', 'top', [[0, 0, 20]]),
      op(20, 'extrude', 'puck', { profile: 'disc', mode: 'new', length: 30 }),
    ]
    const q = await exact(puck, 'puck')
    const soft = op(30, 'fillet', 'soft', {
      body: 'puck',
      edges: [],
      round: [face(q, 'puck:end')],
      radius: 3,
    })
    const g = await worst([...puck, soft], 'puck')
    expect(g.reading?.text).toBe('G1')
    expect(g.reading?.rows[1]?.text).toMatch(/^G1, 0\.000°, 100\.0 %/)
  })
  it('of a path round a bend: a wire’s pieces meet G1, its halves G2', async () => {
    const route = [
      op(10, 'path', 'way', {
        how: 'stops',
        stops: [
          { x: 0, y: 0, z: 0 },
          { x: 40, y: 0, z: 0, round: 10 },
          { x: 40, y: 40, z: 0 },
        ],
      }),
      op(20, 'sweep', 'wire', { path: 'way', section: 'round', across: 4, mode: 'new' }),
    ]
    const g = await worst(route, 'wire')
    expect(g.reading?.text).toBe('G1')
    // Four along each of three pieces, four across where two meet.
    expect(g.reading?.rows[0]).toEqual({ label: '20 seams', text: '12 G2, 8 G1, 0 less' })
  })
  it('says so where there is none, and of bodies that are turned', async () => {
    const plain = await worst([base, block], 'block')
    expect(plain.why ?? plain.reading?.text).toContain('run on')
  })
})
