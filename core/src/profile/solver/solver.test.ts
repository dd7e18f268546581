import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Drawing, drawingSchema } from '..'
import { dragTo, type Held, hold, type Loose, tryValue } from '.'

type P2 = [number, number]
type Hold = { kind: string; points?: string[]; entities?: string[]; value?: number; read?: boolean }

/** A drawing of points and lines named by their ends ("ab"), with relations r1.. and dimensions d1... */
function sketch(
  points: Record<string, P2>,
  lines: string[],
  relations: Hold[] = [],
  dimensions: Hold[] = [],
  more: Drawing['entities'] = [],
): Loose {
  const full = (h: Hold, id: string) => ({ points: [], entities: [], ...h, id })
  const drawing = drawingSchema.parse({
    points: Object.fromEntries(Object.entries(points).map(([id, [x, y]]) => [id, { x, y }])),
    entities: [
      ...lines.map((l) => ({ id: l, kind: 'line' as const, a: l[0]!, b: l[1]! })),
      ...more,
    ],
    relations: relations.map((r, i) => full(r, `r${i + 1}`)),
    dimensions: dimensions.map((d, i) => full({ value: 0, ...d }, `d${i + 1}`)),
  })
  return {
    drawing,
    points,
    radii: Object.fromEntries(
      more.flatMap((e) => (e.kind === 'circle' ? [[e.id, e.radius as number]] : [])),
    ),
    targets: Object.fromEntries((drawing.dimensions ?? []).map((d) => [d.id, d.value as number])),
  }
}
const far = (h: Held, a: string, b: string) =>
  Math.hypot(h.points[a]![0] - h.points[b]![0], h.points[a]![1] - h.points[b]![1])
const foot: Hold[] = [
  { kind: 'fixed', points: ['a'] },
  { kind: 'level', points: ['a', 'b'] },
]

