import { describe, expect, it } from 'vitest'
import { basinOf } from '../mesh'
import { brimVolume, cavityOf, shell, solidMesh, type TurnedBody, volumeOf } from '../turned'
import { POT, polygon, ROD, turn } from '../turned/samples.test-data'
import { gaugeSpec, readWith, solidSubject, subjectOf } from '.'

const FINE = { chord: 0.002, angle: 0.02 }
const cup = turn(
  polygon([
    [0, 0],
    [30, 0],
    [40, 100],
    [37, 100],
    [27, 5],
    [0, 5],
  ]),
)
const basin = (b: TurnedBody) => basinOf(solidMesh(b, FINE))

/** None of these gauges looks at it. */
const NO_SKIN = {
  positions: new Float32Array(),
  normals: new Float32Array(),
  triangles: new Uint32Array(),
}

describe('the basin of a mesh', () => {
  it('is that of the turned body it is of', () => {
    const want = brimVolume(cavityOf(cup)!)
    const got = basin(cup)!
    expect(got.volume / want).toBeCloseTo(1, 3)
    expect(got.brim).toBeCloseTo(100, 3)
    expect(got.floor).toBeCloseTo(5, 3)
  })
  it('of a tube is none, of a closed shell is sealed', () => {
    const tube = turn(
      polygon([
        [10, 0],
        [12, 0],
        [12, 40],
        [10, 40],
      ]),
    )
    expect(basin(tube)).toBeNull()
    const made = shell(ROD, 3, new Set(), 'in', 's')
    if (!made.ok) throw new Error(made.diagnosis.message)
    const sealed = basin(made.value.body)!
    expect(sealed.volume).toBe(0)
    expect(sealed.sealed / (volumeOf(ROD) - volumeOf(made.value.body))).toBeCloseTo(1, 3)
  })
  it('of a ring trough round a post holds to the lower of its two rims', () => {
    const trough = turn(
      polygon([
        [0, 0],
        [40, 0],
        [40, 30],
        [38, 30],
        [38, 4],
        [12, 4],
        [12, 22],
        [0, 22],
      ]),
    )
    const got = basin(trough)!
    // Up to the top of the post a ring, above it the whole width.
    const want = Math.PI * ((38 ** 2 - 144) * 18 + 38 ** 2 * 8)
    expect(got.volume / want).toBeCloseTo(1, 3)
    expect(got.brim).toBeCloseTo(30, 3)
  })
  it('of two chambers with a wall between lower than the rim is one above it', () => {
    expect(basin(POT)!.brim).toBeGreaterThan(49.9)
  })
})

describe('gauges of bodies that are not turned', () => {
  const subject = (b: TurnedBody, density?: number) => {
    const mesh = solidMesh(b, FINE)
    const bounds = { min: [-40, -40, 0] as const, max: [40, 40, 100] as const }
    return solidSubject(
      { volume: volumeOf(b), centroid: [0, 0, 40], bounds, mesh },
      NO_SKIN,
      density,
    )
  }
  const read = (kind: string, b: TurnedBody, density?: number) => {
    const r = readWith(gaugeSpec(kind)!, subject(b, density), {})
    if (typeof r === 'string') throw new Error(r)
    return r
  }
  it('capacity says so where nothing stays', () => {
    expect(read('capacity', cup).low).toBeCloseTo(brimVolume(cavityOf(cup)!) / 1000, 0)
    const block = turn(
      polygon([
        [0, 0],
        [5, 0],
        [5, 9],
        [0, 9],
      ]),
    )
    expect(readWith(gaugeSpec('capacity')!, subject(block), {})).toMatch(/holds nothing/)
  })
  it('tips about the nearest side of what it stands on', () => {
    // Centre of gravity 40 up over a foot of radius 30: atan(30 / 40) by closed form, the polygon a little less.
    expect(read('tipping', cup).low).toBeCloseTo((Math.atan2(30, 40) * 180) / Math.PI, 1)
  })
})

describe('a tilted cup, and one filled to a level', () => {
  /** Straight: inside radius 30, 60 deep. */
  const straight = turn(
    polygon([
      [0, 0],
      [33, 0],
      [33, 63],
      [30, 63],
      [30, 3],
      [0, 3],
    ]),
  )
  const solid = solidSubject(
    {
      volume: volumeOf(straight),
      centroid: [0, 0, 30],
      bounds: { min: [-33, -33, 0], max: [33, 33, 63] },
      mesh: solidMesh(straight, FINE),
    },
    NO_SKIN,
  )
  const low = (kind: string, params: object, s = solid) => {
    const read = readWith(gaugeSpec(kind)!, s, params as Record<string, number>)
    if (typeof read === 'string') throw new Error(read)
    return read.low
  }
  it('keeps pi R^2 (H - R tan tilt) while the floor stays covered (textbook geometry)', () => {
    for (const [tilt, toward] of [
      [10, 0],
      [30, 0],
      [45, 70],
      [40, -160],
    ] as const) {
      const want = (Math.PI * 900 * (60 - 30 * Math.tan((tilt * Math.PI) / 180))) / 1000
      expect(low('tilted', { tilt, toward }) / want).toBeCloseTo(1, 3)
      expect(low('tilted', { tilt, toward }, subjectOf(straight)) / want).toBeCloseTo(1, 2)
    }
  })
  it('upright it is the capacity; a tilt out of reach is refused', () => {
    expect(low('tilted', { tilt: 0 }) / (Math.PI * 54)).toBeCloseTo(1, 3)
    expect(readWith(gaugeSpec('tilted')!, solid, { tilt: 95 })).toMatch(/between 0 and 90/)
  })
  it('filled to a share of the brim it is as deep as that share', () => {
    const read = readWith(gaugeSpec('fill')!, solid, { share: 50 })
    if (typeof read === 'string') throw new Error(read)
    expect(read.rows.find((r) => r.label === 'depth')!.text).toMatch(/^(29\.9|30\.0)\d mm$/)
    expect(read.low / (Math.PI * 27)).toBeCloseTo(1, 2)
  })
})
