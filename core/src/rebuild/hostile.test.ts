import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DIMENSIONS, type Drawing, drawingSchema, RELATIONS } from '../profile'
import { emptyWorkpiece, type Op, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { rebuild, tryDimension } from '.'

// Whatever is drawn, held, typed or left out: no exception, only sentences, and places that are numbers.

const coordinate = fc.oneof(
  { weight: 60, arbitrary: fc.integer({ min: -30, max: 60 }) },
  { weight: 8, arbitrary: fc.constantFrom(0, 0, 1e-9, 5000, 'wide', 'wide / 2', '-wide') },
  { weight: 1, arbitrary: fc.constantFrom('nothing', '1 deg', '1/0 mm') },
)
const pointIds = ['a', 'b', 'c', 'd', 'e', 'f']
const pointId = fc.constantFrom(...pointIds)
const some = (n: number) => fc.array(pointId, { minLength: n, maxLength: n })
const entity = fc
  .tuple(
    fc.constantFrom('line', 'arc', 'circle', 'fit', 'poles', 'ellipse', 'elliptic', 'axis'),
    some(4),
    fc.constantFrom<number | string>(0, 3, 12, 'wide', -4, '2 deg'),
    fc.boolean(),
  )
  .map(([kind, p, radius, construction]) => {
    const [a, b, via] = p
    const common = construction && kind !== 'axis' ? { construction } : {}
    switch (kind) {
      case 'arc':
        return { ...common, kind, a, via, b }
      case 'circle':
        return { ...common, kind, c: a, radius }
      case 'fit':
        return {
          ...common,
          kind,
          points: p,
          handles: p.map((_, i) => (i === 1 ? { hold: 'level' } : { hold: 'auto' })),
          ends: radius === 3 ? 'periodic' : 'parabolic',
        }
      case 'poles':
        return { ...common, kind, points: p, degree: 3 }
      case 'ellipse':
        return { ...common, kind, c: a, end: b, ratio: 0.4 }
      case 'elliptic':
        return { ...common, kind, c: via, a, b, sweep: 120 }
      default:
        return { ...common, kind, a, b }
    }
  })

type Table = Record<string, { needs: readonly string[] }>
/** A relation or dimension of any kind on anything of the right number. */
const heldBy = (table: Table, more: (id: string) => fc.Arbitrary<object>) =>
  fc
    .tuple(
      fc
        .constantFrom(...Object.keys(table))
        .chain((kind) => fc.constantFrom(...table[kind]!.needs).map((needs) => ({ kind, needs }))),
      some(2),
      fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 2, maxLength: 2 }),
      more('x'),
    )
    .map(([{ kind, needs }, points, entities, rest]) => ({
      kind,
      points: points.slice(0, Number(/(\d)p/.exec(needs)?.[1] ?? 0)),
      entities: entities
        .slice(0, Number(/(\d)e/.exec(needs)?.[1] ?? 0))
        .map((i) => (i === 5 ? 'axis' : `e${i}`)),
      ...rest,
    }))
const value = fc.constantFrom<number | string>(
  0,
  1,
  12.5,
  30,
  1e-9,
  1e7,
  'wide',
  'wide - wide',
  'gone',
  '20 deg',
)

/** Most relations name pieces that are there. */
const onThere = ({ entities }: { entities: string[] }, n: number) => ({
  entities: entities.map((e) => (e === 'axis' ? e : `e${Number(e.slice(1)) % n}`)),
})

const drawing = fc
  .tuple(
    fc.tuple(...pointIds.map(() => fc.tuple(coordinate, coordinate))),
    fc.array(entity, { minLength: 1, maxLength: 5 }),
    fc.array(
      heldBy(RELATIONS, () => fc.constant({})),
      { maxLength: 6 },
    ),
    fc.array(
      heldBy(DIMENSIONS, () => fc.record({ value, read: fc.boolean() })),
      { maxLength: 5 },
    ),
  )
  .map(([at, entities, relations, dimensions]) => ({
    points: Object.fromEntries(at.map(([x, y], i) => [pointIds[i]!, { x, y }])),
    entities: entities.map((e, i) => ({ ...e, id: `e${i}` })),
    relations: relations.map((r, i) => ({ ...r, ...onThere(r, entities.length), id: `r${i}` })),
    dimensions: dimensions.map((d, i) => ({ ...d, ...onThere(d, entities.length), id: `d${i}` })),
  }))

