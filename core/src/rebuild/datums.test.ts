import { describe, expect, it } from 'vitest'
import type { P3 } from '../math'
import { opSpec, withDefaults } from '../ops'
import { volumeOf } from '../turned'
import { emptyWorkpiece, type Op, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { rebuild } from '.'

/** A cylinder of radius `r` and height 40 on the top plane, with datum ops after it, named d1... */
const withDatums = (datums: [kind: string, inputs: Op['inputs']][], r: string | number = 20) => ({
  ...emptyWorkpiece('w', 'W'),
  figures: [{ name: 'wide', expr: '30 mm' }],
  route: [
    op(10, 'profile', 'line', {
      plane: 'front',
      drawing: {
        points: { a: { x: 0, y: 0 }, b: { x: r, y: 0 }, c: { x: r, y: 40 }, d: { x: 0, y: 40 } },
        entities: [
          { id: 'foot', kind: 'line', a: 'a', b: 'b' },
          { id: 'side', kind: 'line', a: 'b', b: 'c' },
          { id: 'lid', kind: 'line', a: 'c', b: 'd' },
          { id: 'core', kind: 'line', a: 'd', b: 'a' },
        ],
      },
    }),
    op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 360, start: 0 }),
    ...datums.map(([kind, inputs], i) => op(30 + 10 * i, kind, `d${i + 1}`, inputs)),
  ],
})
const withPlane = (inputs: Op['inputs'], r: string | number = 20): Workpiece =>
  withDatums([['plane', inputs]], r)
const frameOf = (w: Workpiece) => {
  const built = rebuild(w)
  const frame = built.state.planes.d1?.frame
  if (!frame) throw new Error(built.reports[2]!.diagnoses[0]?.message)
  return frame
}
const said = (w: Workpiece) => rebuild(w).reports[2]!.diagnoses[0]?.message ?? ''
const close = (a: P3, b: readonly number[]) => {
  for (const k of [0, 1, 2]) expect(a[k]).toBeCloseTo(b[k]!, 9)
}
const face = (name: string) => ({ face: `turn:${name}`, index: 0 })

describe('datum planes', () => {
  it('off a plane, as before', () =>
    close(frameOf(withPlane({ from: 'top', offset: 12 })).origin, [0, 0, 12]))
  it('off a flat face, looking out of it, and following the body', () => {
    const lid = frameOf(withPlane({ how: 'offset', body: 'turn', faces: [face('lid')], offset: 5 }))
    close(lid.origin, [0, 0, 45])
    close(lid.z, [0, 0, 1])
    const foot = frameOf(
      withPlane({ how: 'offset', body: 'turn', faces: [face('foot')], offset: 5 }),
    )
    close(foot.origin, [0, 0, -5])
    close(foot.z, [0, 0, -1])
  })
  it('left out, how it is set is off a plane: the sheet shows the fields of that', () => {
    const spec = opSpec('plane')!
    const inputs = { from: 'top', offset: 12 }
    const shown = spec.fields.filter((f) => !f.when || f.when(withDefaults(spec, inputs)))
    expect(shown.map((f) => f.name)).toEqual(['how', 'from', 'body', 'faces', 'offset'])
    expect(withDefaults(spec, inputs)).toMatchObject({ how: 'offset', ...inputs })
    // What does not fit the op is shown as a new one has it, the rest as it is: editors get what they can show.
    const odd = withDefaults(spec, { how: 'sideways', offset: 7, faces: 'all' })
    expect(odd).toMatchObject({ how: 'offset', offset: 7, faces: [] })
  })
  it('midway between two faces, and between planes that meet', () => {
    const faces = [face('lid'), face('foot')]
    close(frameOf(withPlane({ how: 'midway', body: 'turn', faces })).origin, [0, 0, 20])
    const half = frameOf(withPlane({ how: 'midway', from: 'front', to: 'top' }))
    close(half.origin, [0, 0, 0])
    close(half.z, [0, -Math.SQRT1_2, Math.SQRT1_2])
  })
  it('at an angle about a line of a plane', () => {
    const tilted = frameOf(withPlane({ how: 'angle', from: 'top', about: 'level', turn: 30 }))
    close(tilted.x, [1, 0, 0])
    close(tilted.z, [0, -0.5, Math.sqrt(3) / 2])
  })
  it('through three places', () => {
    const p = (x: number | string, y: number, z: number) => ({ x, y, z })
    const at = { how: 'three', p1: p(1, 0, 0), p2: p(0, 1, 0), p3: p(0, 0, 1) }
    const n = 1 / Math.sqrt(3)
    close(frameOf(withPlane(at)).z, [n, n, n])
    expect(said(withPlane({ ...at, p3: p(2, -1, 0) }))).toMatch(/one line/)
    expect(said(withPlane({ ...at, p3: p('1 deg', 0, 0) }))).toMatch(/length/)
  })
  it('across a curve at a share of its way', () => {
    const f = frameOf(withPlane({ how: 'across', profile: 'line', piece: 'side', fraction: 0.25 }))
    close(f.origin, [20, 0, 10])
    close(f.z, [0, 0, 1])
    expect(said(withPlane({ how: 'across', profile: 'line', piece: 'side', fraction: 2 }))).toMatch(
      /0 to 1/,
    )
    expect(said(withPlane({ how: 'across', profile: 'line', piece: 'nothing' }))).toMatch(/curve/)
  })
  it('across a curve where it is nearest to a datum point', () => {
    const built = rebuild(
      withDatums([
        ['point', { how: 'place', p1: { x: 33, y: 5, z: 'wide' } }],
        ['plane', { how: 'across', profile: 'line', piece: 'side', near: 'd1' }],
      ]),
    )
    close(built.state.planes.d2!.frame.origin, [20, 0, 30])
  })
  it('touching a round face, following a figure', () => {
    const inputs = { how: 'tangent', body: 'turn', faces: [face('side')], turn: 90, fraction: 0.5 }
    const f = frameOf(withPlane(inputs, 'wide'))
    close(f.origin, [0, 30, 20])
    close(f.z, [0, 1, 0])
  })
  it.each([
    [{ how: 'offset', body: 'turn', faces: [face('side')] }, /round/],
    [{ how: 'midway', from: 'top' }, /two planes/],
    [{ how: 'tangent', body: 'turn', faces: [] }, /one face/],
    [{ how: 'tangent', faces: [] }, /Choose the body/],
    [{ how: 'offset', from: 'nowhere' }, /does not exist/],
  ])('says what is missing (%#)', (inputs, word) => expect(said(withPlane(inputs))).toMatch(word))
  it('a face that is gone is told, and the remedy goes where the plane keeps its faces', () => {
    const built = rebuild(
      withPlane({ how: 'offset', body: 'turn', faces: [{ face: 'turn:gone' }] }),
    )
    const [lost] = built.reports[2]!.diagnoses
    expect(lost!.code).toBe('lost-reference')
    expect(Object.keys(lost!.fixes[0]!.inputs)).toEqual(['faces'])
  })
})

