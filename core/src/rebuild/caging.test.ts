import fc from 'fast-check'
import { beforeAll, describe, expect, test } from 'vitest'
import { placeAt } from '../math'
import type { Op } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { cageSymmetry, readGauges } from '.'
import { bodiesOf, built, diagnosis, exact, piece, the } from './exactroute.test-data'

beforeAll(the)

const cage = (start: object, edits: object[] = [], more: object = {}) =>
  op(10, 'cage', 'cage', {
    start,
    edits: edits.map((e, k) => ({ id: `e${k + 1}`, ...e })),
    within: 0.01,
    mode: 'new',
    ...more,
  })
const tube = { kind: 'cylinder', radius: 48, height: 110, columns: 12, bands: 7 }
const box = { kind: 'box', sx: 60, sy: 60, sz: 60, across: 1, along: 1, up: 1 }

/**
 * The area of a closed uniform cubic B-spline whose n control points are a regular polygon of radius R: by Green's theorem n R² Σ c(j)
 * sin(2 π j / n), c the sixth-degree cardinal B-spline's steps (Eulerian numbers 1, 57, 302), (245, 56, 1) / 720.
 */
const roundArea = (n: number, radius: number) => {
  const a = (2 * Math.PI) / n
  return (n * radius ** 2 * (245 * Math.sin(a) + 56 * Math.sin(2 * a) + Math.sin(3 * a))) / 720
}

