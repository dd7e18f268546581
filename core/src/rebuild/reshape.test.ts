import { describe, expect, it } from 'vitest'
import type { Drawing } from '../profile'
import { emptyWorkpiece, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { RebuildCache, type Reshape, rebuild, reshape, tryDimension } from '.'

/** A cone turned from a profile driven by `wide`, and a second profile after it. */
const w = (drawing: Drawing = { points: {}, entities: [] }, wide = '30 mm'): Workpiece => ({
  ...emptyWorkpiece('w', 'W'),
  figures: [{ name: 'wide', expr: wide }],
  route: [
    op(10, 'profile', 'line', {
      plane: 'front',
      drawing: {
        points: {
          a: { x: 0, y: 0 },
          b: { x: 'wide', y: 0 },
          c: { x: 12, y: 40 },
          d: { x: 0, y: 40 },
        },
        entities: [
          { id: 'foot', kind: 'line', a: 'a', b: 'b' },
          { id: 'side', kind: 'line', a: 'b', b: 'c' },
          { id: 'lid', kind: 'line', a: 'c', b: 'd' },
        ],
      },
    }),
    op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 360, start: 0 }),
    op(30, 'profile', 'next', { plane: 'front', drawing }),
  ],
})
const changed = (doc: Workpiece, id: string, change: Reshape): Drawing => {
  const r = reshape(rebuild(doc), id, change)
  if (!r.ok) throw new Error(r.diagnosis.message)
  return r.value
}
const said = (doc: Workpiece, id: string, change: Reshape): string => {
  const r = reshape(rebuild(doc), id, change)
  return r.ok ? '' : r.diagnosis.message
}

describe('projected pieces', () => {
  it('follow the body, and so does what is held to them', () => {
    const seen = changed(w(), 'next', { do: 'project', from: { body: 'turn' } })
    expect(seen.entities.map((e) => e.kind)).toEqual(['line', 'line', 'line'])
    const side = seen.entities.find(
      (e) => e.source && 'face' in e.source && e.source.face === 'turn:side',
    )!
    // A point held half-way along the projected side.
    const held: Drawing = {
      points: { ...seen.points, m: { x: 1, y: 1 }, n: { x: 50, y: 20 } },
      entities: [...seen.entities, { id: 'mine', kind: 'line', a: 'm', b: 'n' }],
      relations: [{ id: 'r', kind: 'midpoint', points: ['m'], entities: [side.id] }],
    }
    const cache = new RebuildCache()
    const at = (doc: Workpiece) => rebuild(doc, cache).state.profiles.next!.shape
    expect(at(w(held)).points.m).toEqual([21, 20])
    // The projected ends are given: only the loose end of the new line is free.
    expect(at(w(held)).hold.freedoms).toBe(2)
    const wider = at(w(held, '44 mm'))
    expect(wider.points.m![0]).toBeCloseTo(28, 9)
  })
  it('follow another profile, and say when the piece is gone', () => {
    const seen = changed(w(), 'next', { do: 'project', from: { profile: 'line' } })
    const doc = w(seen)
    const line = doc.route[0]!.inputs.drawing as Drawing
    line.entities = line.entities.filter((e) => e.id !== 'lid')
    const report = rebuild(doc).reports[2]!
    expect(report.status).toBe('warn')
    expect(report.diagnoses[0]!.message).toMatch(/is gone/)
  })
  it('on any plane along the axis it is the same section, seen the right way round', () => {
    for (const plane of ['front', 'side']) {
      const doc = w()
      doc.route[2]!.inputs.plane = plane
      const seen = { ...doc }
      seen.route[2]!.inputs.drawing = changed(doc, 'next', {
        do: 'project',
        from: { body: 'turn' },
      })
      const { shape } = rebuild(seen).state.profiles.next!
      const at = Object.values(shape.points).map(([x, y]) => [Math.round(x), Math.round(y)])
      expect(at).toContainEqual([30, 0])
      expect(at).toContainEqual([12, 40])
    }
  })
  it('across the axis a body shows its circles, which follow it', () => {
    const doc = (wide?: string) => {
      const made = w(undefined, wide)
      made.route[2]!.inputs.plane = 'top'
      return made
    }
    const drawing = changed(doc(), 'next', { do: 'project', from: { body: 'turn' } })
    // Foot and lid, as seen from above.
    expect(drawing.entities.map((e) => e.kind)).toEqual(['circle', 'circle'])
    const radiiOf = (made: Workpiece) => {
      made.route[2]!.inputs.drawing = drawing
      const { radii } = rebuild(made).state.profiles.next!.shape
      return Object.values(radii).sort((a, b) => a - b)
    }
    expect(radiiOf(doc())).toEqual([12, 30])
    expect(radiiOf(doc('44 mm'))).toEqual([12, 44])
  })
  it('on a tilted plane nothing is seen, and why is told', () => {
    const doc = w()
    const tilted = { how: 'angle', from: 'top', about: 'level', turn: 20 }
    doc.route.splice(2, 0, { ...doc.route[2]!, id: 'tilt', kind: 'plane', inputs: tilted })
    doc.route[3]!.inputs = { ...doc.route[3]!.inputs, plane: 'tilt' }
    expect(said(doc, 'next', { do: 'project', from: { body: 'turn' } })).toMatch(/neither/)
  })
  it('need a plane along the axis', () => {
    const doc = w(changed(w(), 'next', { do: 'project', from: { body: 'turn' } }))
    doc.route[2]!.inputs.plane = 'top'
    expect(rebuild(doc).reports[2]!.diagnoses[0]!.message).toMatch(/along the axis/)
    expect(said(w(), 'next', { do: 'project', from: { body: 'none' } })).toMatch(/body/)
  })
})

