import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
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
  it.each([2, 4, 12])('a kink of %d deg is told by how much it is, all along', async (deg) => {
    const rise = 20 * Math.tan((deg * Math.PI) / 180)
    const route = [
      outline(10, 'side', 'front', [
        [0, 0],
        [40, 0],
        [40, 10 + rise],
        [20, 10],
        [0, 10],
      ]),
      op(20, 'extrude', 'roof', { profile: 'side', mode: 'new', length: 30 }),
    ]
    const g = await worst(route, 'roof')
    expect(g.reading?.text).toBe('G0')
    expect(g.reading?.rows[0]?.text).toBe('0 G2, 0 G1, 1 less')
    expect(g.reading?.rows[1]?.text).toBe(`G0, kinked by ${deg}.000° all along`)
  })
  it('a kink all round beside smooth seams is not hidden by them', async () => {
    // A cone of 3 deg on a drum whose upright edges no edge has: two faces that meet all round.
    const lean = 20 * Math.tan((3 * Math.PI) / 180)
    const level = (n: number, id: string, z: number) =>
      op(n, 'plane', id, { how: 'offset', from: 'top', offset: z })
    const route = [
      circles(10, 'a', 'top', [[0, 0, 20]]),
      op(20, 'extrude', 'drum', { profile: 'a', mode: 'new', length: 30 }),
      level(30, 'p', 30),
      level(40, 'q', 50),
      circles(50, 'b', 'p', [[0, 0, 20]]),
      circles(60, 'c', 'q', [[0, 0, 20 - lean]]),
      op(70, 'loft', 'cap', {
        sections: [{ profile: 'b' }, { profile: 'c' }],
        run: 'ruled',
        mode: 'join',
        body: 'drum',
      }),
    ]
    const g = await worst(route, 'drum')
    expect(g.reading?.text).toBe('G0')
    expect(g.reading?.rows[1]?.text).toMatch(
      /^G0, kinked by (3\.000°|2\.99\d° to 3\.00\d°) all along/,
    )
  })
  it('where a free face closes on itself it is a seam like any other', async () => {
    // A drop: smooth all round but at its tip, where both ends of one curve meet at 11.31 deg.
    const drop = op(10, 'profile', 'drop', {
      plane: 'top',
      use: 'flat',
      drawing: {
        points: Object.fromEntries(
          [
            [0, 0],
            [20, -2],
            [20, 30],
            [-20, 30],
            [-20, -2],
            [0, 0],
          ]
            .slice(0, 5)
            .map(([x, y], i) => [`p${i}`, { x, y }]),
        ),
        entities: [
          { id: 'bow', kind: 'poles', points: ['p0', 'p1', 'p2', 'p3', 'p4', 'p0'], degree: 3 },
        ],
      },
    })
    const route = [drop, op(20, 'extrude', 'bar', { profile: 'drop', mode: 'new', length: 20 })]
    const p = await exact(route, 'bar')
    const sides = p.faces.filter((f) => f.kind === 'free').length
    const g = await worst(route, 'bar')
    expect(sides).toBe(1)
    expect(g.reading?.rows[1]?.text).toMatch(/^G0, kinked by 11\.421° all along/)
  })
  it('says so where there is none, and of bodies that are turned', async () => {
    const plain = await worst([base, block], 'block')
    expect(plain.why ?? plain.reading?.text).toContain('run on')
  })
})
