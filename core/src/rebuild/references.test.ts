import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { turnedOf } from '../ops'
import { cornersOf, edgeRef, isSharp } from '../turned'
import { emptyWorkpiece, type Op, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { rebuild } from '.'

/** A cylinder with `n` grooves cut into its side by squares: their edges bear the same names. */
function grooved(n: number, more: Op[] = [], low = 20): Workpiece {
  const rect = (r0: number, z0: number, r1: number, z1: number, k: string) => ({
    points: {
      [`a${k}`]: { x: r0, y: z0 },
      [`b${k}`]: { x: r1, y: z0 },
      [`c${k}`]: { x: r1, y: z1 },
      [`d${k}`]: { x: r0, y: z1 },
    },
    entities: [
      ['low', 'a', 'b'],
      ['out', 'b', 'c'],
      ['up', 'c', 'd'],
      ['in', 'd', 'a'],
    ].map(([id, a, b]) => ({ id: `${id}${k}`, kind: 'line' as const, a: a + k, b: b + k })),
  })
  const groove = rect(25, low, 32, low + 4, '')
  return {
    ...emptyWorkpiece('w', 'Grooved'),
    route: [
      op(10, 'profile', 'line', { plane: 'front', drawing: rect(0, 0, 30, 100, 'x') }),
      op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 360, start: 0 }),
      op(30, 'profile', 'groove', {
        plane: 'front',
        drawing: {
          ...groove,
          patterns: [
            {
              id: 'row',
              kind: 'row',
              entities: ['low', 'out', 'up', 'in'],
              along: 'upright',
              size: 4,
              count: n,
              pitch: 15,
            },
          ],
        },
      }),
      op(40, 'revolve', 'cut', {
        profile: 'groove',
        mode: 'cut',
        body: 'turn',
        angle: 360,
        start: 0,
      }),
      ...more,
    ],
  }
}
const round = (edges: unknown[]) => op(50, 'fillet', 'round', { body: 'turn', edges, radius: 0.5 })
const built = (w: Workpiece) => rebuild(w).reports.find((r) => r.id === 'round')!
/** The edge where the side meets the foot of the first groove, and as many as bear its names. */
const outer = ['turn:outx', 'cut:low'] as const

