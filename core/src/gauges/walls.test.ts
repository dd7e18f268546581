import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { line } from '../curve'
import type { P2, P3 } from '../math'
import { gapField, MeshTree, noHit, type TriMesh, wallField } from '../mesh'
import { enclosed } from '../profile'
import { solidMesh } from '../turned'
import { UPRIGHT_FRAME } from '../turned/samples.test-data'

const turned = (points: P2[], chord = 0.02): TriMesh => {
  const regions = enclosed(
    points.map((a, i) => ({
      curve: line(a, points[(i + 1) % points.length]!),
      name: `s${i}`,
    })),
  )
  const body = { frame: UPRIGHT_FRAME, start: 0, sweep: 2 * Math.PI, regions }
  return solidMesh(body, { chord, angle: 0.1 }) as TriMesh
}

describe('the wall of a mesh', () => {
  it('of a cup is that of its side, floor and the step between, within the mesh’s own chord', () => {
    const cup = turned([
      [0, 0],
      [30, 0],
      [30, 60],
      [28, 60],
      [28, 3],
      [0, 3],
    ])
    const field = wallField(cup)!
    expect(field.min.wall).toBeGreaterThan(1.97)
    expect(field.min.wall).toBeLessThan(2.01)
    // The largest ball lies in the corner between side and floor or stands in the floor.
    expect(field.max.wall).toBeGreaterThan(2.98)
    expect(field.max.wall).toBeLessThan(3.3)
    expect(Math.hypot(field.min.at[0], field.min.at[1])).toBeGreaterThan(27.9)
  })
  it('finds the thinnest place of a wall that grows thinner', () => {
    const cone = turned([
      [10, 0],
      [20, 0],
      [20, 40],
      [18.5, 40],
    ])
    const field = wallField(cone)!
    // At the upper end it is 1.5 level; square to the sloping side a little less, and balls of the rim do not count.
    expect(field.min.at[2]).toBeGreaterThan(37)
    expect(field.min.wall).toBeGreaterThan(1.4)
    expect(field.min.wall).toBeLessThan(1.75)
  })
  it('of a full bar is its least thickness; none of a wedge’s tip', () => {
    const p = (x: number, y: number, z: number): number[] => [x, y, z]
    const positions = Float64Array.from(
      [0, 50].flatMap((x) => [...p(x, 0, 0), ...p(x, 10, 0), ...p(x, 10, 4), ...p(x, 0, 4)]),
    )
    const quad = (a: number, b: number, c: number, d: number) => [a, b, c, a, c, d]
    const triangles = Uint32Array.from([
      ...quad(0, 3, 2, 1),
      ...quad(4, 5, 6, 7),
      ...quad(0, 1, 5, 4),
      ...quad(1, 2, 6, 5),
      ...quad(2, 3, 7, 6),
      ...quad(3, 0, 4, 7),
    ])
    const field = wallField({ positions, triangles })!
    expect(field.min.wall).toBeCloseTo(4, 4)
    expect(field.max.wall).toBeCloseTo(4, 4)
    expect(field.mean).toBeCloseTo(4, 4)
  })
})

