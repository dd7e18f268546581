import { describe, expect, it } from 'vitest'
import { edgeRef, realEdges, realVertices, vertexRef } from '../exact'
import { norm3, sub3 } from '../math'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, exact, gauged } from './exactroute.test-data'

describe('between two faces, edges or corners', () => {
  const between = async (route: Op[], body: string, params: Record<string, string>) =>
    (await gauged(route, [{ kind: 'between', body, params }]))[0]!
  it('parallel flat ones exactly, with the angle; others by their least distance', async () => {
    const ends = { face: 'block:start', other: 'block', with: 'block:end' }
    const high = await between([base, block], 'block', ends)
    expect(high.reading!.low).toBeCloseTo(20, 9)
    expect(high.reading!.rows).toContainEqual({ label: 'angle', text: '0.000°' })
    const beside = await between([base, block], 'block', { ...ends, with: 'block:side1' })
    expect(beside.reading!.low).toBe(0)
    expect(beside.reading!.rows).toContainEqual({ label: 'angle', text: '90.000°' })
    // Leaning by 5 deg they are 85 deg apart.
    const lean = { ...block, inputs: { ...block.inputs, draft: '5 deg' } }
    const leaning = await between([base, lean], 'block', { ...ends, with: 'block:side1' })
    expect(leaning.reading!.rows).toContainEqual({ label: 'angle', text: '85.000°' })
  })
  it('of two holes the axes, of turned bodies too; what is gone is said', async () => {
    const holes = circles(30, 'hole', 'top', [
      [15, 20, 4],
      [45, 25, 6],
    ])
    const cut = op(40, 'extrude', 'less', {
      profile: 'hole',
      mode: 'cut',
      body: 'block',
      to: 'through',
      side: 'alike',
    })
    const two = await between([base, block, holes, cut], 'block', {
      face: 'less:ring1',
      with: 'less:ring2',
    })
    expect(two.reading!.rows).toContainEqual({
      label: 'between the axes',
      text: `${Math.hypot(30, 5).toFixed(3)} mm`,
    })
    expect(two.reading!.rows).toContainEqual({ label: 'radius of less:ring2', text: '6.000 mm' })
    expect(two.reading!.low).toBeGreaterThan(Math.hypot(30, 5) - 10 - 1e-6)
    expect(two.reading!.low).toBeLessThan(Math.hypot(30, 5) - 10 + 0.1)
    const gone = await between([base, block], 'block', { face: 'block:x', with: 'block:end' })
    expect(gone.why).toMatch(/has no face block:x/)
    expect((await between([base, block], 'block', {})).why).toMatch(
      /Pick two faces, edges or corners/,
    )
    const tube = turn(20, 'turn', 'outline')
    const turned = await between([ringOutline, tube], 'turn', {
      face: 'turn:inner',
      with: 'turn:outer',
    })
    expect(turned.reading!.low).toBeCloseTo(4, 1)
    expect(turned.reading!.rows).toContainEqual({
      label: 'radius of turn:outer',
      text: '14.000 mm',
    })
  })
  it('edges and corners: lengths, parallels exactly, heights over planes, circles', async () => {
    const p = await exact([base, block], 'block')
    const edges = realEdges(p).map((i) => edgeRef(p, i))
    const corners = realVertices(p).map((i) => ({ at: p.vertices[i]!.at, ref: vertexRef(p, i) }))
    expect([edges.length, corners.length]).toEqual([12, 8])
    const edgeOf = (...names: string[]) =>
      JSON.stringify(edges.find((e) => names.every((n) => e.edge.includes(n))))
    const corner = (...at: [number, number, number]) =>
      JSON.stringify(corners.find((v) => norm3(sub3(v.at, at)) < 1e-6)!.ref)
    const read = async (a: string, b: string) =>
      (await between([base, block], 'block', { face: a, other: 'block', with: b })).reading!
    // Across the block from a lower edge to the upper one over the far side.
    const across = await read(
      edgeOf('block:start', 'block:side1'),
      edgeOf('block:end', 'block:side3'),
    )
    expect(across.low).toBeCloseTo(Math.hypot(40, 20), 9)
    expect(across.rows).toContainEqual({ label: 'angle', text: '0.000°' })
    expect(across.rows.filter((r) => r.text === '60.000 mm')).toHaveLength(2)
    const up = await read(edgeOf('block:side1', 'block:side2'), 'block:end')
    expect(up.rows).toContainEqual({ label: 'angle', text: '90.000°' })
    const through = await read(corner(0, 0, 0), corner(60, 40, 20))
    expect(through.low).toBeCloseTo(Math.hypot(60, 40, 20), 9)
    expect((await read(corner(60, 40, 20), 'block:start')).low).toBeCloseTo(20, 9)
    const slant = await read(corner(0, 40, 20), edgeOf('block:start', 'block:side1'))
    expect(slant.low).toBeCloseTo(Math.hypot(40, 20), 5)
    const ring = (
      await between([ringOutline, turn(20, 'turn', 'outline')], 'turn', {
        face: JSON.stringify({ edge: ['turn:outer', 'turn:high'] }),
        other: 'turn',
        with: JSON.stringify({ edge: ['turn:inner', 'turn:high'] }),
      })
    ).reading!
    expect(ring.rows).toContainEqual({ label: 'between the axes', text: '0.000 mm' })
    expect(ring.rows.find((r) => r.label.startsWith('length of'))!.text).toBe(
      `${(28 * Math.PI).toFixed(3)} mm`,
    )
    expect(ring.low).toBeCloseTo(4, 0)
  })
  it('says what it cannot read', async () => {
    const why = async (face: string) =>
      (await between([base, block], 'block', { face, with: 'block:end' })).why
    expect(await why('{nonsense')).toMatch(/neither a face nor a reference/)
    expect(await why('{"edge":["block:end","block:start"]}')).toMatch(/has no one edge of/)
    expect(await why('{"vertex":["a","b","c"]}')).toMatch(/has no one corner of a and b and c/)
  })
})

const ringOutline = op(10, 'profile', 'outline', {
  plane: 'front',
  drawing: {
    points: {
      a: { x: 10, y: 0 },
      b: { x: 14, y: 0 },
      c: { x: 14, y: 9 },
      d: { x: 10, y: 9 },
    },
    entities: [
      { id: 'low', kind: 'line', a: 'a', b: 'b' },
      { id: 'outer', kind: 'line', a: 'b', b: 'c' },
      { id: 'high', kind: 'line', a: 'c', b: 'd' },
      { id: 'inner', kind: 'line', a: 'd', b: 'a' },
    ],
  },
})
const turn = (number: number, id: string, profile: string): Op =>
  op(number, 'revolve', id, { profile, mode: 'new' })
