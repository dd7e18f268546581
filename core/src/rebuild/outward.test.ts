import { describe, expect, it } from 'vitest'
import { inMaterial, noHit, treeOf } from '../mesh'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { exact } from './exactroute.test-data'

/** A loft from a rectangle to a circle: its four corners fade out towards the circle, where the kernel makes no wall that is open. */
const fading: Op[] = [
  rectangle(10, 'a', 'top', [0, 0], [40, 30]),
  op(20, 'plane', 'high', { how: 'offset', from: 'top', offset: 40 }),
  circles(30, 'b', 'high', [[20, 15, 18]]),
  op(90, 'loft', 'body', { sections: [{ profile: 'a' }, { profile: 'b' }], mode: 'new' }),
]
const sides = [1, 2, 3, 4].map((k) => ({ face: `body:side${k}` }))

/** mm3 between two heights that lie within `far` mm of the body outside it, counted on a grid. */
async function around(far: number, low: number, high: number, step: number): Promise<number> {
  const { mesh } = await exact(fading, 'body')
  const [tree, hit] = [treeOf(mesh), noHit()]
  let count = 0
  for (let x = -far - step / 3; x < 40 + far; x += step)
    for (let y = -9 - far; y < 33 + far + 6; y += step)
      for (let z = low + step / 2; z < high; z += step)
        if (tree.nearest(x, y, z, far, -1, hit) && !inMaterial(mesh, tree, x, y, z)) count++
  return count * step ** 3
}

describe('walls outside a loft whose corners fade out', () => {
  it('open at its ends: all within the wall of it, between their planes (counted on a grid)', async () => {
    const open = [{ face: 'body:start' }, { face: 'body:end' }]
    const shelled = await exact(
      [...fading, op(100, 'shell', 'thin', { body: 'body', wall: 2, open, side: 'out' })],
      'body',
    )
    const right = await around(2, 0, 40, 0.5)
    expect(Math.abs(shelled.measure.volume / right - 1)).toBeLessThan(0.01)
    expect([shelled.measure.closed, shelled.measure.valid]).toEqual([true, true])
  })
  it('a cover over its sides, and one in the place of their outermost layer', async () => {
    const cover = async (side: string, wall: number, gap = 0) =>
      exact(
        [...fading, op(100, 'cover', 'skin', { body: 'body', faces: sides, wall, gap, side })],
        'skin',
      )
    const over = await cover('out', 1.5)
    expect(Math.abs(over.measure.volume / (await around(1.5, 0, 40, 0.4)) - 1)).toBeLessThan(0.01)
    // What lies under is what a hollow through both ends leaves.
    const under = await cover('in', 1.5)
    const open = [{ face: 'body:start' }, { face: 'body:end' }]
    const hollow = await exact(
      [...fading, op(100, 'shell', 'thin', { body: 'body', wall: 1.5, open })],
      'body',
    )
    expect(under.measure.volume).toBeCloseTo(hollow.measure.volume, 6)
  })
})
