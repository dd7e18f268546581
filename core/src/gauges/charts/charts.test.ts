import { describe, expect, it } from 'vitest'
import { wallField } from '../../mesh'
import { basisOf } from '../../surface'
import { solidMesh } from '../../turned'
import { polygon, turn } from '../../turned/samples.test-data'
import { bendingOf, fillCurve, heightFor, sectionCurve, sectionsAlong, wallHistogram } from '.'

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
    const h = wallHistogram(wallField(mesh(cup))!)
    expect(h.share.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6)
    const three = h.from.findIndex((f, i) => f <= 3.02 && h.to[i]! >= 2.98 && h.share[i]! > 0.3)
    expect(three).toBeGreaterThanOrEqual(0)
  })
})

describe('along a path', () => {
  const line = { kind: 'line' as const, a: [0, 0, -5] as const, b: [0, 0, 70] as const }
  const arc = {
    kind: 'arc' as const,
    centre: [0, 25, 70] as const,
    x: [0, -1, 0] as const,
    y: [0, 0, 1] as const,
    radius: 25,
    sweep: Math.PI / 2,
  }
  it('a line and an arc: nothing, then 1/r all along', () => {
    const b = bendingOf([line, arc])
    expect(b.at.at(-1)).toBeCloseTo(75 + 12.5 * Math.PI, 9)
    for (const [i, k] of b.bend.entries()) {
      expect(Math.min(Math.abs(k), Math.abs(k - 0.04))).toBeLessThan(1e-12)
      expect(b.change[i]).toBeCloseTo(0, 9)
    }
  })
  it('a clothoid-like spline: its change is that of its curvature over its length', () => {
    const poles = [
      [0, 0, 0],
      [10, 0, 0],
      [20, 0, 0],
      [30, 2, 0],
      [38, 8, 0],
      [42, 18, 0],
    ] as const
    const b = bendingOf([{ kind: 'spline', basis: basisOf(5), poles }])
    for (let i = 10; i < 90; i += 10) {
      const by = (b.bend[i + 1]! - b.bend[i - 1]!) / (b.at[i + 1]! - b.at[i - 1]!)
      expect(b.change[i]).toBeCloseTo(by, 4)
    }
  })
  it('sections of a tube square to its axis: rings; of the turn a path goes through only', () => {
    const s = sectionsAlong(mesh(cup), [line])
    // Before the floor there is nothing.
    expect(s.at[0]).toBeGreaterThan(5)
    const wall = s.at.findIndex((x) => x > 40)
    expect(s.area[wall]! / (Math.PI * (33 ** 2 - 30 ** 2))).toBeCloseTo(1, 3)
    expect(s.long[wall]).toBeCloseTo(66, 1)
    expect(s.short[wall]).toBeCloseTo(66, 1)
    const floor = s.at.findIndex((x) => x > 6)
    expect(s.area[floor]! / (Math.PI * 33 ** 2)).toBeCloseTo(1, 3)
    // Across, beside the middle: two walls are cut, the path goes through one.
    const across = { kind: 'line' as const, a: [31.5, 0, 20] as const, b: [31.5, 0, 50] as const }
    const [first] = sectionsAlong(mesh(cup), [across]).area
    expect(first! / (Math.PI * (33 ** 2 - 30 ** 2))).toBeCloseTo(1, 3)
  })
})
