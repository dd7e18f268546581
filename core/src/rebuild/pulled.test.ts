import { describe, expect, it } from 'vitest'
import type { P3 } from '../math'
import { place3 } from '../surface'
import { op } from '../workpiece/samples.test-data'
import { built, piece } from './exactroute.test-data'

/** A vase turned from an arc through (29, 0), (35, 48) and (26, 108). */
const vase = [
  op(10, 'profile', 'half', {
    plane: 'front',
    use: 'turn',
    drawing: {
      points: {
        a: { x: 0, y: 0 },
        b: { x: 29, y: 0 },
        m: { x: 35, y: 48 },
        c: { x: 26, y: 108 },
        d: { x: 0, y: 108 },
      },
      entities: [
        { id: 'base', kind: 'line', a: 'a', b: 'b' },
        { id: 'side', kind: 'arc', a: 'b', via: 'm', b: 'c' },
        { id: 'top', kind: 'line', a: 'c', b: 'd' },
      ],
    },
  }),
  op(20, 'revolve', 'body', { profile: 'half', mode: 'new' }),
]
/** A line before it that begins over its rim, at x = 26 / sqrt 2, and the same pulled onto its side. */
const pulled = (id: string, side: 1 | -1) => [
  op(30, 'path', `before-${id}`, {
    how: 'stops',
    stops: [
      { x: side * Math.sqrt(26 ** 2 / 2), y: -60, z: 108, by: 'line' },
      { x: side * 10.6, y: -60, z: 56, by: 'over' },
      { x: 0, y: -60, z: 10, by: 'line' },
    ],
  }),
  op(40, 'path', id, {
    how: 'onto',
    from: `before-${id}`,
    body: 'body',
    faces: [{ face: 'body:side' }],
    pull: 'straight',
    plane: 'front',
  }),
]

describe('lines pulled straight onto faces', () => {
  it('that begin on their border follow the side that is nearer all along, and mirrored ones are mirrored', async () => {
    const { reports, state } = await built(
      piece([...vase, ...pulled('left', -1), ...pulled('right', 1)]),
    )
    expect(reports.map((r) => [r.id, r.status, r.diagnoses[0]?.message])).toEqual(
      reports.map((r) => [r.id, 'ok', undefined]),
    )
    const curves = ['left', 'right'].map((id) => state.paths[id]!.pieces[0]!)
    // The circle through three places of the outline, by its chords' middles.
    const [[ax, ay], [bx, by], [cx, cy]] = [
      [29, 0],
      [35, 48],
      [26, 108],
    ] as const
    const det = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by))
    const sq = (x: number, y: number) => x * x + y * y
    const ox = (sq(ax, ay) * (by - cy) + sq(bx, by) * (cy - ay) + sq(cx, cy) * (ay - by)) / det
    const oz = (sq(ax, ay) * (cx - bx) + sq(bx, by) * (ax - cx) + sq(cx, cy) * (bx - ax)) / det
    const round = Math.hypot(29 - ox, oz)
    for (let k = 0; k <= 50; k++) {
      const [left, right] = curves.map((c) => place3(c, k / 50)) as [P3, P3]
      const r = Math.hypot(left[0], left[1])
      expect(Math.abs(Math.hypot(r - ox, left[2] - oz) - round)).toBeLessThan(2e-3)
      expect(left[1]).toBeLessThan(0)
      expect(Math.hypot(left[0] + right[0], left[1] - right[1], left[2] - right[2])).toBeLessThan(
        2e-3,
      )
    }
    const end = place3(curves[0]!, 0)
    expect(Math.hypot(end[0], end[1])).toBeCloseTo(26, 3)
  })
})
