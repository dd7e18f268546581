import { describe, expect, it } from 'vitest'
import { type ExactPart, faceRef } from '../exact'
import type { FaceRef } from '../refs'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, bodiesOf, built, diagnosis, exact, face, piece } from './exactroute.test-data'

const cap = (a: number, d: number) => {
  const r = (a * a + d * d) / (2 * d)
  return (Math.PI * d * d * (3 * r - d)) / 3
}
const dimples = (faces: FaceRef[], more: object): Op =>
  op(40, 'dimples', 'field', { body: 'block', faces, plane: 'top', ...more })

describe('dimples', () => {
  it('on a flat face are caps of the ball that depth and width give; whole ones, clear of the edge', async () => {
    const ref = face(await exact([base, block], 'block'), 'block:end')
    const part = await exact([base, block, dimples([ref], { layout: 'square' })], 'block')
    // 60 x 40, pitch 9, each 6.5 across and 1.5 clear: from the middle 2 to either side and up, 1 the other way.
    const across = 1 + 2 * Math.floor((30 - 3.25 - 1.5) / 9)
    const up = 1 + 2 * Math.floor((20 - 3.25 - 1.5) / 9)
    const n = across * up
    expect(part.measure.volume).toBeCloseTo(48000 - n * cap(3.25, 2), 4)
    const caps = part.faces.filter((f) => f.names[0]!.startsWith('field:dimple'))
    expect(caps).toHaveLength(n)
    const r = (3.25 ** 2 + 4) / 4
    for (const f of caps) expect(f.area).toBeCloseTo(2 * Math.PI * r * 2, 4)
    const bubbles = await exact(
      [base, block, dimples([ref], { layout: 'square', way: 'out' })],
      'block',
    )
    expect(bubbles.measure.volume).toBeCloseTo(48000 + n * cap(3.25, 2), 4)
    const rounded = await exact([base, block, dimples([ref], { pitch: 14, rim: 0.8 })], 'block')
    expect(rounded.faces.some((f) => f.names[0]!.startsWith('field:round'))).toBe(true)
  })
  it('on several faces stand in one spacing across where they meet, none over the seam', async () => {
    const high = 10 + 30 * Math.tan((20 * Math.PI) / 180)
    const gable = outline(10, 'flat', 'front', [
      [-30, 0],
      [30, 0],
      [30, 10],
      [0, high],
      [-30, 10],
    ])
    const roof = op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 40 })
    const whole = await exact([gable, roof], 'block')
    const slopes = [face(whole, 'block:side3'), face(whole, 'block:side4')]
    const more = { layout: 'square', pitch: 10, width: 5, deep: 1, clear: 1 }
    const part = await exact([gable, roof, dimples(slopes, more)], 'block')
    // At 10 and 20 to either side of the ridge, not on it, in three rows.
    expect(part.faces.filter((f) => f.names[0]!.startsWith('field:dimple'))).toHaveLength(12)
    expect(part.measure.volume).toBeCloseTo(whole.measure.volume - 12 * cap(2.5, 1), 4)
  })
  it('on a round face go as deep as asked from the face itself', async () => {
    const rod = [
      circles(10, 'flat', 'top', [[0, 0, 30]]),
      op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 60 }),
    ]
    const whole = await exact(rod, 'block')
    const ref = faceRef(
      whole,
      whole.faces.findIndex((f) => f.names[0] === 'block:ring1'),
    )
    const part = await exact(
      [...rod, dimples([ref], { plane: 'front', pitch: 9, deep: 1.5 })],
      'block',
    )
    const caps = part.faces.filter((f) => f.names[0]!.startsWith('field:dimple'))
    expect(caps.length).toBeGreaterThan(5)
    // The deepest place of each lies 1.5 inside the cylinder: read on its triangles.
    const { positions, triangles, faceOf } = part.shown
    for (const [i, f] of part.faces.entries()) {
      if (!f.names[0]!.startsWith('field:dimple')) continue
      let least = Number.POSITIVE_INFINITY
      for (const [t, own] of faceOf.entries())
        if (own === i)
          for (let k = 0; k < 3; k++) {
            const v = 3 * triangles[3 * t + k]!
            least = Math.min(least, Math.hypot(positions[v]!, positions[v + 1]!))
          }
      expect(least).toBeGreaterThan(28.5 - 1e-3)
      expect(least).toBeLessThan(28.5 + 0.06)
    }
  })
  it.each([
    [{ deep: 0 }, 'not-positive'],
    [{ deep: 4 }, 'too-deep'],
    [{ pitch: 6 }, 'too-close'],
    [{ width: 39, pitch: 50, deep: 5 }, 'no-room'],
    [{ pitch: 0.9, width: 0.5, deep: 0.1 }, 'too-many'],
    [{ clear: -1 }, 'margin'],
  ])('refuses in a sentence: %j', async (more, code) => {
    const ref = face(await exact([base, block], 'block'), 'block:end')
    const d = await diagnosis([base, block, dimples([ref], more)])
    expect([d.code, /[.]$/.test(d.message)]).toEqual([code, true])
  })
  it('without a face, or one seen edge-on, says so', async () => {
    expect((await diagnosis([base, block, dimples([], {})])).code).toBe('no-faces')
    const ref = face((await bodiesOf([base, block])).block!.shape as ExactPart, 'block:side1')
    const { reports } = await built(piece([base, block, dimples([ref], {})]))
    expect(reports[2]!.status).toBe('fail')
  })
})