describe('sharp edges of a mesh', () => {
  const wedge = (height: number, width: number, rim: number) =>
    turned([
      [40, 0],
      [40 + width, 0],
      [40 + rim, height],
      [40, height],
    ])
  it('property: a ring sharpened to an edge has no wall there; one with a rim has that of its rim', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 4, max: 12, noNaN: true }),
        // Thinner ones are as thin as the triangles are off.
        fc.double({ min: 0.12, max: 0.4, noNaN: true }),
        fc.double({ min: 0.3, max: 0.9, noNaN: true }),
        (height, lean, rim) => {
          const width = lean * height
          const sharp = turned([
            [40, 0],
            [40 + width, 0],
            [40, height],
          ])
          // Of what is left of it all is held by the edge.
          expect(wallField(sharp)?.min.wall ?? width).toBeGreaterThan(width / 3)
          if (width < 2 * rim) return
          const blunt = wallField(wedge(height, width, rim))!
          // The first ball that does not touch the rim itself lies a little below it, where the wall is thicker.
          expect(blunt.min.wall).toBeGreaterThan(rim - 0.03)
          expect(blunt.min.wall).toBeLessThan(rim * (1 + 1.5 * lean) + 0.03)
        },
      ),
      { numRuns: 12 },
    )
  })
  it('a groove that runs to a point is no gap at its root', () => {
    const grooved = turned([
      [20, 0],
      [40, 0],
      [40, 18],
      [30, 20],
      [40, 22],
      [40, 40],
      [20, 40],
    ])
    expect(gapField(grooved)?.min.wall ?? 4).toBeGreaterThan(1)
    expect(wallField(grooved)!.min.wall).toBeGreaterThan(9.9)
  })
})

describe('the tree', () => {
  const ball = turned(
    Array.from({ length: 25 }, (_, i): P2 => {
      const a = (Math.PI * i) / 24 - Math.PI / 2
      return [Math.max(0, 20 * Math.cos(a)), 20 * Math.sin(a)]
    }),
  )
  const tree = new MeshTree(ball)
  const brute = (p: P3): number => {
    // One triangle a tree: the same formula, without the search.
    let least = Number.POSITIVE_INFINITY
    for (let t = 0; t < ball.triangles.length; t += 3) {
      const one = new MeshTree({
        positions: ball.positions,
        triangles: ball.triangles.slice(t, t + 3),
      })
      const hit = noHit()
      if (one.nearest(...p, least, -1, hit)) least = hit.d
    }
    return least
  }
  const spot = fc.tuple(
    fc.double({ min: -40, max: 40, noNaN: true }),
    fc.double({ min: -40, max: 40, noNaN: true }),
    fc.double({ min: -40, max: 40, noNaN: true }),
  )
  it('finds the nearest place that asking every triangle finds', () => {
    fc.assert(
      fc.property(spot, (p) => {
        const hit = noHit()
        expect(tree.nearest(...p, 1e3, -1, hit)).toBe(true)
        expect(hit.d).toBeCloseTo(brute(p), 9)
        // The facets lie between the ball of 20 and that of its chords.
        expect(Math.abs(Math.hypot(...p) - 20)).toBeLessThan(hit.d + 0.3)
      }),
      { numRuns: 15 },
    )
  })
  it('rays meet it where they enter, and not beyond what was asked', () => {
    const hit = noHit()
    expect(tree.along(-50, 1, 2, 1, 0, 0, 0, 1e3, hit)).toBe(true)
    expect(hit.d).toBeCloseTo(50 - Math.sqrt(400 - 5), 0)
    expect(tree.along(-50, 1, 2, 1, 0, 0, 0, 20, hit)).toBe(false)
    expect(tree.along(-50, 30, 2, 1, 0, 0, 0, 1e3, hit)).toBe(false)
  })
  it('tells the gap to another mesh, with its places; 0 where they cross', () => {
    const moved = (x: number, y: number): MeshTree =>
      new MeshTree({
        positions: ball.positions.map((v, i) => v + (i % 3 === 0 ? x : i % 3 === 1 ? y : 0)),
        triangles: ball.triangles,
      })
    const away = tree.gap(moved(45, 30), 1e3)!
    expect(away.d).toBeGreaterThan(Math.hypot(45, 30) - 40)
    expect(away.d).toBeLessThan(Math.hypot(45, 30) - 40 + 0.3)
    expect(
      Math.hypot(away.at.x - away.to.x, away.at.y - away.to.y, away.at.z - away.to.z),
    ).toBeCloseTo(away.d, 9)
    expect(tree.gap(moved(25, 3), 1e3)!.d).toBe(0)
    expect(tree.gap(moved(100, 0), 10)).toBeNull()
  })
})
