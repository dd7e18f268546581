import * as fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { bridged } from './bridged'
import type { TriMesh } from './types'

/** A level ground with a V of that width and depth along y, mm: stations along it, so that corners lie far from its ends. */
function valley(wide: number, deep: number): TriMesh {
  const xs = [-60, -30, -wide / 2, 0, wide / 2, 30, 60]
  const [positions, triangles]: number[][] = [[], []]
  const stations = 25
  for (let j = 0; j < stations; j++)
    for (const x of xs) positions!.push(x, 5 * (j - 12), x === 0 ? -deep : 0)
  for (let j = 0; j + 1 < stations; j++)
    for (let i = 0; i + 1 < xs.length; i++) {
      const a = j * xs.length + i
      const b = a + xs.length
      triangles!.push(a, a + 1, b, a + 1, b + 1, b)
    }
  return { positions: Float64Array.from(positions!), triangles: Uint32Array.from(triangles!) }
}

describe('a mesh as a ball feels it that rolls on it', () => {
  test('property: over a valley it rests on both rims, or on both flanks (closed forms)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 12, noNaN: true }),
        fc.double({ min: 0.3, max: 8, noNaN: true }),
        fc.double({ min: 0.6, max: 4, noNaN: true }),
        (wide, deep, times) => {
          const r = times * wide
          const made = bridged(valley(wide, deep), r)
          const flank = Math.atan2(2 * deep, wide)
          const onFlanks = r * Math.sin(flank) <= wide / 2
          const right = onFlanks
            ? r / Math.cos(flank) - r
            : deep - (r - Math.sqrt(r * r - wide ** 2 / 4))
          const { positions } = made.mesh
          // The corner in the middle of the valley's line: it is the only one at y = 0 that was below.
          const k = made.depth.findIndex(
            (d, v) =>
              d > 0 && Math.abs(positions[3 * v + 1]!) < 0.3 && positions[3 * v + 2]! < 0.01,
          )
          const read = k < 0 ? 0 : made.depth[k]!
          expect(Math.abs(read - right)).toBeLessThan(0.02 * right + 3e-3 * r)
        },
      ),
      { numRuns: 25 },
    )
  })
  test('what has no hollow narrower than the ball stays as it is', () => {
    const { mesh, depth } = bridged(valley(12, 1), 5)
    expect(depth.every((d) => d < 0.2)).toBe(true)
    const plain = valley(12, 0)
    expect(bridged(plain, 50).depth.every((d) => d === 0)).toBe(true)
    expect(mesh.triangles.length).toBe(plain.triangles.length)
  })
})