describe('known answers', () => {
  it('a triangle from its three sides, on the side it was drawn', () => {
    for (const up of [1, -1]) {
      const h = hold(
        sketch({ a: [0, 0], b: [30, 0], c: [10, 12 * up] }, ['ab', 'bc', 'ca'], foot, [
          { kind: 'distance', points: ['a', 'b'], value: 40 },
          { kind: 'distance', entities: ['bc'], value: 30 },
          { kind: 'distance', entities: ['ca'], value: 50 },
        ]),
      )
      expect(h.state).toMatchObject({ freedoms: 0, conflict: [], redundant: [] })
      // Right angle at b, by Pythagoras.
      expect(h.points.c![0]).toBeCloseTo(40, 10)
      expect(h.points.c![1]).toBeCloseTo(30 * up, 10)
    }
  })

  it('a line touching two circles of one radius stays parallel to their centres', () => {
    const circle = (id: string, c: string, radius: number) =>
      ({ id, kind: 'circle', c, radius }) as const
    const h = hold(
      sketch(
        { c: [0, 0], e: [50, 0], p: [-2, 11], q: [53, 9] },
        ['pq'],
        [
          { kind: 'fixed', points: ['c'] },
          { kind: 'fixed', points: ['e'] },
          { kind: 'tangent', entities: ['pq', 'k1'] },
          { kind: 'tangent', entities: ['k2', 'pq'] },
        ],
        [
          { kind: 'radius', entities: ['k1'], value: 10 },
          { kind: 'diameter', entities: ['k2'], value: 20 },
        ],
        [circle('k1', 'c', 9), circle('k2', 'e', 12)],
      ),
    )
    expect(h.points.p![1]).toBeCloseTo(10, 9)
    expect(h.points.q![1]).toBeCloseTo(10, 9)
    // Both ends may still run along the tangent.
    expect(h.state.freedoms).toBe(2)
    expect(h.state.travels.map((t) => [t.point, t.ways])).toEqual([
      ['p', 1],
      ['q', 1],
    ])
    expect(Math.abs(h.state.travels[0]!.direction![1])).toBeLessThan(1e-6)
  })

  it('an arc tangent to the lines at both ends of a corner: radius by the tangent length', () => {
    // Reference values C2: tangent length r / tan(angle / 2); a right angle takes just r.
    const h = hold(
      sketch(
        { a: [0, 30], b: [0, 12], m: [4, 3], c: [11, 0], d: [40, 0] },
        ['ab', 'cd'],
        [
          { kind: 'fixed', points: ['a'] },
          { kind: 'fixed', points: ['d'] },
          { kind: 'upright', entities: ['ab'] },
          { kind: 'level', entities: ['cd'] },
          { kind: 'tangent', entities: ['ab', 'arc'] },
          { kind: 'tangent', entities: ['arc', 'cd'] },
        ],
        [{ kind: 'radius', entities: ['arc'], value: 8 }],
        [{ id: 'arc', kind: 'arc', a: 'b', via: 'm', b: 'c' }],
      ),
    )
    expect(h.state).toMatchObject({ freedoms: 0, conflict: [] })
    expect(h.points.b![1]).toBeCloseTo(8, 9)
    expect(h.points.c![0]).toBeCloseTo(8, 9)
    expect(h.points.m![0]).toBeCloseTo(8 - 8 * Math.SQRT1_2, 9)
  })

  it('a four-bar linkage: coupler and rocker follow the crank (Grashof 20-50-40-60)', () => {
    const bars = (angle: number): Loose =>
      sketch(
        { a: [0, 0], b: [20 * Math.cos(angle), 20 * Math.sin(angle)], c: [45, 38], d: [60, 0] },
        ['ab', 'bc', 'cd', 'ad'],
        [
          { kind: 'fixed', points: ['a'] },
          { kind: 'fixed', points: ['d'] },
        ],
        [
          { kind: 'distance', entities: ['ab'], value: 20 },
          { kind: 'distance', entities: ['bc'], value: 50 },
          { kind: 'distance', entities: ['cd'], value: 40 },
        ],
      )
    const h = hold(bars(Math.PI / 2))
    expect(h.state.freedoms).toBe(1)
    // b, c move on circles: one way each, square to their cranks.
    const { direction } = h.state.travels.find((t) => t.point === 'b')!
    const b = h.points.b!
    expect(direction![0] * b[0] + direction![1] * b[1]).toBeCloseTo(0, 6)
    let loose = { ...bars(Math.PI / 2), points: h.points }
    for (let k = 1; k <= 24; k++) {
      const a = Math.PI / 2 - (k * Math.PI) / 48
      const next = dragTo(loose, { b: [20 * Math.cos(a), 20 * Math.sin(a)] })!
      expect(Math.hypot(...next.points.b!)).toBeCloseTo(20, 9)
      expect(
        Math.hypot(next.points.c![0] - next.points.b![0], next.points.c![1] - next.points.b![1]),
      ).toBeCloseTo(50, 9)
      // The rocker stays above the ground: no flip.
      expect(next.points.c![1]).toBeGreaterThan(0)
      loose = { ...loose, points: next.points }
    }
    // Crank along the ground: triangle 50-40-40 by the cosine rule.
    const c = loose.points.c!
    expect(c[0]).toBeCloseTo(20 + (50 ** 2 + 40 ** 2 - 40 ** 2) / 80, 6)
  })

  it('equal chains share a length', () => {
    const names = 'abcdefgh'.split('')
    const points = Object.fromEntries(names.map((n, i) => [n, [i * 9 + (i % 3), i % 2] as P2]))
    const lines = names.slice(1).map((n, i) => `${names[i]}${n}`)
    const h = hold(
      sketch(
        points,
        lines,
        [
          { kind: 'fixed', points: ['a'] },
          ...lines.map((l) => ({ kind: 'level', entities: [l] })),
          ...lines.slice(1).map((l) => ({ kind: 'equal', entities: [lines[0]!, l] })),
        ],
        [{ kind: 'distance', points: ['a', 'h'], value: 70 }],
      ),
    )
    expect(h.state).toMatchObject({ freedoms: 0, conflict: [], redundant: [] })
    for (const [i, n] of names.entries()) expect(h.points[n]![0]).toBeCloseTo(10 * i, 9)
  })

  it.each([
    ['midpoint', { kind: 'midpoint', points: ['p'], entities: ['ab'] }, [15, 0]],
    ['on a line', { kind: 'on', points: ['p'], entities: ['ab'] }, [11, 0]],
    ['symmetric', { kind: 'symmetric', points: ['q', 'p'], entities: ['axis'] }, [-7, 5]],
    ['on the axis', { kind: 'on', points: ['p'], entities: ['axis'] }, [0, 4]],
    ['at the origin', { kind: 'coincident', points: ['p', 'origin'] }, [0, 0]],
  ] as const)('%s', (_, relation, want) => {
    const h = hold(
      sketch(
        { a: [0, 0], b: [30, 0], q: [7, 5], p: [11, 4] },
        ['ab'],
        [
          ...(['a', 'b', 'q'] as const).map((p) => ({ kind: 'fixed', points: [p] })),
          relation as unknown as Hold,
        ],
      ),
    )
    expect(h.points.p![0]).toBeCloseTo(want[0], 9)
    expect(h.points.p![1]).toBeCloseTo(want[1], 9)
  })

  it.each([
    ['parallel', 0],
    ['square', Math.PI / 2],
  ] as const)('%s lines', (kind, angle) => {
    const h = hold(
      sketch(
        { a: [0, 0], b: [30, 4], c: [5, 9], d: [20, 19] },
        ['ab', 'cd'],
        [{ kind, entities: ['ab', 'cd'] }],
      ),
    )
    const [a, b, c, d] = ['a', 'b', 'c', 'd'].map((p) => h.points[p]!) as [P2, P2, P2, P2]
    const turn = Math.atan2(
      (b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]),
      (b[0] - a[0]) * (d[0] - c[0]) + (b[1] - a[1]) * (d[1] - c[1]),
    )
    expect(Math.abs(turn)).toBeCloseTo(angle, 9)
  })

  it('dimensions: across the axis, from a line, angle, length along an arc', () => {
    const h = hold(
      sketch(
        { a: [0, 0], b: [30, 0], c: [25, 20], m: [35, 10] },
        ['ab', 'bc'],
        [
          { kind: 'fixed', points: ['a'] },
          { kind: 'level', entities: ['ab'] },
        ],
        [
          { kind: 'across', points: ['b'], value: 80 },
          { kind: 'angle', entities: ['ab', 'bc'], value: Math.PI / 3 },
          { kind: 'offset', points: ['c'], entities: ['ab'], value: 30 },
          { kind: 'arclength', entities: ['arc'], value: 38 },
        ],
        [{ id: 'arc', kind: 'arc', a: 'b', via: 'm', b: 'c' }],
      ),
    )
    expect(h.state).toMatchObject({ freedoms: 0, conflict: [] })
    expect(h.points.b![0]).toBeCloseTo(40, 9)
    expect(h.points.c![1]).toBeCloseTo(30, 9)
    // Inside angle at b of 60 deg: c lies back by 30 / tan 60.
    expect(h.points.c![0]).toBeCloseTo(40 - 30 / Math.tan(Math.PI / 3), 9)
    expect(h.state.measures.d4).toBeCloseTo(38, 9)
  })
})

