import { describe, expect, it } from 'vitest'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { exact, gauged, the } from './exactroute.test-data'

const pot = [
  op(5, 'plane', 'up', { how: 'offset', from: 'top', offset: 71.3 }),
  circles(10, 'rim', 'up', [[0, 0, 38.7]]),
  circles(20, 'foot', 'top', [[0, 0, 27.1]]),
  op(30, 'loft', 'pot', {
    sections: [{ profile: 'rim' }, { profile: 'foot' }],
    run: 'ruled',
    mode: 'new',
  }),
  op(40, 'shell', 'hollow', { body: 'pot', wall: 2.3, open: [{ face: 'pot:start' }], side: 'in' }),
]

describe('triangles of free faces', () => {
  it('that leave lie within the chord that was asked, edges and middles too (a cone of two skins, closed form)', async () => {
    const part = await exact(pot, 'pot')
    const store = await the()
    // Of the kernel's own, 0.3 mm off where 0.05 is asked.
    for (const chord of [0.05, 0.02]) {
      const made = store.triangles(part.key, chord, 0.2)
      if (!made.ok) throw new Error(made.diagnosis.message)
      const { positions: p, triangles: t } = made.value
      const slope = 11.6 / 71.3
      const inner = 2.3 * Math.hypot(1, slope)
      let worst = 0
      for (let i = 0; i < t.length; i += 3) {
        const corner = [0, 1, 2].map((k) => [0, 1, 2].map((c) => p[3 * t[i + k]! + c]!))
        const off = (at: number[]) => {
          const r = Math.hypot(at[0]!, at[1]!) - 27.1 - slope * at[2]!
          return Math.min(Math.abs(r), Math.abs(r + inner)) / Math.hypot(1, slope)
        }
        // Flat faces are no matter here: their corners alone lie on the skins.
        const flat = [0, 2.3, 71.3].some((z) => corner.every((c) => Math.abs(c[2]! - z) < 1e-4))
        if (flat) continue
        for (let k = 0; k < 3; k++)
          worst = Math.max(
            worst,
            off([0, 1, 2].map((c) => (corner[k]![c]! + corner[(k + 1) % 3]![c]!) / 2)),
          )
        worst = Math.max(
          worst,
          off([0, 1, 2].map((c) => corner.reduce((s, q) => s + q[c]! / 3, 0))),
        )
      }
      expect(worst).toBeLessThan(1.5 * chord)
    }
  })
  it('do not make its wall thicker or thinner: 2.3 all over, by balls in the true surfaces', async () => {
    const [wall] = await gauged(pot, [{ kind: 'wall', body: 'pot' }])
    expect(wall!.reading!.low).toBeCloseTo(2.3, 3)
    expect(wall!.reading!.high).toBeLessThan(2.31)
  })
})
