import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { P2 } from '../math'
import { brimVolume, cavityOf, facesOf, shell, trappedVolume, voidVolume } from '.'
import { POT, polygon, turn } from './samples.test-data'

const PI = Math.PI
const can: P2[] = [
  [0, 0],
  [30, 0],
  [30, 60],
  [0, 60],
]
const ring: P2[] = [
  [20, 0],
  [40, 0],
  [40, 30],
  [20, 30],
]
const closed = (points: P2[], t: number) => {
  const made = shell(turn(polygon(points)), t, new Set(), 'in', 's')
  if (!made.ok) throw new Error(made.diagnosis.message)
  return made.value.body
}

describe('hollows that are closed all round', () => {
  it('hold nothing; their volume is told as such', () => {
    const b = closed(can, 3)
    expect(cavityOf(b)).toBeNull()
    expect(voidVolume(b)).toBeCloseTo(PI * 27 * 27 * 54, 6)
  })
  it('so does a ring-shaped one, and one with a loose core', () => {
    const r = closed(ring, 2)
    expect(cavityOf(r)).toBeNull()
    expect(voidVolume(r)).toBeCloseTo(PI * (38 ** 2 - 22 ** 2) * 26, 5)
    const hollow = closed(can, 3)
    const core = turn(
      polygon([
        [0, 20],
        [10, 20],
        [10, 40],
        [0, 40],
      ]),
    )
    const floating = { ...hollow, regions: [...hollow.regions, ...core.regions] }
    expect(cavityOf(floating)).toBeNull()
    expect(voidVolume(floating)).toBeCloseTo(PI * (27 * 27 * 54 - 100 * 20), 5)
  })
  it('property: whatever is shelled with no face open holds nothing and keeps its void', () => {
    const size = fc.double({ min: 12, max: 60, noNaN: true })
    fc.assert(
      fc.property(size, size, size, fc.double({ min: 0.5, max: 3, noNaN: true }), (r, q, h, t) => {
        const b = closed(
          [
            [0, 0],
            [r, 0],
            [q, h],
            [0, h],
          ],
          t,
        )
        expect(cavityOf(b)).toBeNull()
        expect(voidVolume(b)).toBeGreaterThan(0)
      }),
      { numRuns: 30 },
    )
  })
})

describe('air under what hangs into a vessel', () => {
  it('stays there, is left out of the capacity and named', () => {
    const c = cavityOf(POT)!
    const trapped = PI * (38 ** 2 - 27 ** 2) * 10
    expect(trappedVolume(c)).toBeCloseTo(trapped, 1)
    // To the brim at 62: below the skirt all, above it the inside of the skirt.
    expect(brimVolume(c)).toBeCloseTo(PI * (38 ** 2 * 48 + 25 ** 2 * 12), 1)
  })
  it('a vessel that only narrows upwards traps none', () => {
    const jar = turn(
      polygon([
        [0, 0],
        [40, 0],
        [20, 60],
        [18, 60],
        [37, 3],
        [0, 3],
      ]),
    )
    expect(trappedVolume(cavityOf(jar)!)).toBe(0)
  })
})

describe('details exactly two walls thick', () => {
  /** A jar with a lip 6 high that stands out by 5. */
  const lipped: P2[] = [
    [0, 0],
    [35, 0],
    [35, 60],
    [14, 80],
    [14, 104],
    [19, 104],
    [19, 110],
    [0, 110],
  ]
  it.each([2.999, 3, 3.001])('a wall of %d leaves the jar hollow', (t) => {
    const b = closed(lipped, t)
    expect(voidVolume(b)).toBeGreaterThan(100_000)
  })
  it.each([2.999, 3, 3.001])('and so does a wall of %d open within the lip', (t) => {
    const b = turn(polygon([...lipped.slice(0, -1), [14, 110], [0, 110]]))
    const open = new Set(
      facesOf(b)
        .filter((f) => f.seg.name === 'e7')
        .map((f) => f.seg),
    )
    const made = shell(b, t, open, 'in', 's')
    if (!made.ok) throw new Error(made.diagnosis.message)
    expect(brimVolume(cavityOf(made.value.body)!)).toBeGreaterThan(100_000)
  })
})

describe('walls grown outward', () => {
  it('end flat in the plane of the open face, on a tapered side as well', () => {
    const taper: P2[] = [
      [0, 0],
      [25, 0],
      [40, 60],
      [0, 60],
    ]
    const b = turn(polygon(taper))
    const open = new Set(
      facesOf(b)
        .filter((f) => f.seg.name === 'e2')
        .map((f) => f.seg),
    )
    const made = shell(b, 3, open, 'out', 's')
    if (!made.ok) throw new Error(made.diagnosis.message)
    const rim = facesOf(made.value.body).filter((f) => f.seg.name.startsWith('s:rim'))
    expect(rim).toHaveLength(1)
    const { curve } = rim[0]!.seg
    if (curve.kind !== 'line') throw new Error('not straight')
    expect([curve.a[1], curve.b[1]]).toEqual([60, 60])
    // Square to the side the wall is 3, so along the rim 3 / sin of the side's slope.
    const slope = Math.atan2(60, 15)
    expect(Math.abs(curve.b[0] - curve.a[0])).toBeCloseTo(3 / Math.sin(slope), 6)
  })
})