const around = (inputs: Op['inputs'], more: Op[] = []): Workpiece => ({
  ...emptyWorkpiece('w', 'W'),
  figures: [{ name: 'wide', expr: '24 mm' }],
  route: [
    op(10, 'profile', 'line', inputs),
    op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 360, start: 0 }),
    op(30, 'shell', 'hollow', { body: 'turn', wall: 2, open: [], side: 'in' }),
    ...more,
  ],
})
/** Every message is a sentence: a beginning, an end, and nothing a program says to itself. */
const sentences = (w: Workpiece) => {
  for (const r of rebuild(w).reports)
    for (const d of r.diagnoses) {
      expect(d.message.length).toBeGreaterThan(8)
      expect(d.message).not.toMatch(/undefined|NaN|\[object|null/)
    }
}

describe('anything drawn', () => {
  it('is rebuilt without an exception, in sentences, with every place a number', () => {
    let sound = 0
    fc.assert(
      fc.property(drawing, (raw) => {
        const parsed = drawingSchema.safeParse(raw)
        const w = around({ plane: 'front', drawing: raw })
        sentences(w)
        const shape = rebuild(w).state.profiles.line?.shape
        if (!parsed.success || !shape) return
        sound++
        for (const p of Object.values(shape.points))
          for (const x of p) expect(Number.isFinite(x)).toBe(true)
        for (const m of Object.values(shape.hold.measures)) expect(Number.isFinite(m)).toBe(true)
        expect(shape.hold.freedoms).toBeGreaterThanOrEqual(0)
        // What is in conflict or redundant is something that is laid on.
        const laid = [...(parsed.data.relations ?? []), ...(parsed.data.dimensions ?? [])].map(
          (h) => h.id,
        )
        for (const id of shape.hold.conflict) expect(laid).toContain(id)
        for (const r of shape.hold.redundant) expect(laid).toContain(r.id)
      }),
      { numRuns: 150 },
    )
    // The generator is no use if what it makes is turned away at the door.
    expect(sound).toBeGreaterThan(60)
  })
  it('takes any typed dimension or says in a sentence why not, and is left as it was', () => {
    const box: Drawing = drawingSchema.parse({
      points: { a: { x: 0, y: 0 }, b: { x: 24, y: 0 }, c: { x: 24, y: 30 }, d: { x: 0, y: 30 } },
      entities: ['ab', 'bc', 'cd', 'da'].map((id) => ({ id, kind: 'line', a: id[0], b: id[1] })),
      relations: [
        { id: 'r1', kind: 'fixed', points: ['a'], entities: [] },
        { id: 'r2', kind: 'level', points: [], entities: ['ab'] },
        { id: 'r3', kind: 'upright', points: [], entities: ['bc'] },
        { id: 'r4', kind: 'level', points: [], entities: ['cd'] },
        { id: 'r5', kind: 'upright', points: [], entities: ['da'] },
      ],
      dimensions: [
        { id: 'd1', kind: 'distance', points: [], entities: ['ab'], value: 24 },
        { id: 'd2', kind: 'distance', points: [], entities: ['bc'], value: 30 },
      ],
    })
    const w = around({ plane: 'front', drawing: box })
    const built = rebuild(w)
    const before = JSON.stringify(built.state.profiles.line!.shape.points)
    const typed = fc.oneof(
      fc.double(),
      fc.string({ maxLength: 40 }),
      fc.constantFrom(
        'wide',
        'wide * 2',
        '-1',
        '1e308 * 10',
        'constructor',
        '__proto__',
        '2^2^9',
        '(',
        '5 ml',
        '3 3/8 in',
      ),
      fc.integer({ min: 30, max: 400 }).map((n) => `${'('.repeat(n)}1${')'.repeat(n)}`),
    )
    fc.assert(
      fc.property(typed, (v) => {
        const said = tryDimension(built, 'line', 'd1', v)
        if (typeof said === 'string') expect(said).not.toMatch(/undefined|\[object/)
        else if (!said.ok) expect(said.blockedBy.length).toBeGreaterThan(0)
        expect(JSON.stringify(built.state.profiles.line!.shape.points)).toBe(before)
      }),
      { numRuns: 150 },
    )
  })
})

describe('any inputs', () => {
  const junk = fc.oneof(
    fc.constantFrom<unknown>(
      null,
      '',
      'line',
      'turn',
      'front',
      -1,
      0,
      1e300,
      '1/0',
      'wide',
      [],
      {},
      true,
    ),
    fc.array(fc.record({ face: fc.constantFrom('turn:ab', 'x', ''), index: fc.integer() }), {
      maxLength: 2,
    }),
    fc.record({ x: coordinate, y: coordinate, z: coordinate }),
    fc.record({ point: fc.constantFrom('line', 'spot') }),
  )
  const NAMES = [
    'how',
    'from',
    'to',
    'offset',
    'about',
    'axis',
    'turn',
    'body',
    'faces',
    'profile',
    'piece',
    'fraction',
    'near',
    'p1',
    'p2',
    'plane',
    'radius',
    'distance',
    'edges',
    'wall',
    'open',
    'keep',
    'mode',
    'angle',
    'file',
  ]
  const HOWS = [
    'offset',
    'midway',
    'angle',
    'three',
    'across',
    'tangent',
    'planes',
    'round',
    'along',
    'points',
    'place',
    'face',
    'meet',
  ]
  const inputs = fc
    .tuple(fc.dictionary(fc.constantFrom(...NAMES), junk), fc.constantFrom(...HOWS), fc.boolean())
    .map(([all, how, keep]) => (keep ? { ...all, how } : all))
  it('of any op are run or refused in a sentence', () => {
    const box = {
      points: { a: { x: 0, y: 0 }, b: { x: 24, y: 0 }, c: { x: 24, y: 30 }, d: { x: 0, y: 30 } },
      entities: ['ab', 'bc', 'cd'].map((id) => ({ id, kind: 'line', a: id[0], b: id[1] })),
    }
    const KINDS = [
      'plane',
      'axis',
      'point',
      'profile',
      'revolve',
      'fillet',
      'chamfer',
      'shell',
      'split',
      'import',
      'none',
    ]
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...KINDS), inputs), { minLength: 1, maxLength: 3 }),
        (ops) => {
          const more = ops.map(([kind, given], i) =>
            op(40 + 10 * i, kind, `x${i}`, given as Op['inputs']),
          )
          sentences(around({ plane: 'front', drawing: box }, more))
        },
      ),
      { numRuns: 200 },
    )
  })
})