describe('freedoms, counted by hand', () => {
  it.each([
    ['a loose line', sketch({ a: [0, 0], b: [9, 1] }, ['ab']), 4],
    [
      'a level line',
      sketch({ a: [0, 0], b: [9, 1] }, ['ab'], [{ kind: 'level', entities: ['ab'] }]),
      3,
    ],
    [
      'a rectangle: place and two sides',
      sketch(
        { a: [0, 0], b: [9, 0], c: [9, 5], d: [0, 5] },
        ['ab', 'bc', 'cd', 'da'],
        [
          { kind: 'level', entities: ['ab'] },
          { kind: 'level', entities: ['cd'] },
          { kind: 'upright', entities: ['bc'] },
          { kind: 'upright', entities: ['da'] },
        ],
      ),
      4,
    ],
    [
      'an arc: three points less one',
      sketch(
        { a: [0, 0], m: [5, 3], b: [9, 0] },
        [],
        [],
        [],
        [{ id: 'arc', kind: 'arc', a: 'a', via: 'm', b: 'b' }],
      ),
      5,
    ],
    [
      'a circle: centre and radius',
      sketch({ c: [0, 0] }, [], [], [], [{ id: 'k', kind: 'circle', c: 'c', radius: 4 }]),
      3,
    ],
  ])('%s', (_, loose, want) => expect(hold(loose as Loose).state.freedoms).toBe(want))
})

