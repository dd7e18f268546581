import { beforeAll, describe, expect, it } from 'vitest'
import { type Kernel, loadKernel, type PlanarFace, type SolidHandle } from '../kernel'
import { integrateEach, type P3 } from '../math'

let kernel: Kernel
beforeAll(async () => {
  kernel = await loadKernel()
})

/** A block by its least corner and its sides. */
const block = ([x, y, z]: P3, [a, b, c]: P3): SolidHandle => {
  const at: P3[] = [
    [x, y, z],
    [x + a, y, z],
    [x + a, y + b, z],
    [x, y + b, z],
  ]
  const loop = at.map((p, i) => ({ kind: 'line' as const, a: p, b: at[(i + 1) % 4]! }))
  return kernel.prism([loop], [0, 0, c]).shape
}
/** A post about an upright line. */
const post = ([x, y, z]: P3, r: number, h: number): SolidHandle => {
  const ring: PlanarFace = [
    [{ kind: 'circle', centre: [x, y, z], dir: [0, 0, 1], start: [x + r, y, z] }],
  ]
  return kernel.prism(ring, [0, 0, h]).shape
}
/** The same, with nothing known of any face. */
const unknown = (h: SolidHandle): SolidHandle => kernel.fromBytes(kernel.toBytes(h))

describe('what is summed up of faces goes along with those that stay', () => {
  it('through cuts, joins and cuts again, near the origin and far from it: as if each shape were new', () => {
    for (const far of [0, 7e3]) {
      let body = block([far, -far, 0], [60, 40, 20])
      let volume = 60 * 40 * 20
      kernel.measure(body)
      for (const [how, tool, change] of [
        ['cut', post([far + 15, 15 - far, -1], 5, 40), -Math.PI * 25 * 20],
        ['join', post([far + 40, 20 - far, 20], 8, 15), Math.PI * 64 * 15],
        ['cut', block([far + 38, 18 - far, -5], [4, 4, 60]), -16 * 35],
      ] as const) {
        kernel.measure(tool)
        body = kernel.boolean(how, body, [tool]).shape
        volume += change
        const known = kernel.measure(body)
        const anew = kernel.measure(unknown(body))
        expect(known.volume / volume).toBeCloseTo(1, 9)
        expect(known.volume / anew.volume).toBeCloseTo(1, 12)
        expect(known.area / anew.area).toBeCloseTo(1, 12)
        for (const k of [0, 1, 2] as const)
          expect(known.centroid[k]).toBeCloseTo(anew.centroid[k], far ? 6 : 9)
      }
    }
  })
  it('a face of a tool is turned over where it bounds what is left: a ball of air in a block', () => {
    const whole = block([0, 0, 0], [30, 30, 30])
    const inner = block([10, 10, 10], [10, 10, 10])
    for (const x of [whole, inner]) kernel.measure(x)
    const hollow = kernel.boolean('cut', whole, [inner], { apart: true }).shape
    const { volume, area, centroid } = kernel.measure(hollow)
    expect(volume).toBeCloseTo(26000, 6)
    expect(area).toBeCloseTo(6000, 6)
    for (const x of centroid) expect(x).toBeCloseTo(15, 9)
  })
})

describe('sums by Kronrod’s nodes', () => {
  it('are exact for polynomials of degree 31 and less, and not of 80 in one part', () => {
    const power = (k: number) => {
      const put = (t: number, out: Float64Array) => {
        out[0] = t ** k
      }
      return integrateEach(put, 1, -1, 1, 1e30)[0]!
    }
    for (let k = 0; k <= 31; k++) expect(power(k)).toBeCloseTo(k % 2 ? 0 : 2 / (k + 1), 13)
    expect(Math.abs(power(80) - 2 / 81)).toBeGreaterThan(1e-13)
  })
  it('what never settles comes to an end', () => {
    let asked = 0
    integrateEach(
      (t, out) => {
        asked++
        out[0] = Math.sin(1e9 * t) * 1e3
      },
      1,
      0,
      1,
      1e-12,
      new Float64Array(1),
      24,
      40,
    )
    expect(asked).toBeLessThan(21 * 200)
  })
})