describe('bodies of cages', () => {
  test('a tube of cubic curves between flat ends: two faces and its ends, exact', async () => {
    for (const columns of [3, 5, 12]) {
      const part = await exact([cage({ ...tube, columns })], 'cage')
      expect(part.faces).toHaveLength(4)
      expect(part.measure.volume / (110 * roundArea(columns, 48))).toBeCloseTo(1, 8)
      expect([part.measure.closed, part.measure.valid]).toEqual([true, true])
    }
  })
  test('a cube becomes its limit, 0.327552379087 of it (exact patch integrals)', async () => {
    const part = await exact([cage(box, [], { within: 0.001 })], 'cage')
    expect(part.faces).toHaveLength(6)
    expect(part.measure.volume / 60 ** 3).toBeCloseTo(0.327552379, 5)
  })
  test('faces of the body meet within a tenth of a degree where the form is smooth, as the kernel reads it; told where so many are about one point that they do not', async () => {
    const seams = async (route: Op[]) => {
      const gauges = [{ id: 'g', kind: 'seams', params: {} }]
      const w = { ...piece(route), gauges }
      const made = await built(w)
      return { report: made.reports[0]!, reading: readGauges(w, made)[0]!.reading! }
    }
    const told = (consequence: string) => Number(/meeting within ([\d.]+)°/.exec(consequence)![1])
    const shut = { ...tube, bands: 2, floor: 'shut', lid: 'shut' }
    const push = [{ kind: 'size', on: ['row 1'], sx: 1.3, sy: 1.2, sz: 1 }]
    for (const route of [
      [cage(box)],
      [cage({ ...shut, columns: 5 }, push)],
      [cage({ ...shut, columns: 7 }, [...push, { kind: 'move', on: ['2.3'], z: 6 }])],
    ]) {
      const { report, reading } = await seams(route)
      expect([report.status, report.diagnoses]).toEqual(['ok', []])
      expect(told(report.consequence)).toBeLessThanOrEqual(0.1)
      expect([reading.low, reading.rows[0]!.text]).toEqual([2, expect.stringMatching(/ 0 less$/)])
    }
    // Loose on purpose: what is told is no less than what the kernel finds at its 33 places an edge.
    const loose = await seams([cage(box, [], { meet: 30, within: 1 })])
    const worst = Math.max(
      ...loose.reading.rows.flatMap((r) => (r.text.match(/[\d.]+(?=°)/g) ?? []).map(Number)),
    )
    expect(told(loose.report.consequence)).toBeGreaterThanOrEqual(worst - 0.01)
    expect(worst).toBeGreaterThan(0.5)
    const many = (await seams([cage({ ...shut, columns: 14 }, push)])).report
    expect([many.status, many.diagnoses[0]!.code]).toEqual(['warn', 'cage-kinked'])
    expect(many.diagnoses[0]!.places).toHaveLength(1)
  })
  test('a line ends inside, at the face that takes its end in; a point on an edge alone is told until an edge is drawn from it', async () => {
    const wide = { kind: 'box', sx: 60, sy: 40, sz: 30, across: 3, along: 2, up: 2 }
    const on = ['1.0.2~2.0.2']
    const point = { kind: 'loop', on, share: 0.4, runs: 'over', long: 0 }
    expect((await diagnosis([cage(wide, [point])])).message).toMatch(
      /the point e1:1\.0\.2~2\.0\.2 has two edges only; draw one from it/,
    )
    const drawn = [
      { kind: 'cut', on: ['e1:1.0.2~2.0.2', '2.1.2'] },
      { kind: 'cut', on: ['e1:1.0.2~2.0.2', '1.0.1'] },
    ]
    await exact([cage(wide, [point, ...drawn])], 'cage')
    await exact([cage(wide, [{ ...point, long: 1 }])], 'cage')
  })
  test('faces given by hand: what triangles and a half sharp ring enclose, as a second program sums it up', async () => {
    // Catmull-Clark written anew in Python: limit places of levels 5 and 6, quads summed up, Richardson's extrapolation.
    const points = [
      [30, 0, 0],
      [-30, 0, 0],
      [0, 22, 0],
      [0, -22, 0],
      [0, 0, 41],
      [0, 0, -17],
    ]
    const faces = [
      [0, 2, 4],
      [2, 1, 4],
      [1, 3, 4],
      [3, 0, 4],
      [2, 0, 5],
      [1, 2, 5],
      [3, 1, 5],
      [0, 3, 5],
    ]
    const pebble = await exact(
      [cage({ kind: 'given', points, faces }, [], { within: 0.001 })],
      'cage',
    )
    expect(pebble.measure.volume / 9411.146).toBeCloseTo(1, 6)
    const ring = Array.from({ length: 5 }, (_, i) => i)
    const round = (r: number, s: number, turn: number) =>
      ring.map((i) => {
        const a = (2 * Math.PI * i) / 5 + turn
        return [r * Math.cos(a), s * Math.sin(a)].map((x) => Number(x.toFixed(4)))
      })
    const knob = {
      kind: 'given',
      points: [
        ...round(25, 18, 0).map((p) => [...p, 0]),
        ...round(14, 14, 0.2).map((p, i) => [...p, 33 + 2 * i]),
      ],
      faces: [
        ...ring.map((i) => [i, (i + 1) % 5, 5 + ((i + 1) % 5), 5 + i]),
        [4, 3, 2, 1, 0],
        [5, 6, 7, 8, 9],
      ],
    }
    const edge = ring.map((i) => `p${i}~p${(i + 1) % 5}`)
    const part = await exact(
      [cage(knob, [{ kind: 'crease', on: edge, sharp: 1.5 }], { within: 0.001 })],
      'cage',
    )
    expect(part.measure.volume / 16552.608).toBeCloseTo(1, 6)
  })
  test('a ring on end: joined all round, its volume the limit curve’s carried round (Pappus for many columns)', async () => {
    const ring = { kind: 'ring', radius: 40, size: 20, columns: 48, around: 12 }
    const part = await exact([cage(ring)], 'cage')
    const area = roundArea(12, 10)
    // The columns draw it in by (2 + cos) / 3 of a cubic B-spline's polygon.
    const in48 = roundArea(48, 1) / Math.PI
    expect(part.measure.volume / (2 * Math.PI * 40 * area * in48)).toBeCloseTo(1, 3)
    expect(part.measure.closed).toBe(true)
  })
  test('creased columns, twisted by rows: one face a column; the volume does not care for the twist’s way', async () => {
    const edits = (sign: number) => [
      { kind: 'crease', on: Array.from({ length: 12 }, (_, c) => `column ${c}`) },
      {
        kind: 'rows',
        rows: [36, 30, 24, 18, 12, 8, 4].map((twist, k) => ({
          row: String(k + 1),
          twist: `${sign * twist} deg`,
          size: 1 + 0.02 * k,
        })),
      },
    ]
    const one = await exact([cage(tube, edits(1), { turns: 12 })], 'cage')
    const other = await exact([cage(tube, edits(-1), { turns: 12 })], 'cage')
    expect(one.faces).toHaveLength(14)
    expect(one.measure.volume / other.measure.volume).toBeCloseTo(1, 9)
  })
  test('a floor that is sharp all round is one flat face, by its name', async () => {
    const part = await exact(
      [cage({ ...tube, floor: 'shut' }, [{ kind: 'crease', on: ['row 0'] }])],
      'cage',
    )
    const floor = part.faces.find((f) => f.names.includes('cage:floor'))!
    expect(part.faces).toHaveLength(4)
    expect(floor.area / roundArea(12, 48)).toBeCloseTo(1, 6)
  })
  test('flat all over: a prism between sharp columns, a box of sharp edges', async () => {
    const columns = { kind: 'crease', on: Array.from({ length: 12 }, (_, c) => `column ${c}`) }
    const prism = await exact([cage(tube, [columns])], 'cage')
    // A regular polygon of n sides and radius R has the area n R² sin(2 π / n) / 2.
    expect(prism.measure.volume / (110 * 6 * 48 ** 2 * Math.sin(Math.PI / 6))).toBeCloseTo(1, 9)
    const shut = await exact(
      [
        cage({ ...tube, floor: 'shut', lid: 'shut' }, [
          columns,
          { kind: 'crease', on: ['row 0', 'row 7'] },
        ]),
      ],
      'cage',
    )
    expect(shut.measure.volume / prism.measure.volume).toBeCloseTo(1, 9)
    expect(shut.faces).toHaveLength(14)
    const block = await exact(
      [cage({ ...box, across: 2, along: 3 }, [{ kind: 'crease', on: ['all'] }])],
      'cage',
    )
    expect(block.measure.volume).toBeCloseTo(60 ** 3, 3)
    expect(block.faces.every((f) => f.kind === 'plane')).toBe(true)
  })
  test('what is carried out makes more faces, still closed and valid, off by no more than asked', async () => {
    const bodies = await bodiesOf([
      cage(
        { ...tube, floor: 'shut' },
        [
          { kind: 'crease', on: ['row 0', 'row 7'] },
          { kind: 'extrude', on: ['f3.0'], by: 6, size: 0.7 },
        ],
        { turns: 6 },
      ),
    ])
    const { shape } = bodies.cage!
    if (shape.kind !== 'exact') throw new Error()
    expect(shape.measure.valid && shape.measure.closed).toBe(true)
    expect(shape.measure.volume).toBeGreaterThan(110 * roundArea(12, 48))
  })
  test('whole faces and what a split leaves of them make up the same volume and the same middle', async () => {
    const twisted = cage({ ...tube, columns: 8, bands: 4 }, [
      { kind: 'rows', rows: [{ row: '2', size: 1.3, twist: 40 }] },
      { kind: 'move', on: ['2.1'], x: 9, y: 4, reach: 40 },
    ])
    const whole = await exact([twisted], 'cage')
    const oblique = op(20, 'plane', 'leaning', {
      how: 'angle',
      from: 'top',
      about: 'level',
      turn: 20,
    })
    const raised = op(30, 'plane', 'raised', { how: 'offset', from: 'leaning', offset: 50 })
    const parted = op(40, 'split', 'split', {
      body: 'cage',
      how: 'plane',
      plane: 'raised',
      keep: 'both',
    })
    const bodies = Object.values(await bodiesOf([twisted, oblique, raised, parted])).map((b) => {
      if (b.shape.kind !== 'exact') throw new Error('not exact')
      return b.shape.measure
    })
    expect(bodies).toHaveLength(2)
    const { volume, centroid } = whole.measure
    expect(bodies.reduce((sum, m) => sum + m.volume, 0) / volume).toBeCloseTo(1, 7)
    for (const k of [0, 1, 2] as const)
      expect(bodies.reduce((sum, m) => sum + m.volume * m.centroid[k], 0) / volume).toBeCloseTo(
        centroid[k],
        5,
      )
  })
  test('parted and hollowed: a lid ends where it was parted, its wall set off free faces and trimmed there', async () => {
    const start = { kind: 'cylinder', radius: 30, height: 60, columns: 5, bands: 4, lid: 'shut' }
    const route = [
      cage(start, [
        {
          kind: 'rows',
          rows: [
            { row: '3', size: 0.8 },
            { row: '4', size: 0.4 },
          ],
        },
      ]),
      op(20, 'split', 'part', { body: 'cage', how: 'height', height: 31, keep: 'both' }),
      op(30, 'shell', 'hollow', {
        body: 'part',
        wall: 1.2,
        open: [{ face: 'part:cut', at: [0, 0, 31], index: 0, of: 1 }],
      }),
    ]
    const bodies = await bodiesOf(route)
    const [low, lid] = [bodies.cage!.shape, bodies.part!.shape]
    if (low.kind !== 'exact' || lid.kind !== 'exact') throw new Error()
    expect(low.measure.bounds.max[2]).toBeCloseTo(31, 5)
    expect(lid.measure.bounds.min[2]).toBeCloseTo(31, 5)
  })
  test('hollowed and parted: walls of the cross-section between a curve and the one beside it', async () => {
    // Tube of cubic curves: area within, less L t - pi t² for the wall (Steiner, 1840); L of each span by the trapezium rule.
    const [n, radius, height, t] = [7, 30, 60, 2.5]
    const pole = (i: number) => {
      const a = (2 * Math.PI * i) / n
      return [radius * Math.cos(a), radius * Math.sin(a)] as const
    }
    const speed = (x: number) => {
      const w = [
        -((1 - x) ** 2) / 2,
        (3 * x * x - 4 * x) / 2,
        (-3 * x * x + 2 * x + 1) / 2,
        (x * x) / 2,
      ]
      const d = [0, 1].map((k) => w.reduce((sum, f, i) => sum + f * pole(i)[k]!, 0))
      return Math.hypot(d[0]!, d[1]!)
    }
    const steps = 400
    let long = 0
    for (let i = 0; i < steps; i++) long += (n / steps) * speed((i + 0.5) / steps)
    const inside = roundArea(n, radius) - long * t + Math.PI * t * t
    const start = {
      kind: 'cylinder',
      radius,
      height,
      columns: n,
      bands: 4,
      lid: 'shut',
      floor: 'shut',
    }
    const sharp = [0, 4].map((row) => ({ kind: 'crease', on: [`row ${row}`], sharp: 10 }))
    const whole = cage(start, sharp)
    const lid = (await exact([whole], 'cage')).faces.find((f) => f.flat && f.normal[2] > 0.9)!
    const hollow = op(20, 'shell', 'hollow', {
      body: 'cage',
      wall: t,
      open: [{ face: lid.names[0], at: [0, 0, height], index: 0, of: 1 }],
    })
    const pot = height * roundArea(n, radius) - (height - t) * inside
    expect((await exact([whole, hollow], 'cage')).measure.volume / pot).toBeCloseTo(1, 7)
    const part = op(30, 'split', 'part', { body: 'cage', how: 'height', height: 21, keep: 'both' })
    const { part: ring } = await bodiesOf([whole, hollow, part])
    if (ring!.shape.kind !== 'exact') throw new Error()
    expect(ring!.shape.measure.volume / (39 * (roundArea(n, radius) - inside))).toBeCloseTo(1, 7)
  })
  test('its symmetry is found: turns, mirrors, none', async () => {
    const found = async (start: object) => {
      const w = piece([cage(start)])
      return cageSymmetry(w, await built(w), 'cage')
    }
    expect(await found(tube)).toEqual({ turns: 12, mirrors: ['x', 'y'] })
    expect(await found({ ...tube, columns: 7 })).toEqual({ turns: 7, mirrors: ['y'] })
    const sheet = { kind: 'plane', sx: 40, sy: 40, across: 2, along: 2 }
    expect(await found(sheet)).toEqual({ turns: 4, mirrors: ['x', 'y', 'z'] })
    const points = [
      [30, 0, 0],
      [-28, 0, 0],
      [0, 22, 0],
      [1, -20, 0],
      [0, 3, 41],
    ]
    const faces = [
      [0, 2, 4],
      [2, 1, 4],
      [1, 3, 4],
      [3, 0, 4],
    ]
    expect(await found({ kind: 'given', points, faces })).toEqual({ turns: 1, mirrors: [] })
  })
  test('what nearly has a symmetry is offered it, by how far its points would go, and keeps it then', async () => {
    // An octagon's tube from a file, each point off by up to 0.05.
    const points = [0, 20, 40].flatMap((z, r) =>
      Array.from({ length: 8 }, (_, c) => {
        const a = (Math.PI * c) / 4
        const off = (k: number) => 0.05 * Math.sin(7.1 * (8 * r + c) + k)
        return [30 * Math.cos(a) + off(1), 30 * Math.sin(a) + off(2), z + (r === 1 ? off(3) : 0)]
      }),
    )
    const faces = [0, 1].flatMap((r) =>
      Array.from({ length: 8 }, (_, c) => {
        const at = (row: number, k: number) => 8 * row + ((c + k) % 8)
        return [at(r, 0), at(r, 1), at(r + 1, 1), at(r + 1, 0)]
      }),
    )
    const start = { kind: 'given', points, faces }
    const told = await diagnosis([cage(start, [], { turns: 8 })])
    expect(told.code).toBe('cage-symmetry')
    const [, most] = /off by up to (0\.\d+) mm/.exec(told.message)!
    expect(Number(most)).toBeGreaterThan(0.02)
    expect(Number(most)).toBeLessThan(0.1)
    expect(told.fixes[0]!.inputs).toEqual({ start: { ...start, alike: true } })
    const even = { ...start, alike: true }
    const part = await exact(
      [cage(even, [{ kind: 'move', on: ['p9'], out: 3 }], { turns: 8 })],
      'cage',
    )
    // Eight alike: the centre of gravity is on the axis.
    expect(Math.hypot(...part.measure.centroid.slice(0, 2))).toBeLessThan(1e-6)
    expect((await diagnosis([cage(even, [], { turns: 3 })])).code).toBe('cage-symmetry')
  })
  test('figures size it: a radius, a row, a share', async () => {
    const w = piece(
      [
        cage({ ...tube, radius: 'r' }, [
          { kind: 'rows', rows: [{ row: '3', size: 'swell' }] },
          { kind: 'loop', on: ['3.0~4.0'], share: 'swell / 4' },
        ]),
      ],
      [
        { name: 'r', expr: '30 mm' },
        { name: 'swell', expr: '1.2' },
      ],
    )
    const { state, reports } = await built(w)
    expect(reports[0]!.diagnoses).toEqual([])
    expect(reports[0]!.consequence).toMatch(/96 faces/)
    const { shape } = state.bodies.cage!
    expect(shape.kind === 'exact' && shape.measure.volume).toBeGreaterThan(110 * roundArea(12, 30))
  })
})