describe('too much said', () => {
  const box = (more: Hold[], dims: Hold[] = []) =>
    sketch(
      { a: [0, 0], b: [30, 0], c: [30, 20], d: [0, 20] },
      ['ab', 'bc', 'cd', 'da'],
      [
        { kind: 'level', entities: ['ab'] },
        { kind: 'upright', entities: ['bc'] },
        { kind: 'level', entities: ['cd'] },
        { kind: 'upright', entities: ['da'] },
        ...more,
      ],
      dims,
    )
  it('a relation that follows from others is redundant, not in conflict', () => {
    const { state } = hold(box([{ kind: 'parallel', entities: ['ab', 'cd'] }]))
    expect(state.conflict).toEqual([])
    expect(state.redundant).toEqual([{ id: 'r5', from: expect.arrayContaining(['r1', 'r3']) }])
    expect(state.freedoms).toBe(4)
  })
  it('two widths of one box: just the two of them and what ties them', () => {
    const loose = box(
      [],
      [
        { kind: 'distance', entities: ['ab'], value: 40 },
        { kind: 'distance', entities: ['cd'], value: 45 },
        { kind: 'distance', entities: ['bc'], value: 20 },
      ],
    )
    const { state, points } = hold(loose)
    // Without r3 the longer side may tilt; r1 has no part in it.
    expect([...state.conflict].sort()).toEqual(['d1', 'd2', 'r2', 'r3', 'r4'])
    // Nothing has moved.
    expect(points).toEqual(loose.points)
    // Any one of them released, the rest holds.
    for (const id of state.conflict) {
      const keep = <T extends { id: string }>(list: T[] | undefined) =>
        (list ?? []).filter((x) => x.id !== id)
      const { drawing } = loose
      const less = {
        ...loose,
        drawing: {
          ...drawing,
          relations: keep(drawing.relations),
          dimensions: keep(drawing.dimensions),
        },
      }
      expect(hold(less).state.conflict).toEqual([])
    }
  })
  it('of two conflicts the smaller is named, though the larger is met first', () => {
    const { state } = hold(
      sketch(
        { p: [60, 0], q: [70, 0], a: [0, 0], b: [30, 0], c: [30, 20], d: [0, 20] },
        ['ab', 'bc', 'cd', 'da', 'pq'],
        [
          { kind: 'fixed', points: ['p'] },
          { kind: 'fixed', points: ['q'] },
          { kind: 'level', entities: ['ab'] },
          { kind: 'upright', entities: ['bc'] },
          { kind: 'level', entities: ['cd'] },
          { kind: 'upright', entities: ['da'] },
        ],
        [
          { kind: 'distance', entities: ['pq'], value: 12 },
          { kind: 'distance', entities: ['ab'], value: 40 },
          { kind: 'distance', entities: ['cd'], value: 45 },
        ],
      ),
    )
    expect([...state.conflict].sort()).toEqual(['d1', 'r1', 'r2'])
  })
  it('is the smallest by trying every set: distances along one line', () => {
    const names = ['a', 'b', 'c', 'd', 'e']
    const places = Object.fromEntries(names.map((n, i) => [n, [10 * i, 0] as P2]))
    const span = fc
      .uniqueArray(fc.constantFrom(...names), { minLength: 2, maxLength: 2 })
      .map((pair) => pair.sort())
    const dims = fc.array(fc.tuple(span, fc.integer({ min: 1, max: 3 })), {
      minLength: 4,
      maxLength: 8,
    })
    fc.assert(
      fc.property(dims, (list) => {
        const of = (some: typeof list) =>
          sketch(
            places,
            [],
            [],
            some.map(([points, k]) => ({ kind: 'level', points, value: 10 * k })),
          )
        const { conflict } = hold(of(list)).state
        let least = 0
        for (let set = 0; set < 1 << list.length; set++) {
          const some = list.filter((_, i) => set & (1 << i))
          if (least > 0 && some.length >= least) continue
          if (hold(of(some)).state.conflict.length > 0) least = some.length
        }
        expect(conflict.length).toBe(least)
      }),
      { numRuns: 25 },
    )
  })
  it('a line both level and upright, with a length', () => {
    const { state } = hold(
      sketch(
        { a: [0, 0], b: [9, 1] },
        ['ab'],
        [
          { kind: 'level', entities: ['ab'] },
          { kind: 'upright', entities: ['ab'] },
        ],
        [{ kind: 'distance', entities: ['ab'], value: 10 }],
      ),
    )
    expect([...state.conflict].sort()).toEqual(['d1', 'r1', 'r2'])
  })
  it('a side longer than the other two: refused with the nearest that can be', () => {
    const triangle = sketch({ a: [0, 0], b: [40, 0], c: [40, 30] }, ['ab', 'bc', 'ca'], foot, [
      { kind: 'distance', entities: ['ab'], value: 40 },
      { kind: 'distance', entities: ['bc'], value: 30 },
      { kind: 'distance', entities: ['ca'], value: 50 },
    ])
    expect(tryValue(triangle, 'd3', 60)).toEqual({ ok: true })
    const r = tryValue(triangle, 'd3', 90)
    if (r.ok) throw new Error('90 cannot be reached')
    expect([...r.conflict].sort()).toEqual(['d1', 'd2', 'd3'])
    expect(r.nearest!).toBeGreaterThan(69)
    expect(r.nearest!).toBeLessThanOrEqual(70)
  })
  it('a relation that does not fit is told and left out', () => {
    const { state } = hold(
      sketch(
        { a: [0, 0], b: [9, 1], c: [3, 4], d: [8, 8] },
        ['ab', 'cd'],
        [{ kind: 'concentric', entities: ['ab', 'cd'] }],
      ),
    )
    expect(state.unfit[0]!.message).toMatch(/arcs and circles only/)
  })
  it('only measured dimensions hold nothing', () => {
    const { state } = hold(
      sketch(
        { a: [0, 0], b: [9, 0] },
        ['ab'],
        [],
        [{ kind: 'distance', entities: ['ab'], value: 5, read: true }],
      ),
    )
    expect(state.freedoms).toBe(4)
    expect(state.measures.d1).toBeCloseTo(9, 12)
  })
})