const point = (x: number | string, y: number, z: number) => ({
  how: 'place',
  p1: { x, y, z },
})
/** The first datum axis set after others, or what is said instead. */
const axisAfter = (datums: [string, Op['inputs']][], r?: string) => {
  const built = rebuild(withDatums(datums, r))
  const axis = Object.values(built.state.axes)[0]
  if (!axis) throw new Error(built.reports.at(-1)!.diagnoses[0]?.message)
  return axis
}

describe('datum axes', () => {
  it('where two planes meet, tilted ones too', () => {
    const upright = axisAfter([['axis', { how: 'planes', from: 'front', to: 'side' }]])
    close(upright.origin, [0, 0, 0])
    expect(Math.abs(upright.dir[2])).toBeCloseTo(1, 12)
    const leaning = axisAfter([
      ['plane', { how: 'angle', from: 'top', about: 'level', turn: 30 }],
      ['axis', { how: 'planes', from: 'd1', to: 'side' }],
    ])
    // In the side plane, rising at 30 deg along y.
    const k = Math.sign(leaning.dir[1])
    close(leaning.dir, [0, (k * Math.sqrt(3)) / 2, k / 2])
  })
  it('where a flat face meets a plane', () => {
    const faces = [face('lid')]
    const a = axisAfter([['axis', { how: 'planes', from: 'front', body: 'turn', faces }]])
    expect(a.origin[2]).toBeCloseTo(40, 12)
    expect(a.origin[1]).toBeCloseTo(0, 12)
    expect(Math.abs(a.dir[0])).toBeCloseTo(1, 12)
  })
  it('of a round face, and square to a face at a place, following the body', () => {
    const of = (how: string, more = {}) =>
      ['axis', { how, body: 'turn', faces: [face('side')], ...more }] as [string, Op['inputs']]
    close(axisAfter([of('round')]).dir, [0, 0, 1])
    const out = axisAfter([of('across', { fraction: 0.25, turn: 90 })], 'wide')
    close(out.origin, [0, 30, 10])
    close(out.dir, [0, 1, 0])
  })
  it('along a drawn line and through two datum points', () => {
    close(
      axisAfter([['axis', { how: 'along', profile: 'line', piece: 'side' }]]).origin,
      [20, 0, 0],
    )
    const through = axisAfter([
      ['point', point(3, 0, 0)],
      ['point', point('wide / 10', 4, 0)],
      ['axis', { how: 'points', p1: { point: 'd1' }, p2: { point: 'd2' } }],
    ])
    close(through.dir, [0, 1, 0])
  })
  it('carries a plane turned about it', () => {
    const built = rebuild(
      withDatums([
        ['axis', { how: 'along', profile: 'line', piece: 'side' }],
        ['plane', { how: 'angle', from: 'front', about: 'axis', axis: 'd1', turn: 90 }],
      ]),
    )
    const { frame } = built.state.planes.d2!
    // The side line stays in the plane; the origin goes round it by a quarter turn.
    close(frame.origin, [20, -20, 0])
    close(frame.z, [1, 0, 0])
  })
  it('a drawing is turned about one in its plane', () => {
    const moved = rebuild(
      withDatums([
        ['axis', { how: 'along', profile: 'line', piece: 'side' }],
        ['revolve', { profile: 'line', mode: 'new', angle: 360, start: 0, axis: 'd1' }],
      ]),
    )
    expect(moved.reports.at(-1)!.diagnoses).toEqual([])
    const about = moved.state.bodies.d2!.shape
    if (about.kind !== 'turned') throw new Error('not turned')
    close(about.turned.frame.origin, [20, 0, 0])
    expect(volumeOf(about.turned)).toBeCloseTo(Math.PI * 20 ** 2 * 40, 6)
    const skew = rebuild(
      withDatums([
        ['axis', { how: 'points', p1: { x: 5, y: 5, z: 0 }, p2: { x: 5, y: 5, z: 9 } }],
        ['revolve', { profile: 'line', mode: 'new', angle: 360, start: 0, axis: 'd1' }],
      ]),
    )
    expect(skew.reports.at(-1)!.diagnoses[0]!.message).toMatch(/does not lie in the plane/)
  })
  it.each([
    [{ how: 'planes', from: 'top', to: 'top' }, /parallel/],
    [{ how: 'planes', from: 'top' }, /two planes/],
    [{ how: 'along', profile: 'line', piece: 'none' }, /Choose the curve/],
    [{ how: 'points', p1: { x: 1, y: 1, z: 1 }, p2: { x: 1, y: 1, z: 1 } }, /are one/],
    [{ how: 'points', p1: { point: 'gone' }, p2: { x: 1, y: 1, z: 1 } }, /"gone" does not exist/],
    [{ how: 'round', body: 'turn', faces: [] }, /one round face/],
  ])('says what is missing (%#)', (inputs, word) =>
    expect(() => axisAfter([['axis', inputs]])).toThrow(word),
  )
})

