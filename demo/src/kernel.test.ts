import { type Kernel, loadKernel } from '@ivory/core/kernel'
import { turnedOf } from '@ivory/core/ops'
import { rebuild } from '@ivory/core/rebuild'
import { areaOf, centroidOf, liftToSolid, spaceBounds, volumeOf } from '@ivory/core/turned'
import { beforeAll, describe, expect, it } from 'vitest'
import { demoSet } from '.'

let kernel: Kernel
beforeAll(async () => {
  kernel = await loadKernel()
})

/** An independent computation of the same bodies: the B-rep kernel, by surface quadrature. */
const turned = demoSet().filter((w) => rebuild(w).waits.length === 0)
describe.each(turned.map((w) => [w.name, w] as const))('%s in the kernel', (_, w) => {
  it('has the volume, area, centre and box of the turned body, closed and valid', () => {
    for (const body of Object.values(rebuild(w).state.bodies)) {
      const turned = turnedOf(body)
      const solid = liftToSolid(kernel, turned)
      const m = kernel.measure(solid)
      expect(m.closed && m.valid).toBe(true)
      expect(Math.abs(m.volume / volumeOf(turned) - 1)).toBeLessThan(1e-6)
      expect(Math.abs(m.area / areaOf(turned) - 1)).toBeLessThan(1e-5)
      expect(m.centroid[2]).toBeCloseTo(centroidOf(turned)[2], 4)
      const box = spaceBounds(turned)
      for (const k of [0, 1, 2] as const) {
        expect(Math.abs(m.bounds.max[k] - box.max[k])).toBeLessThan(1e-3)
        expect(Math.abs(m.bounds.min[k] - box.min[k])).toBeLessThan(1e-3)
      }
      kernel.free(solid)
    }
    expect(kernel.live).toBe(0)
  })
  it('comes back from STEP with its volume', () => {
    const [body] = Object.values(rebuild(w).state.bodies)
    const solid = liftToSolid(kernel, turnedOf(body!))
    const bytes = kernel.toStep([{ solid, name: w.name }])
    expect(new TextDecoder().decode(bytes.slice(0, 13))).toBe('ISO-10303-21;')
    const back = kernel.fromStep(bytes)
    expect(kernel.measure(back).volume / volumeOf(turnedOf(body!))).toBeCloseTo(1, 6)
    kernel.free(solid)
    kernel.free(back)
  })
  it('gives back what it took: the heap does not grow over repeated lifts', () => {
    const [body] = Object.values(rebuild(w).state.bodies)
    for (let i = 0; i < 5; i++) kernel.free(liftToSolid(kernel, turnedOf(body!)))
    expect(kernel.live).toBe(0)
  })
})

it('a broken STEP file is refused in a sentence', () => {
  expect(() => kernel.fromStep(new TextEncoder().encode('nonsense'))).toThrow(
    /not a readable STEP|no solid/,
  )
})
