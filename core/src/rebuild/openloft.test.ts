import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import type { Op } from '../workpiece'
import { outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece, volume } from './exactroute.test-data'

type Place = readonly [number, number, number]
/** A path through places, straight from each to the next. */
const line = (number: number, id: string, places: readonly Place[]): Op =>
  op(number, 'path', id, {
    how: 'stops',
    stops: places.map(([x, y, z]) => ({ x, y, z, rel: false, by: 'line' })),
  })
const plane = (number: number, id: string, y: number): Op =>
  op(number, 'plane', id, { how: 'offset', from: 'front', offset: y })
/** An arc of radius r above the middle of a plane, from `from` to `to` deg as seen along it. */
const arch = (number: number, id: string, on: string, r: number, from = 0, to = 180): Op => {
  const at = (deg: number) => ({
    x: r * Math.cos((deg * Math.PI) / 180),
    y: r * Math.sin((deg * Math.PI) / 180),
  })
  return op(number, 'profile', id, {
    plane: on,
    use: 'open',
    drawing: {
      points: { a: at(from), m: at((from + to) / 2), b: at(to) },
      entities: [{ id: 'bow', kind: 'arc', a: 'a', via: 'm', b: 'b' }],
    },
  })
}
const loft = (sections: string[], more: object = {}): Op =>
  op(90, 'loft', 'skin', {
    sections: sections.map((s) => (s.startsWith('w') ? { path: s } : { profile: s })),
    mode: 'new',
    ...more,
  })
const vault = (more: object = {}, from = 0, to = 180): Op[] => [
  arch(10, 'a', 'front', 20, from, to),
  plane(20, 'far', 60),
  arch(30, 'b', 'far', 20, from, to),
  loft(['a', 'b'], more),
]