describe('what does not work says where and why', () => {
  const code = async (...args: Parameters<typeof cage>) => {
    const d = await diagnosis([cage(...args)])
    return [d?.code, (d?.places.length ?? 0) > 0]
  }
  test('symmetry a start has not', async () => {
    const d = await diagnosis([cage(tube, [], { turns: 5 })])
    expect(d!.message).toContain('12, 6, 4, 3, 2')
  })
  test('an edit that would lose the symmetry is not done; one click lets it go', async () => {
    const route = [
      cage(
        { ...tube, lid: 'shut' },
        [
          { kind: 'remove', on: ['lid'] },
          { kind: 'fill', on: ['row 7'], how: 'grid' },
        ],
        { turns: 12 },
      ),
    ]
    const d = await diagnosis(route)
    expect([d!.code, d!.places.length > 0]).toEqual(['cage-loses', true])
    expect(d!.message).toContain('Edit 2 (fill)')
    const fixed = { ...route[0]!, inputs: { ...route[0]!.inputs, ...d!.fixes[0]!.inputs } }
    const { reports } = await built(piece([fixed as never]))
    expect([reports[0]!.status, reports[0]!.diagnoses]).toEqual(['ok', []])
  })
  test('a column is its points, and the faces after it: a move takes those points alone', async () => {
    const shown = async (edits: object[]) =>
      (await built(piece([cage(tube, edits)]))).reports[0]!.shown!.cage!
    const before = await shown([])
    const { points, at } = await shown([{ kind: 'move', on: ['column 3'], z: 1, y: 2 }])
    for (const [p, name] of points.entries()) {
      const [was, now] = [placeAt(before.at, p), placeAt(at, p)]
      expect([name, now[1] - was[1]]).toEqual([name, name.endsWith('.3') ? 2 : 0])
    }
    const carried = await shown([{ kind: 'extrude', on: ['column 3'], by: 2 }])
    expect(carried.faces.length - before.faces.length).toBe(2 * 7 + 2)
  })
  test('property: whatever is let go can be moved by itself, and all else stays alike', async () => {
    const words = fc.oneof(
      fc.tuple(fc.nat(7), fc.nat(11)).map(([r, c]) => `${r}.${c}`),
      fc.tuple(fc.nat(6), fc.nat(11)).map(([r, c]) => `f${r}.${c}`),
      fc.nat(11).map((c) => `column ${c}`),
    )
    const shown = async (edits: object[], turns: number) => {
      const { reports } = await built(piece([cage(tube, edits, { turns })]))
      const { points, at, free } = reports[0]!.shown!.cage!
      return { codes: reports[0]!.diagnoses.map((d) => d.code), points, at, free: new Set(free) }
    }
    await fc.assert(
      fc.asyncProperty(
        fc.array(words, { minLength: 1, maxLength: 3 }),
        fc.constantFrom(2, 3, 6, 12),
        async (on, turns) => {
          const go = { kind: 'free', on }
          const before = await shown([go], turns)
          expect(before.codes).toEqual([])
          const pushed = [
            go,
            { kind: 'move', on, z: 0.5 },
            { kind: 'size', on: ['row 3'], sx: 1.1, sy: 1.1, sz: 1 },
          ]
          const after = await shown(pushed, turns)
          expect(after.codes.filter((c) => c !== 'cage-open')).toEqual([])
          // Those that were not let go still turn onto each other.
          const bound = after.points.flatMap((_, p) =>
            after.free.has(p) ? [] : [placeAt(after.at, p)],
          )
          const a = (2 * Math.PI) / turns
          for (const [x, y, z] of bound) {
            const [u, v] = [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)]
            expect(bound.some((q) => Math.hypot(q[0] - u, q[1] - v, q[2] - z) < 1e-9)).toBe(true)
          }
        },
      ),
      { numRuns: 12 },
    )
  })
  test('where an edit fails the cage before it stays shown, so that something else can be picked', async () => {
    const moved = { kind: 'move', on: ['row 3'], z: 5 }
    const { reports } = await built(
      piece([cage(tube, [moved, { kind: 'bevel', on: ['3.0~4.0'], by: 2 }, { ...moved, z: 50 }])]),
    )
    const [{ status, shown }] = [reports[0]!]
    expect(status).toBe('fail')
    const { points, at } = shown!.cage!
    const of = (name: string) => at[3 * points.indexOf(name) + 2]!
    const plain = (await built(piece([cage(tube, [])]))).reports[0]!.shown!.cage!
    const was = plain.at[3 * plain.points.indexOf('3.0') + 2]!
    expect(of('3.0')).toBeCloseTo(was + 5, 9)
    expect(shown!.skin).toBeDefined()
  })
  const stand = (edits: object[], more: object) => standOf(tube, edits, more)
  const standOf = async (start: object, edits: object[], more: object) => {
    const { reports } = await built(piece([cage(start, edits, more)]))
    const { status, diagnoses, shown } = reports[0]!
    return { status, codes: diagnoses.map((d) => d.code), d: diagnoses[0], shown: shown?.cage }
  }
  test('what copies ask of each other both ways is refused, never averaged: rows moved aside, twisted under a mirror, with one click that lets go', async () => {
    for (const [edit, more] of [
      [{ kind: 'move', on: ['row 3'], x: 5 }, { turns: 12 }],
      [{ kind: 'rows', rows: [{ row: '3', twist: 30 }] }, { mirrors: ['x'] }],
      [{ kind: 'rows', rows: [{ row: '3', twist: 30 }] }, { mirrors: ['x', 'y'] }],
    ] as const) {
      const { status, d } = await stand([edit], more)
      expect([status, d!.code, d!.places.length > 0]).toEqual(['fail', 'cage-loses', true])
      const free = await built(
        piece([
          {
            ...cage(tube, [edit], more),
            inputs: { ...cage(tube, [edit], more).inputs, ...d!.fixes[0]!.inputs },
          } as never,
        ]),
      )
      expect(free.reports[0]!.status).toBe('ok')
      const { points, at } = free.reports[0]!.shown!.cage!
      if (edit.kind === 'rows')
        for (const [p, name] of points.entries())
          if (/^[3-7]\.\d+$/.test(name)) {
            const [x, y] = placeAt(at, p)
            expect(Math.hypot(x, y)).toBeCloseTo(48, 9)
          }
    }
  })
  test('a point on a mirror plane stays on it, and is told by how much', async () => {
    // Column 3 of 12 stands on the plane x = 0.
    const { status, d, shown } = await stand([{ kind: 'move', on: ['3.3'], x: 4, z: 3 }], {
      mirrors: ['x'],
    })
    expect([status, d!.code]).toEqual(['warn', 'cage-held'])
    expect(d!.message).toMatch(/4\.?0* mm of this is left out/)
    const was = await stand([], { mirrors: ['x'] })
    const p = shown!.points.indexOf('3.3')
    const [now, then] = [placeAt(shown!.at, p), placeAt(was.shown!.at, p)]
    expect(now[2] - then[2]).toBeCloseTo(3, 9)
    expect(now[0]).toBeCloseTo(0, 9)
  })
  test('points about a chosen one that have a copy nearer to it go as its copies: soft moves beside a mirror plane', async () => {
    const { status, shown } = await stand([{ kind: 'move', on: ['3.2'], y: 2, x: 1, reach: 60 }], {
      mirrors: ['x'],
    })
    expect(status).toBe('ok')
    const all = shown!.points.map((_, p) => placeAt(shown!.at, p))
    for (const [x, y, z] of all)
      expect(all.some((q) => Math.hypot(q[0] + x, q[1] - y, q[2] - z) < 1e-9)).toBe(true)
  })
  test('points pulled onto the mirror plane keep their copies: they are moved on, refined, carried out, and welded', async () => {
    const flat = { kind: 'flat', on: ['3.2', '4.2'], way: 'x', value: 0 }
    for (const next of [
      { kind: 'move', on: ['row 5'], z: 1 },
      { kind: 'move', on: ['3.2'], x: 2 },
      { kind: 'finer' },
      { kind: 'extrude', on: ['f5.2'], by: 3 },
      { kind: 'loop', on: ['3.2~4.2'], share: 0.5 },
    ])
      for (const more of [{ mirrors: ['x'] }, { mirrors: ['x', 'y'] }]) {
        const { codes } = await stand([flat, next, { kind: 'move', on: ['5.2'], z: 0.5 }], more)
        expect([next.kind, codes.filter((c) => /lose|symmetry/.test(c))]).toEqual([next.kind, []])
      }
    // Columns 2 and 4 have come together on the plane, their copies: welded they are one point.
    const weld = { kind: 'weld', on: ['7.2', '7.4'] }
    const { codes, shown } = await stand(
      [
        { kind: 'flat', on: ['7.2'], way: 'x', value: 0 },
        weld,
        { kind: 'move', on: ['5.2'], z: 1 },
      ],
      { mirrors: ['x'] },
    )
    expect(codes.filter((c) => /lose|symmetry/.test(c))).toEqual([])
    expect(shown!.points.filter((n) => n === '7.2' || n === '7.4')).toHaveLength(1)
  })
  test('columns side by side are carried out together, copy by copy, or face by face', async () => {
    // 85 faces; walls round the band above and below; round each column; round each face.
    const many = { ...tube, columns: 14, bands: 6, floor: 'shut' }
    const on = Array.from({ length: 6 }, (_, k) => `f${k}.0`)
    for (const [each, count] of [
      ['together', 85 + 28],
      ['copy', 85 + 14 * 14],
      ['face', 85 + 14 * 6 * 4],
    ] as const) {
      const edits = [
        { kind: 'extrude', on, by: 1.3, size: 0.9, each },
        { kind: 'move', on: ['f3.0'], z: 0.5 },
      ]
      const { status, codes, shown } = await standOf(many, edits, { turns: 14, as: 'triangles' })
      expect([each, status, codes]).toEqual([each, 'ok', []])
      expect(shown!.faces).toHaveLength(count)
      expect(new Set(shown!.points).size).toBe(shown!.points.length)
    }
  })
  test('edges at an opening are carried out, and runs of them bridged with rows between, also on mirrored copies', async () => {
    const sheet = { kind: 'plane', sx: 200, sy: 120, across: 6, along: 4 }
    const hole = { kind: 'remove', on: ['f1.2', 'f1.3', 'f2.2', 'f2.3'] }
    const collar = await standOf(
      sheet,
      [hole, { kind: 'extrude', on: ['1.2~1.3', '1.3~1.4'], by: -5 }],
      {},
    )
    expect(collar.codes.filter((c) => c !== 'cage-open')).toEqual([])
    expect(collar.shown!.faces).toHaveLength(24 - 4 + 2)
    const low = collar.shown!.points.flatMap((n, p) =>
      n.startsWith('e2:') ? [placeAt(collar.shown!.at, p)[2]] : [],
    )
    expect(low).toEqual([expect.closeTo(-5), expect.closeTo(-5), expect.closeTo(-5)])
    const slots = { kind: 'remove', on: ['f1.1', 'f2.1'] }
    for (const more of [{}, { mirrors: ['x'] }]) {
      const bridge = { kind: 'bridge', on: ['1.1~1.2', '3.1~3.2'], rows: 2 }
      const { codes, shown } = await standOf(
        sheet,
        [slots, bridge, { kind: 'move', on: ['1.1'], z: 2 }],
        more,
      )
      expect(codes.filter((c) => c !== 'cage-open')).toEqual([])
      const times = 'mirrors' in more ? 2 : 1
      expect(shown!.faces).toHaveLength(24 - 2 * times + 3 * times)
    }
    const uneven = await standOf(
      sheet,
      [hole, { kind: 'bridge', on: ['1.2~1.3', '1.3~1.4', '3.2~3.3'] }],
      {},
    )
    expect(uneven.d!.message).toMatch(/one has 2 and the other 1|one has 1 and the other 2/)
  })
  test('after points were let go the cage is refined, once and again, and the rest stays alike', async () => {
    for (const more of [{ turns: 6 }, { mirrors: ['x', 'y'] }]) {
      const { codes, shown } = await stand(
        [
          { kind: 'free', on: ['3.1'] },
          { kind: 'move', on: ['3.1'], out: 2, z: 1 },
          { kind: 'finer' },
          { kind: 'finer' },
          { kind: 'move', on: ['row 6'], z: 0.5 },
        ],
        more,
      )
      expect(codes.filter((c) => c !== 'cage-open')).toEqual([])
      const free = new Set(shown!.free)
      expect(free.size).toBeLessThan(shown!.points.length / 2)
      const bound = shown!.points.flatMap((_, p) => (free.has(p) ? [] : [placeAt(shown!.at, p)]))
      for (const [x, y, z] of bound) {
        const q =
          'turns' in more
            ? [x / 2 - (y * Math.sqrt(3)) / 2, (x * Math.sqrt(3)) / 2 + y / 2, z]
            : [-x, y, z]
        expect(bound.some((b) => Math.hypot(b[0] - q[0]!, b[1] - q[1]!, b[2] - q[2]!) < 1e-9)).toBe(
          true,
        )
      }
    }
  })
  test('an opening that lies in no plane, what is not on the cage, a twist that crosses itself', async () => {
    expect(await code(tube, [{ kind: 'move', on: ['7.0'], z: 9 }])).toEqual(['cage-open', true])
    expect(await code(tube, [{ kind: 'move', on: ['99.0'], z: 9 }])).toEqual([
      'cage-nothing',
      false,
    ])
    expect(await code(tube, [{ kind: 'size', on: ['row 3'], sx: -1, sy: 1, sz: 1 }])).toEqual([
      'crosses-itself',
      true,
    ])
    expect(await code({ ...tube, radius: 0 })).toEqual(['cage-start', false])
    expect(await code(tube, [{ kind: 'loop', on: ['3.0~4.0'], share: 1.5 }])).toEqual([
      'cage-share',
      false,
    ])
  })
  test('some of what an edit works on is gone: the rest is done, and told', async () => {
    const d = await diagnosis([cage(tube, [{ kind: 'move', on: ['3.0', '99.1'], out: 2 }])])
    expect(d!.message).toContain('“99.1”')
  })
})
