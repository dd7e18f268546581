import { describe, expect, it } from 'vitest'
import type { P2 } from '../math'
import { chamferCorner, cornersOf, faceNames, filletCorner, type TurnedBody, volumeOf } from '.'
import { polygon, turn } from './samples.test-data'

const at = (b: TurnedBody, p: P2) =>
  cornersOf(b).find((c) => Math.hypot(c.at[0] - p[0], c.at[1] - p[1]) < 1e-6)!
const must = <T>(o: { ok: true; value: T } | { ok: false; diagnosis: { message: string } }): T => {
  if (!o.ok) throw new Error(o.diagnosis.message)
  return o.value
}
const disc = (r: number, h: number) =>
  turn(
    polygon([
      [0, 0],
      [r, 0],
      [r, h],
      [0, h],
    ]),
  )

describe('full rounds', () => {
  it('the rim of a disc rounded from both sides at exactly half its thickness', () => {
    // A disc of radius 40, 30 thick: both edges at 15 leave a half circle, R - r = 25 from the axis.
    const one = must(filletCorner(disc(40, 30), at(disc(40, 30), [40, 0]), 15, 'f'))
    const both = must(filletCorner(one, at(one, [40, 30]), 15, 'g'))
    expect(faceNames(both)).toEqual(new Set(['e0', 'f', 'g', 'e2']))
    // Pappus: half disc of radius 15, centroid 4 r / 3 pi beyond 25, and the core.
    const half = (Math.PI * 15 ** 2) / 2
    const want = Math.PI * 25 ** 2 * 30 + 2 * Math.PI * (25 + (4 * 15) / (3 * Math.PI)) * half
    expect(volumeOf(both) / want).toBeCloseTo(1, 9)
    expect(filletCorner(one, at(one, [40, 30]), 15.001, 'g').ok).toBe(false)
  })
  it('a rounding as large as the face it ends on makes a dome', () => {
    const b = disc(20, 50)
    const dome = must(filletCorner(b, at(b, [20, 50]), 20, 'f'))
    expect(volumeOf(dome)).toBeCloseTo(Math.PI * 400 * 30 + (2 / 3) * Math.PI * 8000, 6)
    expect(filletCorner(b, at(b, [20, 50]), 20.01, 'f').ok).toBe(false)
  })
  it('a bevel to the very end of a face makes a cone', () => {
    const b = disc(20, 50)
    const cone = must(chamferCorner(b, at(b, [20, 50]), 50, 20, 'c'))
    expect(volumeOf(cone)).toBeCloseTo((Math.PI * 400 * 50) / 3, 6)
  })
})