describe('lofts through open sections', () => {
  it('closed by flat faces: half a cylinder', async () => {
    const p = await exact(vault(), 'skin')
    expect(p.measure.volume / ((Math.PI * 400 * 60) / 2)).toBeCloseTo(1, 6)
    expect(p.faces.map((f) => f.names[0]).sort()).toEqual([
      'skin:bow',
      'skin:end',
      'skin:flat',
      'skin:start',
    ])
    expect(p.faces.filter((f) => f.kind === 'plane')).toHaveLength(3)
  })
  it('as leaves of a book that share both ends, on one flat face: a pyramid', async () => {
    const leaf = (n: number, id: string, on: string, apex: number): Op =>
      outline(
        n,
        id,
        on,
        [
          [-50, 0],
          [0, apex],
          [50, 0],
        ],
        false,
      )
    const route = [
      leaf(10, 'a', 'top', -30),
      leaf(20, 'b', 'front', 20),
      leaf(30, 'c', 'top', 30),
      loft(['a', 'b', 'c'], { run: 'ruled' }),
    ]
    const p = await exact(route, 'skin')
    // A rhombus of 100 x 60 under a point 20 above it.
    expect(p.measure.volume).toBeCloseTo((3000 * 20) / 3, 5)
    expect(p.faces.filter((f) => f.names[0] === 'skin:flat')).toHaveLength(1)
  })
  it('leaves that are half circles about one diameter: half a ball, as near as five of them make it', async () => {
    const leaf = (n: number, deg: number): Op[] => [
      op(n, 'plane', `p${n}`, {
        how: 'angle',
        from: 'front',
        about: 'upright',
        turn: `${deg} deg`,
      }),
      arch(n + 1, `l${n}`, `p${n}`, 30, 90, -90),
    ]
    const angles = [0, 45, 90, 135, 180]
    const route = [
      ...angles.flatMap((a, i) => leaf(10 + 2 * i, a)),
      loft(angles.map((_, i) => `l${10 + 2 * i}`)),
    ]
    const v = await volume(route, 'skin')
    expect(v / ((2 / 3) * Math.PI * 27000)).toBeGreaterThan(0.97)
    expect(v / ((2 / 3) * Math.PI * 27000)).toBeLessThan(1.01)
  })
  it('a crease between ruled walls is as sharp as it is drawn: troughs by closed form; one that runs back along itself folds', async () => {
    const trough = (half: number, high: number, last = half): Op[] => [
      line(10, 'w1', [
        [0, -half, high],
        [40, -half, high],
      ]),
      line(20, 'w2', [
        [0, 0, 0],
        [40, 0, 0],
      ]),
      line(30, 'w3', [
        [0, last, high],
        [40, last, high],
      ]),
      loft(['w1', 'w2', 'w3'], { run: 'ruled' }),
    ]
    for (const [half, high] of [
      [10, 3],
      [10, 10.5],
      [10, 14],
      [6, 40],
      [40, 6],
    ] as const)
      expect((await volume(trough(half, high), 'skin')) / (half * high * 40)).toBeCloseTo(1, 8)
    expect((await diagnosis(trough(10, 30, -8))).code).toBe('folds')
  })
  it('corners of sections with fewer keep to sides of those with more', async () => {
    const route = [
      outline(
        10,
        'a',
        'front',
        [
          [-40, 0],
          [-40, 10],
          [40, 10],
          [40, 0],
        ],
        false,
      ),
      plane(20, 'p', 50),
      outline(
        30,
        'b',
        'p',
        [
          [-40, 0],
          [0, 30],
          [40, 0],
        ],
        false,
      ),
      loft(['a', 'b'], { run: 'ruled' }),
    ]
    const p = await exact(route, 'skin')
    expect(p.faces.filter((f) => f.kind === 'plane').length).toBeGreaterThanOrEqual(3)
    // Slices between a rectangle and a triangle by mixed areas; their corners at a third of the way each keep it between.
    expect(p.measure.volume).toBeGreaterThan(50 * 800)
    expect(p.measure.volume).toBeLessThan(50 * 1400)
  })
  for (const [side, inner, outer] of [
    ['one', 20, 23],
    ['other', 17, 20],
    ['middle', 18.5, 21.5],
  ] as const)
    it(`a wall of 3 along half a cylinder, ${side}: half a tube`, async () => {
      const p = await exact(vault({ skin: side, wall: 3 }), 'skin')
      const tube = (a: number, b: number) => (Math.PI * 60 * (b * b - a * a)) / 2
      const wants = [tube(inner, outer), tube(40 - outer, 40 - inner)]
      const off = Math.min(...wants.map((w) => Math.abs(p.measure.volume / w - 1)))
      expect(off).toBeLessThan(1e-6)
      expect(p.faces.map((f) => f.names[0]).sort()).toEqual([
        'skin:bow',
        'skin:end',
        'skin:left',
        'skin:over(skin:bow)',
        'skin:right',
        'skin:start',
      ])
    })
  it('straight walls are as thick along their direction and thinner square to the skin: told in numbers', async () => {
    const route = vault({ skin: 'one', wall: 4, along: 'top' }, 30, 150)
    const p = await exact(route, 'skin')
    const chord = 2 * 20 * Math.cos(Math.PI / 6)
    expect(p.measure.volume / (4 * chord * 60)).toBeCloseTo(1, 6)
  })
  it('refuses walls tighter than the skin bends, across creases, and along the skin, with the place', async () => {
    const inward = vault({ skin: 'other', wall: 20.5 })
    const outward = vault({ skin: 'one', wall: 20.5 })
    const said = [await diagnosis(inward), await diagnosis(outward)].filter((d) => d !== undefined)
    expect(said.map((d) => [d.code, d.message.includes('20 mm')])).toEqual([['too-tight', true]])
    const along = await diagnosis(vault({ skin: 'one', wall: 3, along: 'top' }))
    expect(along.code).toBe('along-skin')
    expect(along.places).toHaveLength(1)
    const bent = (n: number, id: string, on: string) =>
      outline(
        n,
        id,
        on,
        [
          [-40, 0],
          [0, 20],
          [40, 0],
        ],
        false,
      )
    const creased = await diagnosis([
      bent(10, 'a', 'front'),
      plane(20, 'p', 50),
      bent(30, 'b', 'p'),
      loft(['a', 'b'], { skin: 'one', wall: 2 }),
    ])
    expect(creased.code).toBe('creased')
    expect(creased.message).toContain('53.1°')
  })
  it('refuses open sections beside closed ones, rings of them, and ends that lie in no plane', async () => {
    const box = outline(10, 'box', 'top', [
      [0, 0],
      [10, 0],
      [10, 10],
    ])
    expect((await diagnosis([box, arch(20, 'b', 'front', 20), loft(['box', 'b'])])).code).toBe(
      'mixed',
    )
    const ring = [
      arch(10, 'a', 'front', 20),
      plane(20, 'p', 30),
      arch(30, 'b', 'p', 25),
      plane(40, 'q', 60),
      arch(50, 'c', 'q', 20),
      loft(['a', 'b', 'c'], { ring: 'yes' }),
    ]
    expect((await diagnosis(ring)).code).toBe('open-ring')
    const twisted = [
      line(10, 'wa', [
        [-40, 0, 0],
        [-10, 0, 20],
        [10, 12, 20],
        [40, 0, 0],
      ]),
      line(20, 'wb', [
        [-40, 60, 0],
        [-10, 60, 20],
        [10, 60, 20],
        [40, 60, 0],
      ]),
      loft(['wa', 'wb'], { run: 'ruled' }),
    ]
    const d = await diagnosis(twisted)
    expect(d.code).toBe('not-flat')
    expect(d.fixes[0]!.inputs).toEqual({ skin: 'middle' })
  })

  it('turned round: rails as sections, sections as rails, the same curves; and back again', async () => {
    const free = (n: number, id: string, places: Place[]) =>
      op(n, 'path', id, {
        how: 'stops',
        stops: places.map(([x, y, z], i) => ({ x, y, z, by: i === 0 ? 'line' : 'spline' })),
      })
    const side = (x: number, z: number): Place[] => [
      [0, 0, 0],
      [x, 20, z],
      [x, 40, z],
      [0, 60, 0],
    ]
    const rib = (y: number): Place[] => [
      [-15, y, 0],
      [0, y, 9],
      [15, y, 0],
    ]
    const curves = [
      free(10, 'w1', side(-15, 0)),
      free(20, 'w2', side(0, 9)),
      // Drawn the other way round.
      free(30, 'w3', side(15, 0).reverse()),
      free(40, 'r1', rib(20)),
      free(50, 'r2', rib(40)),
    ]
    const made = async (inputs: object) => {
      const last = op(90, 'loft', 'skin', { mode: 'new', ...inputs })
      const { reports, state } = await built(piece([...curves, last]))
      const report = reports.at(-1)!
      expect([report.status, report.diagnoses]).toEqual(['ok', []])
      return { turned: report.shown?.turned, shape: state.bodies.skin!.shape as ExactPart }
    }
    const across = {
      sections: [{ path: 'w1' }, { path: 'w2' }, { path: 'w3' }],
      rails: ['r1', 'r2'],
    }
    const a = await made(across)
    expect(a.turned).toEqual({
      sections: [
        { path: 'w1', only: 'start' },
        { path: 'r1', shift: 0 },
        { path: 'r2', shift: 0 },
        { path: 'w1', only: 'end' },
      ],
      rails: ['w1', 'w2', 'w3'],
    })
    const b = await made(a.turned!)
    expect(b.shape.measure.volume / a.shape.measure.volume).toBeCloseTo(1, 1)
    expect(b.shape.measure.volume).not.toBe(a.shape.measure.volume)
    expect(b.turned!.rails).toEqual(['r1', 'r2'])
    expect((await made(b.turned!)).shape.measure.volume).toBeCloseTo(a.shape.measure.volume, 6)
  })
})