describe('a reference never goes to something else without a word', () => {
  it('where two bear the name and no place is given, it is a question', () => {
    // The side is in pieces between the grooves: it meets the upper face of one and the lower of the next.
    const w = grooved(1)
    const body = turnedOf(rebuild(w).state.bodies.turn!)
    const twice = cornersOf(body).filter((c) => isSharp(c))
    const names = twice.map((c) => [c.before.name, c.after.name].sort().join('|'))
    expect(new Set(names).size).toBe(names.length)
    expect(built(grooved(1, [round([{ edge: outer }])])).status).toBe('ok')
    // Mirror-like: side against top and against foot of the groove bear different names; `in` bears two edges.
    const both = built(grooved(1, [round([{ edge: ['turn:outx', 'nobody'] }])]))
    expect(both.diagnoses[0]!.message).toMatch(/There is no face "nobody" here; the faces are/)
  })
  it('"1 of 2" where one is left is a question, and so is the other way round', () => {
    const one = built(grooved(1, [round([{ edge: outer, index: 0, of: 2 }])]))
    expect(one).toMatchObject({ status: 'fail' })
    expect(one.diagnoses[0]).toMatchObject({ code: 'which-one' })
    expect(one.diagnoses[0]!.message).toMatch(
      /is one of the edges where .* now, where there were 2/,
    )
    expect(one.diagnoses[0]!.places).toHaveLength(1)
    // The fix takes it, and then it holds without a word.
    const fix = one.diagnoses[0]!.fixes[0]!
    const taken = grooved(1, [
      op(50, 'fillet', 'round', { body: 'turn', radius: 0.5, ...fix.inputs }),
    ])
    expect(built(taken)).toMatchObject({ status: 'ok' })
  })
  it('a right place alone is enough, without a warning each time', () => {
    const w = grooved(1)
    const body = turnedOf(rebuild(w).state.bodies.turn!)
    const c = cornersOf(body).find((x) => isSharp(x) && x.at[1] === 20 && x.at[0] === 30)!
    const ref = { edge: [c.before.name, c.after.name], at: [30, 20] }
    expect(built(grooved(1, [round([ref])]))).toMatchObject({ status: 'ok', diagnoses: [] })
  })
  it('a place that contradicts the number is a question', () => {
    const w = grooved(1)
    const body = turnedOf(rebuild(w).state.bodies.turn!)
    const c = cornersOf(body).find((x) => isSharp(x) && x.at[1] === 20 && x.at[0] === 30)!
    const ref = { edge: [c.before.name, c.after.name], at: [30, 20], index: 1, of: 1 }
    expect(built(grooved(1, [round([ref])])).diagnoses[0]).toMatchObject({ code: 'which-one' })
  })
  it('a face that was there before is told apart from one that is not known', () => {
    // The side is cut away wholly by a wider groove; its name was there.
    const w = grooved(1, [], 20)
    const wide = structuredClone(w)
    const { points } = (
      wide.route[2]!.inputs as { drawing: { points: Record<string, { x: number; y: number }> } }
    ).drawing
    points.a!.y = -5
    points.b!.y = -5
    points.c!.y = 105
    points.d!.y = 105
    const gone = rebuild({
      ...wide,
      route: [...wide.route, round([{ edge: ['turn:outx', 'turn:lowx'] }])],
    })
    expect(gone.reports.find((r) => r.id === 'round')!.diagnoses[0]!.message).toMatch(
      /The face turn:outx is gone/,
    )
  })
  it('property: a picked edge is the same place after a figure moved, or the op asks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 4 }),
        fc.nat(),
        fc.double({ min: 12, max: 24, noNaN: true }),
        (before, after, pick, low) => {
          const first = turnedOf(rebuild(grooved(before)).state.bodies.turn!)
          const sharp = cornersOf(first).filter(isSharp)
          const chosen = sharp[pick % sharp.length]!
          const ref = edgeRef(first, chosen)
          const again = grooved(after, [round([ref])], low)
          const report = built(again)
          if (report.status !== 'ok') {
            expect(report.diagnoses.length).toBeGreaterThan(0)
            return
          }
          // Found without a word: the same names meet, and it is as many-th of as many as then.
          const now = turnedOf(rebuild(grooved(after, [], low)).state.bodies.turn!)
          const same = cornersOf(now).filter(
            (c) =>
              [c.before.name, c.after.name].sort().join() ===
              [chosen.before.name, chosen.after.name].sort().join(),
          )
          expect(
            same.length === ref.of ||
              same.some((c) => Math.hypot(c.at[0] - chosen.at[0], c.at[1] - chosen.at[1]) < 1e-3),
          ).toBe(true)
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('what a drawing may be', () => {
  const drawn = (drawing: unknown, more: Op[] = []) => ({
    ...emptyWorkpiece('w', 'W'),
    route: [
      op(10, 'profile', 'line', { plane: 'front', drawing }),
      op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 360, start: 0 }),
      ...more,
    ],
  })
  it('a coordinate out of reach is refused at once, with the number', () => {
    for (const x of [1e12, -1e5, '20 m', Number.MAX_VALUE]) {
      const r = rebuild(
        drawn({
          points: { a: { x: 0, y: 0 }, b: { x, y: 5 } },
          entities: [{ id: 'l', kind: 'line', a: 'a', b: 'b' }],
        }),
      ).reports[0]!
      expect(r.status).toBe('fail')
      expect(r.diagnoses[0]!.message).toMatch(/too far out: .* reach 10 m at most/)
    }
  })
  it('an ellipse and a closed curve cross nothing', () => {
    const r = rebuild(
      drawn({
        points: {
          c: { x: 40, y: 0 },
          e: { x: 52, y: 0 },
          p: { x: 80, y: 0 },
          q: { x: 90, y: 10 },
          s: { x: 80, y: 20 },
        },
        entities: [
          { id: 'oval', kind: 'ellipse', c: 'c', end: 'e', ratio: 0.5 },
          {
            id: 'ring',
            kind: 'fit',
            points: ['p', 'q', 's', 'p'],
            handles: Array(4).fill({ hold: 'auto' }),
            ends: 'periodic',
          },
        ],
      }),
    ).reports[0]!
    expect(r.diagnoses.map((d) => d.code)).not.toContain('crossing')
  })
  it('a new body in loose parts says so, with their places', () => {
    const circle = (id: string, y: number) => ({ id, kind: 'circle', c: `c${id}`, radius: 8, y })
    const two = (gap: number) =>
      rebuild(
        drawn({
          points: { ca: { x: 30, y: 0 }, cb: { x: 30, y: gap } },
          entities: [circle('a', 0), circle('b', gap)],
        }),
      ).reports[1]!
    const apart = two(40)
    expect(apart.diagnoses[0]).toMatchObject({ code: 'loose-parts' })
    expect(apart.diagnoses[0]!.places).toHaveLength(2)
    // Overlapping circles leave two crescents that touch along two rings: no sound solid.
    const crossing = two(10)
    expect(crossing.diagnoses.map((d) => d.code)).toContain('touches-itself')
  })
  it('a profile drawn left of the axis, and about an axis drawn downwards, turns from where it is', () => {
    const square = (x0: number, x1: number, axis: boolean) => ({
      points: {
        a: { x: x0, y: 0 },
        b: { x: x1, y: 0 },
        c: { x: x1, y: 10 },
        d: { x: x0, y: 10 },
        m: { x: 0, y: 50 },
        n: { x: 0, y: 0 },
      },
      entities: [
        { id: 'l1', kind: 'line', a: 'a', b: 'b' },
        { id: 'l2', kind: 'line', a: 'b', b: 'c' },
        { id: 'l3', kind: 'line', a: 'c', b: 'd' },
        { id: 'l4', kind: 'line', a: 'd', b: 'a' },
        ...(axis ? [{ id: 'ax', kind: 'axis', a: 'm', b: 'n' }] : []),
      ],
    })
    for (const [x0, x1, axis] of [
      [10, 20, false],
      [-20, -10, false],
      [10, 20, true],
      [-20, -10, true],
    ] as const) {
      const w = drawn(square(x0, x1, axis))
      w.route[1]!.inputs.angle = 1
      const body = turnedOf(rebuild(w).state.bodies.turn!)
      expect(body.frame.z[2]).toBeCloseTo(1, 12)
      // A turn of one degree stays where the square was drawn.
      const middle = body.start + body.sweep / 2
      const x = body.frame.x[0] * Math.cos(middle) + body.frame.y[0] * Math.sin(middle)
      expect(Math.sign(x)).toBe(Math.sign(x0))
    }
  })
})
