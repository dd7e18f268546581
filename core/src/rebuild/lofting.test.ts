import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { edgeRef } from '../exact'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, diagnosis, exact, face, volume } from './exactroute.test-data'

const level = (number: number, id: string, z: number | string): Op =>
  op(number, 'plane', id, { how: 'offset', from: 'top', offset: z })
const loft = (sections: object[], more: object = {}): Op =>
  op(90, 'loft', 'skin', { sections, mode: 'new', ...more })
const of = (...ids: string[]) => ids.map((profile) => ({ profile }))
const point = (number: number, id: string, x: number, y: number, z: number): Op =>
  op(number, 'point', id, { how: 'place', p1: { x, y, z } })

const shoelace = (p: readonly (readonly [number, number])[]) =>
  p.reduce((sum, [x, y], i) => {
    const [u, v] = p[(i + 1) % p.length]!
    return sum + (x * v - u * y) / 2
  }, 0)

describe('lofts', () => {
  it('two circles, straight: a frustum', async () => {
    const route = [
      circles(10, 'a', 'top', [[0, 0, 20]]),
      level(20, 'up', 60),
      circles(30, 'b', 'up', [[0, 0, 10]]),
      loft(of('a', 'b')),
    ]
    const v = await volume(route, 'skin')
    expect(v / ((Math.PI * 60 * (400 + 200 + 100)) / 3)).toBeCloseTo(1, 6)
  })
  it('three squares: a prismoid by Simpson, exactly for a quadratic skin', async () => {
    const square = (n: number, id: string, plane: string, s: number) =>
      rectangle(n, id, plane, [-s / 2, -s / 2], [s, s])
    const route = [
      square(10, 'a', 'top', 20),
      level(20, 'p', 30),
      square(30, 'b', 'p', 30),
      level(40, 'q', 60),
      square(50, 'c', 'q', 20),
      loft(of('a', 'b', 'c')),
    ]
    const p = await exact(route, 'skin')
    // The side is 20 + 40 t (1 - t) at v = t: the integral of its square, times the height.
    const want = 60 * (400 + (2 * 20 * 40) / 6 + 1600 / 30)
    expect(p.measure.volume / want).toBeCloseTo(1, 8)
    expect(p.faces.length).toBe(6)
    expect(p.faces.map((f) => f.names[0]).sort()).toEqual([
      'skin:end',
      'skin:side1',
      'skin:side2',
      'skin:side3',
      'skin:side4',
      'skin:start',
    ])
  })
  it('a slit of 50 x 2 to a circle of radius 35, 100 high, by direction: 172,023.29 mm³', async () => {
    const to = [
      level(20, 'up', 100),
      circles(30, 'b', 'up', [[0, 0, 35]]),
      loft(of('a', 'b'), { run: 'ruled' }),
    ]
    // By mixed areas, h / 3 (A0 + A01 + A1): corners go to the places of the circle seen in their direction.
    const a = Math.atan2(1, 25)
    const [r, n] = [35, 20000]
    let mixed = 0
    for (const [p, q, from, to] of [
      [[-25, -1], [25, -1], a - Math.PI, -a],
      [[25, -1], [25, 1], -a, a],
      [[25, 1], [-25, 1], a, Math.PI - a],
      [[-25, 1], [-25, -1], Math.PI - a, Math.PI + a],
    ] as const)
      for (let k = 0; k < n; k++) {
        const w = from + ((k + 0.5) / n) * (to - from)
        const f = (k + 0.5) / n
        const [x, y] = [p[0] + f * (q[0] - p[0]), p[1] + f * (q[1] - p[1])]
        const [cx, cy] = [r * Math.cos(w), r * Math.sin(w)]
        const [dx, dy] = [(q[0] - p[0]) / n, (q[1] - p[1]) / n]
        const [ex, ey] = [(-cy * (to - from)) / n, (cx * (to - from)) / n]
        mixed += (x * ey - y * ex + cx * dy - cy * dx) / 4
      }
    const slit = rectangle(10, 'a', 'top', [-25, -1], [50, 2])
    const want = (100 / 3) * (100 + mixed + Math.PI * r * r)
    // Another program, and the kernel's own loft, gave this.
    expect(want).toBeCloseTo(172023.29, 0)
    expect((await volume([slit, ...to], 'skin')) / want).toBeCloseTo(1, 6)
  })
  it('sections that are not seen whole from their middle, to a circle, by shares of length: a prismatoid (closed form)', async () => {
    const shapes = {
      channel: [
        [0, 0],
        [40, 0],
        [40, 10],
        [12, 10],
        [12, 30],
        [40, 30],
        [40, 40],
        [0, 40],
      ],
      angle: [
        [0, 0],
        [50, 0],
        [50, 8],
        [8, 8],
        [8, 50],
        [0, 50],
      ],
      hook: [
        [0, 0],
        [36, 0],
        [36, 24],
        [26, 24],
        [26, 9],
        [9, 9],
        [9, 34],
        [0, 34],
      ],
    } as const
    for (const pts of Object.values(shapes)) {
      const n = pts.length
      const sides = pts.map((p, i) =>
        Math.hypot(pts[(i + 1) % n]![0] - p[0], pts[(i + 1) % n]![1] - p[1]),
      )
      const all = sides.reduce((a, b) => a + b, 0)
      const [cx, cy, r, high] = [20, 18, 17, 30]
      for (const order of [1, -1, 3]) {
        // Drawn from another corner, or the other way round.
        const list = order > 0 ? [...pts.slice(order), ...pts.slice(0, order)] : [...pts].reverse()
        const route = [
          outline(10, 'a', 'top', list),
          level(20, 'up', high),
          circles(30, 'b', 'up', [[cx, cy, r]]),
        ]
        const sections = order === 3 ? of('b', 'a') : of('a', 'b')
        const read = await volume([...route, loft(sections)], 'skin')
        // The section half-way up, a corner of it every fortieth of a side, for every way the circle may be turned.
        const half = (from: number) => {
          const at: [number, number][] = []
          let done = 0
          for (const [i, p] of pts.entries()) {
            const q = pts[(i + 1) % n]!
            for (let k = 0; k < 40; k++) {
              const f = k / 40
              const turn = 2 * Math.PI * (from + (done + f * sides[i]!) / all)
              at.push([
                (p[0] + f * (q[0] - p[0]) + cx + r * Math.cos(turn)) / 2,
                (p[1] + f * (q[1] - p[1]) + cy + r * Math.sin(turn)) / 2,
              ])
            }
            done += sides[i]!
          }
          return shoelace(at)
        }
        const volumes = Array.from(
          { length: 2880 },
          (_, k) => (high / 6) * (shoelace(pts) + 4 * half(k / 2880) + Math.PI * r * r),
        )
        expect(Math.min(...volumes.map((v) => Math.abs(v / read - 1)))).toBeLessThan(2e-4)
      }
    }
  })
  it('sections drawn the other way round, and begun elsewhere, are run alike', async () => {
    const square = [
      [-10, -10],
      [10, -10],
      [10, 10],
      [-10, 10],
    ] as const
    const back = [square[2], square[1], square[0], square[3]] as const
    const route = [
      outline(10, 'a', 'top', square),
      level(20, 'up', 40),
      outline(30, 'b', 'up', back),
      loft(of('a', 'b')),
    ]
    expect(await volume(route, 'skin')).toBeCloseTo(16000, 5)
    // Matched a quarter on it is twisted: half of the area is left half-way, which is told.
    const turned = [...route.slice(0, 3), loft([{ profile: 'a' }, { profile: 'b', shift: 2 }])]
    const d = await diagnosis(turned)
    expect(['folds', 'twisted']).toContain(d.code)
    expect(d.places.length).toBe(1)
  })
  it('sections listed from the top down make the same body, and its rims take the same round', async () => {
    const rising = [
      circles(10, 'a', 'top', [[0, 0, 20]]),
      level(20, 'p', 20),
      circles(30, 'b', 'p', [[1, 0, 17]]),
      level(40, 'q', 40),
      circles(50, 'c', 'q', [[0, 0, 14]]),
    ]
    const read = async (...order: string[]) => {
      const route = [...rising, loft(of(...order))]
      const p = await exact(route, 'skin')
      const rims = p.edges.flatMap((e, i) =>
        e.faces.length === 2 && e.faces.some((f) => p.faces[f]!.middle[2] > 40 - 1e-6) ? [i] : [],
      )
      const round = op(99, 'fillet', 'round', {
        body: 'skin',
        edges: rims.map((i) => edgeRef(p, i)),
        radius: 2,
      })
      return [p.measure.volume, await volume([...route, round], 'skin')] as const
    }
    const [up, rounded] = await read('a', 'b', 'c')
    const [down, roundedToo] = await read('c', 'b', 'a')
    expect(down / up).toBeCloseTo(1, 8)
    expect(rounded).toBeLessThan(up)
    expect(roundedToo / rounded).toBeCloseTo(1, 7)
  })
  it('a hole runs through all sections; a different number of holes is refused', async () => {
    const ring = (n: number, id: string, plane: string) =>
      circles(n, id, plane, [
        [0, 0, 20],
        [0, 0, 12],
      ])
    const route = [
      ring(10, 'a', 'top'),
      level(20, 'up', 50),
      ring(30, 'b', 'up'),
      loft(of('a', 'b')),
    ]
    expect((await volume(route, 'skin')) / (Math.PI * 50 * (400 - 144))).toBeCloseTo(1, 6)
    const plain = [route[0]!, route[1]!, circles(30, 'b', 'up', [[0, 0, 20]]), route[3]!]
    expect((await diagnosis(plain)).code).toBe('loops-differ')
  })
  it('to a point: a pyramid; domed: about half a ball', async () => {
    const foot = rectangle(10, 'a', 'top', [-15, -15], [30, 30])
    const tip = point(20, 'tip', 0, 0, 40)
    const pyramid = [foot, tip, loft([{ profile: 'a' }, { point: 'tip' }])]
    expect(await volume(pyramid, 'skin')).toBeCloseTo(12000, 4)
    const round = [
      circles(10, 'a', 'top', [[0, 0, 20]]),
      point(20, 'tip', 0, 0, 20),
      loft([{ profile: 'a' }, { point: 'tip', end: 'domed' }], {
        begins: 'square',
        beginPull: Math.PI / 2,
      }),
    ]
    const ball = (2 / 3) * Math.PI * 8000
    expect((await volume(round, 'skin')) / ball).toBeGreaterThan(0.97)
    expect((await volume(round, 'skin')) / ball).toBeLessThan(1.03)
  })
  it('square ends: a tube of one section moved sideways leaves and comes square', async () => {
    const route = [
      circles(10, 'a', 'top', [[0, 0, 10]]),
      level(20, 'up', 60),
      circles(30, 'b', 'up', [[20, 0, 10]]),
      loft(of('a', 'b'), { begins: 'square', ends: 'square' }),
    ]
    // Every level slice is the same circle (Cavalieri).
    expect((await volume(route, 'skin')) / (Math.PI * 100 * 60)).toBeCloseTo(1, 5)
  })
  it('a ring of four circles about an axis closes smoothly', async () => {
    const route: Op[] = []
    for (let k = 0; k < 6; k++) {
      route.push(
        op(10 + 2 * k, 'plane', `p${k}`, {
          how: 'angle',
          from: 'front',
          about: 'upright',
          turn: `${60 * k} deg`,
        }),
      )
      route.push(circles(11 + 2 * k, `c${k}`, `p${k}`, [[30, 0, 6]]))
    }
    route.push(loft(of(...[0, 1, 2, 3, 4, 5].map((k) => `c${k}`)), { ring: 'yes' }))
    const v = await volume(route, 'skin')
    expect(v / (2 * Math.PI ** 2 * 30 * 36)).toBeGreaterThan(0.97)
    expect(v / (2 * Math.PI ** 2 * 30 * 36)).toBeLessThan(1.03)
  })
  it('through faces of bodies, joined to one', async () => {
    const p = await exact([base, block], 'block')
    const route = [
      base,
      block,
      level(40, 'up', 50),
      rectangle(50, 'top2', 'up', [20, 10], [20, 20]),
      loft([{ body: 'block', face: face(p, 'block:end') }, { profile: 'top2' }], {
        mode: 'join',
        body: 'block',
      }),
    ]
    // A frustum of 60 x 40 to 20 x 20 over 30: prismatoid.
    const frustum = (30 / 6) * (2400 + 4 * (40 * 30) + 400)
    expect((await volume(route, 'block')) / (48000 + frustum)).toBeCloseTo(1, 7)
  })
  it('any two polygons of as many corners, shrunk, shifted and turned a little: a prismatoid', async () => {
    const size = fc.double({ min: 6, max: 25, noNaN: true })
    const off = fc.double({ min: -6, max: 6, noNaN: true })
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 3, max: 7 }),
        size,
        size,
        off,
        off,
        fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        fc.boolean(),
        async (n, r0, r1, dx, dy, turn, back) => {
          const ring = (r: number, x: number, y: number, a: number) =>
            Array.from({ length: n }, (_, k): [number, number] => {
              const w = a + (2 * Math.PI * k) / n
              return [x + r * Math.cos(w), y + r * Math.sin(w)]
            })
          const [low, high] = [ring(r0, 0, 0, 0.2), ring(r1, dx, dy, 0.2 + turn / n)]
          const area = (p: readonly (readonly number[])[]) =>
            p.reduce((s, a, k) => {
              const b = p[(k + 1) % n]!
              return s + (a[0]! * b[1]! - a[1]! * b[0]!) / 2
            }, 0)
          const mid = low.map((p, k) => [(p[0] + high[k]![0]) / 2, (p[1] + high[k]![1]) / 2])
          const want = (40 / 6) * (area(low) + 4 * area(mid) + area(high))
          const route = [
            outline(10, 'a', 'top', low),
            level(20, 'up', 40),
            outline(30, 'b', 'up', back ? [...high].reverse() : high),
            loft(of('a', 'b')),
          ]
          expect((await volume(route, 'skin')) / want).toBeCloseTo(1, 6)
        },
      ),
      { numRuns: 12 },
    )
  })
  it('says what cannot be', async () => {
    const a = circles(10, 'a', 'top', [[0, 0, 20]])
    const tip = point(20, 'tip', 0, 0, 40)
    const code = async (sections: object[], more: object = {}) =>
      (
        await diagnosis([
          a,
          tip,
          level(30, 'up', 30),
          circles(40, 'b', 'up', [[0, 0, 9]]),
          loft(sections, more),
        ])
      ).code
    expect(await code([{ profile: 'a' }])).toBe('too-few')
    expect(await code([{ point: 'tip' }, { point: 'tip' }])).toBe('too-few')
    expect(await code([{ profile: 'a' }, { point: 'tip' }, { profile: 'b' }])).toBe('tip-inside')
    expect(await code(of('a', 'nowhere'))).toBe('no-profile')
    expect(await code(of('a', 'b'), { ring: 'yes' })).toBe('too-few')
    expect(await code(of('a', 'b'), { begins: 'square', beginPull: 0 })).toBe('not-positive')
    expect(await code(of('a', 'a'))).toBe('same-place')
    expect(await code(of('a', 'b', 'b'))).toBe('same-place')
    const beside = circles(50, 'c', 'top', [[1, 0, 9]])
    for (const run of ['smooth', 'ruled'])
      expect((await diagnosis([a, beside, loft(of('a', 'c'), { run })])).code).toBe(
        'encloses-nothing',
      )
  })
})
