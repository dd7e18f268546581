import { describe, expect, it } from 'vitest'
import type { P3 } from '../math'
import { emptyWorkpiece, type Op, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { rebuild } from '.'

/** A cylinder of radius `r` and height 40 on the top plane, with a plane after it. */
const withPlane = (inputs: Op['inputs'], r: string | number = 20): Workpiece => ({
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
        ],
      },
    }),
    op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 360, start: 0 }),
    op(30, 'plane', 'datum', inputs),
  ],
})
const frameOf = (w: Workpiece) => {
  const built = rebuild(w)
  const frame = built.state.planes.datum?.frame
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
  it('touching a round face, following a figure', () => {
    const inputs = { how: 'tangent', body: 'turn', faces: [face('side')], turn: 90, fraction: 0.5 }
    const f = frameOf(withPlane(inputs, 'wide'))
    close(f.origin, [0, 30, 20])
    close(f.z, [0, 1, 0])
  })
  it.each([
    [{ how: 'offset', body: 'turn', faces: [face('side')] }, /round/],
    [{ how: 'midway', from: 'top' }, /two planes/],
    [{ how: 'tangent', body: 'turn', faces: [] }, /one round face/],
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
