import { describe, expect, it } from 'vitest'
import { RebuildCache, readGauges } from '../rebuild'
import { base, block, built, piece, the } from '../rebuild/exactroute.test-data'
import type { Workpiece } from '../workpiece'
import { rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { release } from '.'

/** A block of 60 x 40 x 20 with a rod of 10 x 10 x 30 beside it, 5 clear. */
const foot = rectangle(30, 'foot', 'top', [65, 0], [10, 10])
const rod = op(40, 'extrude', 'rod', { profile: 'foot', mode: 'new', length: 30 })
const held = (more: ReturnType<typeof op>[] = []): Workpiece => ({
  ...piece([base, block, foot, rod, ...more]),
  bodies: { rod: { content: true } },
  gauges: [{ id: 'g', kind: 'clearance', body: 'rod', params: {} }],
})

describe('content', () => {
  it('is measured against and never released', async () => {
    const w = held()
    const made = await built(w)
    const [clear] = readGauges(w, made)
    expect(clear!.reading!.low).toBeCloseTo(5, 6)
    const file = release(w, made, 'stl', { shapes: await the() })
    if (!file.ok) throw new Error(file.diagnosis.message)
    expect(file.value.note).toContain('12 triangles')
    const alone = release(
      { ...w, bodies: { ...w.bodies, block: { content: true } } },
      made,
      'stl',
      { shapes: await the() },
    )
    expect(alone.ok).toBe(false)
  })
  it('is never cut or split; it may cut others and stays where tools are used up', async () => {
    const say = async (more: ReturnType<typeof op>) => {
      const { reports } = await built(held([more]))
      return reports.at(-1)!.diagnoses[0]?.message ?? ''
    }
    const cut = { how: 'cut', body: 'rod', tools: ['block'] }
    expect(await say(op(50, 'combine', 'cut', cut))).toContain('is content')
    expect(await say(op(50, 'split', 'cut', { body: 'rod', how: 'height', height: 5 }))).toContain(
      'is content',
    )
    const near = rectangle(30, 'foot', 'top', [55, 0], [10, 10])
    const w = held([op(50, 'combine', 'cut', { how: 'cut', body: 'block', tools: ['rod'] })])
    const made = await built({ ...w, route: w.route.map((o) => (o.id === 'foot' ? near : o)) })
    expect(Object.keys(made.state.bodies)).toEqual(['block', 'rod'])
    expect(made.state.bodies.block!.shape).toMatchObject({
      measure: { volume: expect.closeTo(47000, 6) },
    })
  })
  it('what an op made with it is made anew when it becomes content, or is none any more', async () => {
    const cache = new RebuildCache()
    const w = held([op(50, 'combine', 'cut', { how: 'cut', body: 'block', tools: ['rod'] })])
    expect(Object.keys((await built(w, cache)).state.bodies)).toEqual(['block', 'rod'])
    expect(Object.keys((await built({ ...w, bodies: {} }, cache)).state.bodies)).toEqual(['block'])
  })
})
