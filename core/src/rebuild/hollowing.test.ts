import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { basinOf } from '../mesh'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, bodiesOf, diagnosis, exact, face } from './exactroute.test-data'

const shell = (more: object) =>
  op(50, 'shell', 'hollow', { body: 'block', wall: 3, open: [], by: 'triangles', ...more })
const made = async (route: Parameters<typeof bodiesOf>[0], id = 'block') =>
  (await bodiesOf(route))[id]!.shape as ExactPart

describe('hollowed as triangles', () => {
  it('a block closed all round, and open above (closed forms)', async () => {
    const closed = await made([base, block, shell({})])
    expect(closed.kind).toBe('mesh')
    expect(closed.measure.closed).toBe(true)
    // A hair thicker than asked, never thinner; the hollow's edges are cut across by up to a cell.
    const want = 48000 - 54 * 34 * 14
    expect(closed.measure.volume / want).toBeGreaterThan(1)
    expect(closed.measure.volume / want).toBeLessThan(1.02)
    const p = await exact([base, block], 'block')
    const open = await made([base, block, shell({ open: [face(p, 'block:end')] })])
    const cup = 48000 - 54 * 34 * 17
    expect(open.measure.volume / cup).toBeGreaterThan(1)
    expect(open.measure.volume / cup).toBeLessThan(1.02)
    expect(open.faces.some((f) => f.names.includes('hollow:wall(block:side1)'))).toBe(true)
    expect(open.faces.some((f) => f.names.includes('block:end'))).toBe(true)
  })
  it('a body the surfaces cannot hollow, by the fix that the failure offers', async () => {
    // A star of thin spikes: its walls meet at 14 deg and the kernel finds no skin behind them.
    const star = outline(
      10,
      'flat',
      'top',
      Array.from({ length: 14 }, (_, i) => {
        const r = i % 2 === 0 ? 40 : 16
        return [r * Math.cos((Math.PI * i) / 7), r * Math.sin((Math.PI * i) / 7)] as [
          number,
          number,
        ]
      }),
    )
    const route = [
      star,
      block,
      op(40, 'chamfer', 'soft', {
        body: 'block',
        edges: [],
        round: [{ face: 'block:end' }],
        distance: 1.2,
      }),
    ]
    const bySurfaces = [
      ...route,
      shell({ by: 'surfaces', wall: 2.5, open: [{ face: 'block:start' }] }),
    ]
    const d = await diagnosis(bySurfaces)
    expect(d.code).toBe('no-shell')
    const fix = d.fixes.find((f) => f.label === 'Hollow it as triangles')
    expect(fix!.inputs).toEqual({ by: 'triangles' })
    const p = await made([...route, shell({ wall: 2.5, open: [{ face: 'block:start' }] })])
    expect(p.measure.closed).toBe(true)
    expect(p.measure.solids).toBe(1)
    const whole = await exact(route, 'block')
    expect(p.measure.volume).toBeLessThan(whole.measure.volume)
  })
  it('one that leans and is open below holds nothing, and its hollow is not closed', async () => {
    const lean = { ...block, inputs: { ...block.inputs, draft: 4 } }
    const p = await made([base, lean, shell({ wall: 2.2, open: [{ face: 'block:start' }] })])
    expect(basinOf(p.mesh)).toBeNull()
  })
  it('a turned body too: a sphere within a sphere', async () => {
    const route = [
      circles(10, 'flat', 'front', [[0, 0, 25]]),
      op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 50, side: 'alike' }),
    ]
    const { measure } = await made([...route, shell({ wall: 4 })])
    const want = Math.PI * (25 ** 2 * 50 - 21 ** 2 * 42)
    expect(measure.volume / want).toBeGreaterThan(0.999)
    expect(measure.volume / want).toBeLessThan(1.02)
  })
  it('refuses outward, a wall that leaves nothing, and one too fine for the size', async () => {
    expect((await diagnosis([base, block, shell({ side: 'out' })])).code).toBe('inward-only')
    const thick = await diagnosis([base, block, shell({ wall: 11 })])
    expect(thick.code).toBe('no-cavity')
    expect(thick.places[0]!.at[2]).toBeGreaterThan(5)
    expect((await diagnosis([base, block, shell({ wall: 0.2 })])).code).toBe('too-fine')
  })
})
