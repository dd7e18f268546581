import { describe, expect, it } from 'vitest'
import { solidMesh } from '../../turned'
import { polygon, turn } from '../../turned/samples.test-data'
import { fillCurve, heightFor, sectionCurve, wallHistogram } from '.'

/** A straight cup: inside radius 30, 60 deep, walls and floor 3. */
const cup = turn(
  polygon([
    [0, 0],
    [33, 0],
    [33, 63],
    [30, 63],
    [30, 3],
    [0, 3],
  ]),
)
/** A cone that opens upward, held in a block: its volume grows with the cube of the level. */
const funnel = turn(
  polygon([
    [0, 0],
    [45, 0],
    [45, 60],
    [40, 60],
    [0, 5],
  ]),
)
const mesh = (b: typeof cup) => solidMesh(b, { chord: 0.01, angle: 0.05 })

describe('what it holds by level', () => {
  it('of a cylinder and of a cone, by half-section and by slices (closed forms)', () => {
    const a = fillCurve({ turned: cup })!
    expect(a.floor).toBeCloseTo(3, 9)
    for (const ml of [20, 90, 160])
      expect(heightFor(a, ml)).toBeCloseTo((ml * 1000) / (Math.PI * 900), 6)
    const b = fillCurve({ mesh: mesh(cup) })!
    expect(heightFor(b, 100)! / ((100 * 1000) / (Math.PI * 900))).toBeCloseTo(1, 3)
    const cone = fillCurve({ turned: funnel })!
    const volume = (h: number) => (Math.PI / 3) * (40 / 55) ** 2 * h ** 3
    for (const h of [11, 33, 55]) {
      const i = cone.heights.findIndex((x) => Math.abs(x - h) < 1e-9)
      expect(cone.volumes[i]! * 1000).toBeCloseTo(volume(h), 4)
    }
    const sliced = fillCurve({ mesh: mesh(funnel) })!
    expect((sliced.volumes.at(-1)! * 1000) / volume(55)).toBeCloseTo(1, 2)
  })
  it('is nothing where nothing stays; beyond the brim there is no height', () => {
    const rod = turn(
      polygon([
        [0, 0],
        [5, 0],
        [5, 9],
        [0, 9],
      ]),
    )
    expect(fillCurve({ turned: rod })).toBeNull()
    expect(fillCurve({ mesh: mesh(rod) })).toBeNull()
    expect(heightFor(fillCurve({ turned: cup })!, 1e6)).toBeNull()
  })
})

describe('sections along an axis', () => {
  it('of a ball: pi (R² - z²), and the whole mass at the end', () => {
    const half = Array.from({ length: 181 }, (_, i) => {
      const a = -Math.PI / 2 + (Math.PI * i) / 180
      return [20 * Math.cos(a), 20 * Math.sin(a)] as [number, number]
    })
    const ball = mesh(turn(polygon([...half.slice(0, 180), [0, 20]])))
    for (const along of ['x', 'y', 'z'] as const) {
      const c = sectionCurve(ball, along, 1.2)
      const i = 90
      expect(c.area[i]! / (Math.PI * (400 - c.at[i]! ** 2))).toBeCloseTo(1, 2)
      expect(c.mass!.at(-1)! / ((4 / 3) * Math.PI * 8 * 1.2)).toBeCloseTo(1, 2)
    }
    expect(sectionCurve(ball, 'z', undefined).mass).toBeNull()
  })
})

describe('walls in bands', () => {
  it('of a cup: nearly all of it 3 mm, the shares make up the whole', () => {
    const h = wallHistogram(mesh(cup))!
    expect(h.share.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6)
    const three = h.from.findIndex((f, i) => f <= 3.02 && h.to[i]! >= 2.98 && h.share[i]! > 0.3)
    expect(three).toBeGreaterThanOrEqual(0)
  })
})