describe('changes of a drawing', () => {
  it('take expressions and start from where figures put things', () => {
    const round = changed(w(), 'line', { do: 'fillet', point: 'c', size: 'wide / 10' })
    const arc = round.entities.find((e) => e.kind === 'arc')!
    expect(round.relations).toHaveLength(2)
    expect(arc.id).toBe('arc1')
    expect(said(w(), 'line', { do: 'fillet', point: 'c', size: '3 deg' })).toMatch(/length/)
    expect(said(w(), 'line', { do: 'fillet', point: 'c', size: 'nothing' })).toMatch(/nothing/)
    expect(said(w(), 'gone', { do: 'trim', piece: 'x', at: [0, 0] })).toMatch(/not there/)
  })
  it.each([
    [
      'rectangle',
      [
        [0, 0],
        [4, 5],
      ],
      4,
    ],
    [
      'rectangle-about',
      [
        [0, 0],
        [4, 5],
      ],
      4,
    ],
    [
      'polygon',
      [
        [0, 0],
        [4, 0],
      ],
      6,
    ],
    [
      'slot',
      [
        [0, 0],
        [9, 0],
        [3, 2],
      ],
      4,
    ],
    [
      'ellipse',
      [
        [0, 0],
        [9, 0],
        [0, 4],
      ],
      1,
    ],
    [
      'circle3',
      [
        [5, 0],
        [0, 5],
        [-5, 0],
      ],
      1,
    ],
  ] as const)('draw a %s', (shape, spots, pieces) => {
    const d = changed(w(), 'next', {
      do: 'shape',
      shape,
      spots: spots.map(([x, y]) => [x, y] as [number, number]),
      sides: 5,
    })
    expect(d.entities).toHaveLength(pieces)
    expect(rebuild(w(d)).reports[2]!.status).not.toBe('fail')
    expect(said(w(), 'next', { do: 'shape', shape, spots: [[0, 0]], sides: 5 })).toMatch(/places/)
  })
  it('copy from one profile into another', () => {
    const part = changed(w(), 'line', { do: 'part', pieces: ['foot', 'side'] })
    const d = changed(w(), 'next', { do: 'paste', part })
    expect(d.entities.map((e) => e.kind)).toEqual(['line', 'line'])
    // The figure still drives the copied point.
    expect(Object.values(d.points).map((p) => p.x)).toContain('wide')
  })
})

describe('a typed dimension', () => {
  const box: Drawing = {
    points: { a: { x: 0, y: 0 }, b: { x: 20, y: 0 }, c: { x: 20, y: 15 } },
    entities: [
      { id: 'ab', kind: 'line', a: 'a', b: 'b' },
      { id: 'bc', kind: 'line', a: 'b', b: 'c' },
      { id: 'ca', kind: 'line', a: 'c', b: 'a' },
    ],
    dimensions: ['ab', 'bc', 'ca'].map((e, i) => ({
      id: `d${i}`,
      kind: 'distance' as const,
      points: [],
      entities: [e],
      value: [20, 15, 25][i]!,
    })),
  }
  const tried = (value: number | string) => tryDimension(rebuild(w(box)), 'next', 'd2', value)
  it('is taken, or refused with what blocks it and the nearest that can be', () => {
    expect(tried('wide')).toEqual({ ok: true })
    expect(tried(40)).toMatchObject({
      ok: false,
      blockedBy: expect.stringContaining('Distance 20'),
    })
    const r = tried(40)
    if (typeof r === 'string' || r.ok) throw new Error('not refused')
    expect(r.nearest!).toBeCloseTo(35, 3)
  })
  it.each([
    [-4, /negative/],
    ['', /empty|cannot/],
    ['3 deg', /length/],
    ['constructor', /constructor|no figure|not/i],
    ['2^2^2^2^2', /power|large|unit/],
    ['9 ^ 99', /power/],
    ['('.repeat(60) + '1' + ')'.repeat(60), /deep|cannot|nested/],
    [Number.NaN, /not a number/],
  ])('%s is refused in words', (value, word) => expect(tried(value)).toMatch(word))
})

it('a conflict fails the op, names the members and offers to release each', () => {
  const d: Drawing = {
    points: { a: { x: 0, y: 0 }, b: { x: 20, y: 0 } },
    entities: [{ id: 'ab', kind: 'line', a: 'a', b: 'b' }],
    dimensions: [
      { id: 'd1', kind: 'distance', points: [], entities: ['ab'], value: 20 },
      { id: 'd2', kind: 'level', points: [], entities: ['ab'], value: 25 },
    ],
  }
  const report = rebuild(w(d)).reports[2]!
  expect(report.status).toBe('fail')
  const [first] = report.diagnoses
  expect(first).toMatchObject({ code: 'conflict' })
  expect(first!.fixes.map((f) => f.label)).toEqual([
    'Release Distance 20 (ab)',
    'Release Distance across 25 (ab)',
  ])
  const fixed = w(first!.fixes[1]!.inputs.drawing as Drawing)
  expect(rebuild(fixed).reports[2]!.status).not.toBe('fail')
})