describe('datum points', () => {
  const at = (inputs: Op['inputs'], before: [string, Op['inputs']][] = []) => {
    const built = rebuild(withDatums([...before, ['point', inputs]], 'wide'))
    const made = Object.values(built.state.points)[0]
    if (!made) throw new Error(built.reports.at(-1)!.diagnoses[0]?.message)
    return made.at
  }
  it('typed, along a curve, on a face and where an axis meets a plane', () => {
    close(at(point('wide / 2', 1, 2)), [15, 1, 2])
    close(at({ how: 'along', profile: 'line', piece: 'foot', fraction: 0.5 }), [15, 0, 0])
    const on = { how: 'face', body: 'turn', faces: [face('side')], fraction: 0.5, turn: 180 }
    close(at(on), [-30, 0, 20])
    const meet = { how: 'meet', axis: 'd1', plane: 'd2' }
    const before: [string, Op['inputs']][] = [
      ['axis', { how: 'along', profile: 'line', piece: 'side' }],
      ['plane', { from: 'top', offset: 12 }],
    ]
    close(at(meet, before), [30, 0, 12])
  })
  it('says where it is to the thousandth in each direction', () => {
    const built = rebuild(withDatums([['point', point('15.3456 mm', 1.2346, 2.3457)]]))
    expect(built.reports.at(-1)!.consequence).toBe('at 15.346 mm, 1.235 mm, 2.346 mm')
  })
  it.each([
    [{ how: 'meet', axis: 'd1', plane: 'side' }, /meets it nowhere/],
    [{ how: 'along', profile: 'line', piece: 'foot', fraction: -1 }, /0 to 1/],
    [{ how: 'face', body: 'none', faces: [] }, /Choose the body/],
    [{ how: 'place' }, /place is missing/],
    [{ how: 'place', p1: { x: 'sqrt(-1) mm', y: 0, z: 0 } }, /./],
  ])('says what is wrong (%#)', (inputs, word) =>
    expect(() => at(inputs, [['axis', { how: 'along', profile: 'line', piece: 'side' }]])).toThrow(
      word,
    ),
  )
})