describe('random profiles', () => {
  /** A closed chain with relations true of it as it stands: always solvable. */
  const profile = fc
    .record({
      n: fc.integer({ min: 4, max: 12 }),
      seed: fc.integer({ min: 1, max: 1_000_000 }),
      shake: fc.double({ min: 0.01, max: 1.5, noNaN: true }),
    })
    .map(({ n, seed, shake }) => {
      let s = seed
      const random = () => {
        s = (s * 48271) % 2147483647
        return s / 2147483647
      }
      const names = 'abcdefghijkl'.slice(0, n).split('')
      const at: Record<string, P2> = {}
      for (const [i, p] of names.entries()) {
        const a = (2 * Math.PI * i) / n
        const r = 30 + 20 * random()
        at[p] = [r * Math.cos(a), r * Math.sin(a)]
      }
      const lines = names.map((p, i) => `${p}${names[(i + 1) % n]}`)
      const length = (l: string) =>
        Math.hypot(at[l[0]!]![0] - at[l[1]!]![0], at[l[0]!]![1] - at[l[1]!]![1])
      const dims: Hold[] = lines.map((l) => ({ kind: 'distance', entities: [l], value: length(l) }))
      for (let i = 2; i < n - 1; i++) {
        const d = Math.hypot(at.a![0] - at[names[i]!]![0], at.a![1] - at[names[i]!]![1])
        dims.push({ kind: 'distance', points: ['a', names[i]!], value: d })
      }
      const shaken = Object.fromEntries(
        Object.entries(at).map(([p, [x, y]]) => [
          p,
          [x + shake * (random() - 0.5), y + shake * (random() - 0.5)] as P2,
        ]),
      )
      return sketch(shaken, lines, [{ kind: 'fixed', points: ['a'] }], dims)
    })
  const area = (points: Record<string, P2>) => {
    const p = Object.values(points)
    return p.reduce((s, [x, y], i) => {
      const q = p[(i + 1) % p.length]!
      return s + (x * q[1] - q[0] * y) / 2
    }, 0)
  }
  it('shaken and solved: residual under 1e-10 mm, on the same branch', () => {
    fc.assert(
      fc.property(profile, (loose) => {
        const h = hold(loose)
        expect(h.state.conflict).toEqual([])
        // A framework of triangles about one fixed point turns as a whole: one freedom.
        expect(h.state.freedoms).toBe(1)
        for (const [id, want] of Object.entries(loose.targets))
          expect(Math.abs(h.state.measures[id]! - want)).toBeLessThan(1e-10)
        // No triangle of the fan turned over: the area stays what the sides say.
        expect(Math.sign(area(h.points))).toBe(Math.sign(area(loose.points as Record<string, P2>)))
        const again = hold({ ...loose, points: h.points })
        for (const p of Object.keys(h.points))
          expect(
            far({ ...again, points: { ...again.points, was: h.points[p]! } }, p, 'was'),
          ).toBeLessThan(1e-9)
      }),
      { numRuns: 200, seed: 20261 },
    )
  })
})
