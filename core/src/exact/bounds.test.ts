import { beforeAll, describe, expect, it } from 'vitest'
import { type Kernel, loadKernel, type SplineFace } from '../kernel'
import type { P3 } from '../math'
import { evenBasis, fitted, type Patch, placeByPlace, rowAt } from '../surface'

let kernel: Kernel
beforeAll(async () => {
  kernel = await loadKernel()
})
const numbers = ({ u, v, poles }: Patch): SplineFace => ({
  u: { degree: u.degree, knots: [...u.knots] },
  v: { degree: v.degree, knots: [...v.knots] },
  poles: [...poles],
})
/** A tube about z whose radius and middle change with the height, 0 to 1. */
const tube = (
  radius: (v: number) => number,
  middle: (v: number) => [number, number],
  height: number,
) => {
  const place = (u: number, v: number): P3 => {
    const a = 2 * Math.PI * u
    const [x, y] = middle(v)
    return [x + radius(v) * Math.cos(a), y + radius(v) * Math.sin(a), height * v]
  }
  const { patch } = fitted(evenBasis(5, 12), evenBasis(5, 10), placeByPlace(place), 1e-6)
  const cap = (last: boolean) => [
    [
      {
        kind: 'spline' as const,
        degree: patch.u.degree,
        knots: [...patch.u.knots],
        poles: rowAt(patch, last),
      },
    ],
  ]
  return kernel.quilt([numbers(patch)], [cap(false), cap(true)]).shape
}

describe('the box about free faces', () => {
  it('of a bulge off the axis: between nodes of its triangles, to 1e-5', () => {
    const shape = tube(
      (v) => 20 + 5 * Math.sin(Math.PI * v),
      (v) => [4 * v, -3 * v],
      80,
    )
    const { bounds } = kernel.measure(shape)
    // The farthest in x: 4 v + 20 + 5 sin(pi v), where its slope is 0.
    const most = (k: number) => {
      let best = 0
      for (let i = 0; i <= 200000; i++) {
        const v = i / 200000
        best = Math.max(best, k * v + 20 + 5 * Math.sin(Math.PI * v))
      }
      return best
    }
    expect(bounds.max[0]).toBeCloseTo(most(4), 4)
    expect(bounds.min[0]).toBeCloseTo(-most(-4), 4)
    expect(bounds.min[1]).toBeCloseTo(-most(3), 4)
    expect([bounds.min[2], bounds.max[2]]).toEqual([expect.closeTo(0, 6), expect.closeTo(80, 6)])
    kernel.free(shape)
  })
  it('where the farthest place lies on the rim of a face', () => {
    const shape = tube(
      (v) => 12 + 8 * v,
      () => [0, 0],
      30,
    )
    const { bounds } = kernel.measure(shape)
    expect(bounds.max[0]).toBeCloseTo(20, 4)
    expect(bounds.min[1]).toBeCloseTo(-20, 4)
    kernel.free(shape)
  })
})
