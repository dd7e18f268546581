import { describe, expect, it } from 'vitest'
import { built, piece, the } from '../rebuild/exactroute.test-data'
import type { Op } from '../workpiece'
import { outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { release } from '.'

/** Two bars that lean opposite ways, cut out of a tube of radius 30, 2 thick and 40 high, all round; rings at its ends. */
const basket = (count: number, lean: number): Op[] => {
  const dx = 40 * Math.tan((lean * Math.PI) / 180)
  const bar = (number: number, id: string, way: number) =>
    outline(number, id, 'front', [
      [-2 - way * (dx / 2), 0],
      [2 - way * (dx / 2), 0],
      [2 + way * (dx / 2), 40],
      [-2 + way * (dx / 2), 40],
    ])
  const out = (number: number, id: string, profile: string, more: object) =>
    op(number, 'extrude', id, { profile, mode: 'new', side: 'along', length: 60, ...more })
  return [
    rectangle(10, 'wall', 'front', [28, 0], [2, 40]),
    op(20, 'revolve', 'tube', { profile: 'wall', mode: 'new' }),
    bar(30, 'one', 1),
    out(40, 'bars', 'one', {}),
    bar(50, 'two', -1),
    out(60, 'more', 'two', { mode: 'join', body: 'bars' }),
    op(70, 'combine', 'meet', { how: 'meet', body: 'bars', tools: ['tube'], pieces: 'one' }),
    op(80, 'pattern', 'all', { body: 'bars', how: 'round', count, result: 'triangles' }),
    rectangle(90, 'rim', 'front', [27.5, 38], [3, 4]),
    op(100, 'revolve', 'ring', { profile: 'rim', mode: 'new' }),
    op(110, 'combine', 'basket', {
      how: 'join',
      body: 'ring',
      tools: ['bars'],
      by: 'triangles',
    }),
  ]
}

describe('STEP of what was joined as triangles all round an axis', () => {
  it.each([
    [8, 15],
    [7, 25],
  ])(
    '%i pairs that lean by %i deg leave as one exact solid that measures what the triangles do',
    async (count, lean) => {
      const w = piece(basket(count, lean))
      const made = await built(w)
      const shapes = await the()
      const file = release(w, made, 'step', { shapes })
      if (!file.ok) throw new Error(file.diagnosis.message)
      expect(file.value.note).toContain(`sewn of ${count} sectors`)
      const back = shapes.kernel.fromStep(file.value.bytes)
      const m = shapes.kernel.measure(back)
      const { shape } = made.state.bodies.ring!
      if (shape.kind !== 'mesh') throw new Error('not of triangles')
      expect([m.solids, m.closed, m.valid]).toEqual([1, true, true])
      expect(m.volume / shape.measure.volume).toBeCloseTo(1, 2)
      shapes.kernel.free(back)
    },
    120_000,
  )
  it('what does not repeat is refused with its reason', async () => {
    const route = basket(8, 15).map((o) =>
      o.id === 'all' ? { ...o, inputs: { ...o.inputs, skip: '3' } } : o,
    )
    const w = piece(route)
    const file = release(w, await built(w), 'step', { shapes: await the() })
    expect(file.ok).toBe(false)
    if (!file.ok) expect(file.diagnosis.message).toMatch(/consists of triangles/)
  })
  it('a body that is not alike in every sector is found out by its triangles', async () => {
    // The ring's centre is off the axis: what its sector makes is another body.
    const route = basket(8, 15)
    const aside = op(105, 'move', 'aside', { body: 'ring', how: 'by', x: 1.5, y: 0, z: 0 })
    const w = piece([...route.slice(0, -1), aside, route.at(-1)!])
    const file = release(w, await built(w), 'step', { shapes: await the() })
    expect(file.ok).toBe(false)
    if (!file.ok)
      expect(file.diagnosis.message).toMatch(
        /not look alike in all of its 8|no sector of it closes/,
      )
  })
})
