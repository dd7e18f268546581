import { describe, expect, it } from 'vitest'
import { readDraft, type Skin } from '..'
import { grid } from '../skin.test-data'

const cone = (lean: number, height: number): Skin => {
  const [s, c] = [Math.sin(lean), Math.cos(lean)]
  const r = (v: number) => 20 - height * v * Math.tan(lean)
  return grid(
    90,
    1,
    (u, v) => [r(v) * Math.cos(2 * Math.PI * u), r(v) * Math.sin(2 * Math.PI * u), height * v],
    (u) => [c * Math.cos(2 * Math.PI * u), c * Math.sin(2 * Math.PI * u), s],
  )
}

describe('draft', () => {
  it('of a ring that is pulled along its axis: 4 π r R δ lean by less than δ outside, and as much inside', () => {
    // Torus R 40, r 12: near its widest and its narrowest circle. Closed form: the strip is 2 r δ wide, 2 π (R ± r sin δ/δ) long.
    const [R, r] = [40, 12]
    const ring = grid(
      200,
      200,
      (u, v) => {
        const [a, b] = [2 * Math.PI * u, 2 * Math.PI * v]
        const d = R + r * Math.cos(a)
        return [d * Math.cos(b), d * Math.sin(b), r * Math.sin(a)]
      },
      (u, v) => {
        const [a, b] = [2 * Math.PI * u, 2 * Math.PI * v]
        return [Math.cos(a) * Math.cos(b), Math.cos(a) * Math.sin(b), Math.sin(a)]
      },
    )
    const read = readDraft(ring, { along: [0, 0, 1] }, 5)
    const delta = (5 * Math.PI) / 180
    expect(read.under / (2 * 4 * Math.PI * r * R * delta)).toBeCloseTo(1, 3)
    expect(read.least).toBeCloseTo(0, 5)
    expect(read.caught).toBe(0)
  })
  it('of a cone: its lean, and all of it under a limit beyond', () => {
    const skin = cone((3 * Math.PI) / 180, 30)
    const read = readDraft(skin, { along: [0, 0, 1] }, 2)
    expect([read.least, read.under]).toEqual([expect.closeTo(3, 4), 0])
    const side =
      Math.PI *
      (20 + 20 - 30 * Math.tan((3 * Math.PI) / 180)) *
      (30 / Math.cos((3 * Math.PI) / 180))
    expect(readDraft(skin, { along: [0, 0, 1] }, 4).under / side).toBeCloseTo(1, 2)
  })
  it('tells what is caught: a plate under a wider one', () => {
    // Two level squares that look up, one over the other, the upper half as wide.
    const plate = (z: number, w: number) =>
      grid(
        8,
        8,
        (u, v) => [w * (u - 0.5), 40 * (v - 0.5), z],
        () => [0, 0, 1],
      )
    const [low, high] = [plate(0, 40), plate(10, 20)]
    const n = low.positions.length / 3
    const both: Skin = {
      positions: Float32Array.from([...low.positions, ...high.positions]),
      normals: Float32Array.from([...low.normals, ...high.normals]),
      triangles: Uint32Array.from([...low.triangles, ...Array.from(high.triangles, (t) => t + n)]),
    }
    const read = readDraft(both, { along: [0, 0, 1] }, 1)
    expect(read.caught).toBeCloseTo(20 * 40, 3)
    expect(read.under).toBe(0)
  })

  const ball = grid(
    240,
    120,
    (u, v) => [
      10 * Math.sin(Math.PI * v) * Math.cos(2 * Math.PI * u),
      10 * Math.sin(Math.PI * v) * Math.sin(2 * Math.PI * u),
      10 * Math.cos(Math.PI * v),
    ],
    (u, v) => [
      Math.sin(Math.PI * v) * Math.cos(2 * Math.PI * u),
      Math.sin(Math.PI * v) * Math.sin(2 * Math.PI * u),
      Math.cos(Math.PI * v),
    ],
  )
  it('of a ball parted off its middle: the zone between leans back, 2 π R h (Archimedes), and cannot be pulled', () => {
    const read = readDraft(ball, { along: [0, 0, 1], parts: 3 }, 1)
    expect(read.back / (2 * Math.PI * 10 * 3)).toBeCloseTo(1, 3)
    expect(read.least).toBeCloseTo((-Math.asin(0.3) * 180) / Math.PI, 1)
    expect(read.under / (2 * Math.PI * 10 * (3 + 10 * Math.sin(Math.PI / 180)))).toBeCloseTo(1, 2)
    expect(read.caught / (2 * Math.PI * 10 * 3)).toBeCloseTo(1, 1)
    // Where it has to part is where it turns over.
    expect(read.turns![0]).toBeCloseTo(0, 5)
    expect(read.turns![1]).toBeCloseTo(0, 5)
    expect(readDraft(ball, { along: [0, 0, 1], parts: 0 }, 1).back).toBeLessThan(1e-3)
  })
  it('with a second pull only what leans against both is under: two spots of the ball, caps of its sides', () => {
    // Under 60 deg against z and x both: all but four caps of 30 deg about the axes, 2 π R² (1 - cos 30°) each (Archimedes).
    const read = readDraft(ball, { along: [0, 0, 1], second: [1, 0, 0] }, 60)
    const cap = 2 * Math.PI * 100 * (1 - Math.cos(Math.PI / 6))
    expect(read.under / (4 * Math.PI * 100 - 4 * cap)).toBeCloseTo(1, 3)
    expect(read.caught).toBe(0)
  })
})
