import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type ExactPart, formJob } from '../exact'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, face, gauged, piece, the } from './exactroute.test-data'

const tall = (number: number, id: string, profile: string, length: number, more: object = {}): Op =>
  op(number, 'extrude', id, { profile, mode: 'new', length, ...more })
const level = (number: number, id: string, z: number): Op =>
  op(number, 'plane', id, { how: 'offset', from: 'top', offset: z })

/** Two bodies over each other and a skin from the upper end of the one to the lower end of the other. */
async function between(route: Op[], low: string, high: string, more: object) {
  const [a, b] = [await exact(route, low), await exact(route, high)]
  const skin = op(900, 'loft', 'skin', {
    sections: [
      { body: low, face: face(a, `${low}:end`) },
      { body: high, face: face(b, `${high}:start`) },
    ],
    mode: 'new',
    ...more,
  })
  const all = [
    ...route,
    skin,
    op(910, 'combine', 'one', { how: 'join', body: low, tools: ['skin', high] }),
  ]
  return { all, low }
}

describe('lofts that run on from what lies beside their ends', () => {
  it('between two equal cylinders it is the cylinder itself', async () => {
    const route = [
      circles(10, 'a', 'top', [[0, 0, 18]]),
      tall(20, 'low', 'a', 10),
      level(30, 'up', 40),
      circles(40, 'b', 'up', [[0, 0, 18]]),
      tall(50, 'high', 'b', 10),
    ]
    const { all } = await between(route, 'low', 'high', { begins: 'bent', ends: 'bent' })
    const p = await exact(all.slice(0, -1), 'skin')
    expect(p.measure.volume / (Math.PI * 18 * 18 * 30)).toBeCloseTo(1, 6)
    const [g] = await gauged(all, [{ kind: 'seams', body: 'low' }])
    expect(g!.reading?.text ?? g!.why).toBe('G2')
  })

  /** Of the seams the skin lies at, the worst angle (deg) and mismatch (a share), and how many there are. */
  const atSkin = async (all: Op[], body: string) => {
    const w = piece(all)
    const done = await built(w)
    for (const r of done.reports)
      if (r.status !== 'ok') throw new Error(JSON.stringify([r.id, r.consequence, r.diagnoses]))
    const part = done.state.bodies[body]!.shape as ExactPart
    const read = await (await the()).run(formJob(part.key, { seams: true, ribbons: [] }))
    if (!read.ok) throw new Error(read.diagnosis.message)
    const { seams } = read.value[0]!.form!
    let [count, sharp, angle, bend] = [0, 0, 0, 0]
    for (const [i, e] of part.edges.entries()) {
      const names = e.faces.map((f) => part.faces[f]!.names.join())
      if (names.length !== 2 || names.filter((n) => n.startsWith('skin:')).length !== 1) continue
      const seam = seams[i]
      if (!seam) sharp++
      else {
        count++
        angle = Math.max(angle, (seam.angle * 180) / Math.PI)
        bend = Math.max(bend, seam.bend)
      }
    }
    return { count, sharp, angle, bend, valid: part.measure.valid && part.measure.closed }
  }

  it('from a block with leaning sides, whose corners are edges, to a smaller one: no kink all round', async () => {
    const route = [
      rectangle(10, 'a', 'top', [-20, -12], [40, 24]),
      tall(20, 'low', 'a', 8, { draft: '6 deg' }),
      level(30, 'up', 38),
      rectangle(40, 'b', 'up', [-7, -5], [16, 11]),
      tall(50, 'high', 'b', 8, { draft: '3 deg' }),
    ]
    const { all, low } = await between(route, 'low', 'high', { begins: 'on', ends: 'on' })
    const read = await atSkin(all, low)
    expect(read).toMatchObject({ count: 8, sharp: 0, valid: true })
    expect(read.angle).toBeLessThan(0.02)
  })
  it('from rounded sides to a round neck, on with their curvature too', async () => {
    const soft = (id: string, number: number, r: number): Op =>
      op(number, 'profile', id, {
        plane: 'top',
        use: 'flat',
        drawing: {
          points: {
            a: { x: -20 + r, y: -10 },
            b: { x: 20 - r, y: -10 },
            c: { x: 20, y: -10 + r },
            d: { x: 20, y: 10 - r },
            e: { x: 20 - r, y: 10 },
            f: { x: -20 + r, y: 10 },
            g: { x: -20, y: 10 - r },
            h: { x: -20, y: -10 + r },
            p: { x: 20 - r * (1 - Math.SQRT1_2), y: -10 + r * (1 - Math.SQRT1_2) },
            q: { x: 20 - r * (1 - Math.SQRT1_2), y: 10 - r * (1 - Math.SQRT1_2) },
            s: { x: -20 + r * (1 - Math.SQRT1_2), y: 10 - r * (1 - Math.SQRT1_2) },
            t: { x: -20 + r * (1 - Math.SQRT1_2), y: -10 + r * (1 - Math.SQRT1_2) },
          },
          entities: [
            { id: 'l1', kind: 'line', a: 'a', b: 'b' },
            { id: 'r1', kind: 'arc', a: 'b', via: 'p', b: 'c' },
            { id: 'l2', kind: 'line', a: 'c', b: 'd' },
            { id: 'r2', kind: 'arc', a: 'd', via: 'q', b: 'e' },
            { id: 'l3', kind: 'line', a: 'e', b: 'f' },
            { id: 'r3', kind: 'arc', a: 'f', via: 's', b: 'g' },
            { id: 'l4', kind: 'line', a: 'g', b: 'h' },
            { id: 'r4', kind: 'arc', a: 'h', via: 't', b: 'a' },
          ],
        },
      })
    const route = [
      soft('a', 10, 6),
      tall(20, 'low', 'a', 12),
      level(30, 'up', 47),
      circles(40, 'b', 'up', [[3, 0, 4]]),
      tall(50, 'high', 'b', 9),
    ]
    const { all, low } = await between(route, 'low', 'high', { begins: 'bent', ends: 'bent' })
    const read = await atSkin(all, low)
    expect(read).toMatchObject({ sharp: 0, valid: true })
    expect(read.angle).toBeLessThan(0.02)
    expect(read.bend).toBeLessThan(0.01)
  })
  it('from a ball that is cut off to a pipe that is bent: on with curvatures that differ along and across', async () => {
    const route = [
      op(10, 'profile', 'half', {
        plane: 'front',
        drawing: {
          points: {
            o: { x: 0, y: -20 },
            m: { x: 20, y: 0 },
            e: { x: 16, y: 12 },
            t: { x: 0, y: 12 },
          },
          entities: [
            { id: 'ball', kind: 'arc', a: 'o', via: 'm', b: 'e' },
            { id: 'top', kind: 'line', a: 'e', b: 't' },
            { id: 'axis', kind: 'line', a: 't', b: 'o' },
          ],
        },
      }),
      op(20, 'revolve', 'low', { profile: 'half', mode: 'new' }),
      op(30, 'path', 'way', {
        how: 'stops',
        stops: [
          { x: 4, y: 0, z: 45 },
          { x: 4, y: 0, z: 75, round: 25 },
          { x: 44, y: 0, z: 75 },
        ],
      }),
      op(40, 'sweep', 'high', { path: 'way', section: 'round', across: 12, mode: 'new' }),
    ]
    const done = await built(piece(route))
    const ball = done.state.bodies.low!.shape
    expect(ball.kind).toBe('turned')
    const pipe = await exact(route, 'high')
    const skin = op(900, 'loft', 'skin', {
      sections: [
        { body: 'low', face: { face: 'low:top', at: [3, 0, 12], index: 0, of: 1 } },
        { body: 'high', face: face(pipe, 'high:start') },
      ],
      mode: 'new',
      begins: 'bent',
      ends: 'bent',
      beginPull: 0.8,
    })
    const all = [
      ...route,
      skin,
      op(910, 'combine', 'one', { how: 'join', body: 'low', tools: ['skin', 'high'] }),
    ]
    const read = await atSkin(all, 'low')
    expect(read).toMatchObject({ sharp: 0, valid: true })
    expect(read.angle).toBeLessThan(0.02)
    expect(read.bend).toBeLessThan(0.01)
  })
  it('property: whatever leans how, wherever it stands: measured to run on within 0.1°, or refused with a place', async () => {
    const whole = (min: number, max: number) => fc.integer({ min, max })
    let held = 0
    await fc.assert(
      fc.asyncProperty(
        fc.array(whole(8, 20), { minLength: 3, maxLength: 6 }),
        whole(-12, 12),
        fc.tuple(whole(-12, 12), whole(-12, 12), whole(15, 60)),
        whole(3, 9),
        whole(2, 20),
        async (radii, lean, [x, y, z], r, pull) => {
          const corners = radii.map((d, i): [number, number] => {
            const a = (2 * Math.PI * i) / radii.length + 0.2
            return [d * Math.cos(a), d * Math.sin(a)]
          })
          const route = [
            outline(10, 'a', 'top', corners),
            tall(20, 'low', 'a', 5, { draft: `${lean} deg` }),
            level(30, 'up', z),
            circles(40, 'b', 'up', [[x, y, r]]),
            tall(50, 'high', 'b', 5, { draft: `${-lean / 2} deg` }),
          ]
          const { all } = await between(route, 'low', 'high', {
            begins: 'on',
            ends: 'bent',
            beginPull: pull / 10,
          })
          const done = await built(piece(all.slice(0, -1)))
          const report = done.reports[done.reports.length - 1]!
          if (report.status === 'fail') {
            expect(report.diagnoses[0]!.message).toMatch(
              /folds|turned against|itself|lean away|kernel|close/,
            )
            return
          }
          held++
          expect(report.diagnoses).toEqual([])
          expect(report.consequence).toMatch(/beginning runs on within 0\.0\d*°|within 0°/)
        },
      ),
      { numRuns: 6 },
    )
    expect(held).toBeGreaterThan(3)
  }, 120_000)
  it('says so where a section is a drawing, which has nothing beside it', async () => {
    const route = [
      circles(10, 'a', 'top', [[0, 0, 18]]),
      level(30, 'up', 40),
      circles(40, 'b', 'up', [[0, 0, 9]]),
      op(50, 'loft', 'skin', {
        sections: [{ profile: 'a' }, { profile: 'b' }],
        mode: 'new',
        ends: 'on',
      }),
    ]
    const d = await diagnosis(route)
    expect([d.code, d.places.length]).toEqual(['no-neighbour', 1])
    expect(d.message).toContain('face of a body')
  })
})
