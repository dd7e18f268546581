import { expect, it } from 'vitest'
import { bad } from '../math'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { inPlace, RebuildCache, rebuild, rebuildWith, STOPPED } from '.'
import { base, block, piece, the } from './exactroute.test-data'

it('an op waits for a body that an earlier one has still to work on: no work is done twice', async () => {
  const hole = circles(30, 'hole', 'top', [[30, 20, 8]])
  const w = piece([
    base,
    block,
    hole,
    op(40, 'extrude', 'less', { profile: 'hole', mode: 'cut', body: 'block', to: 'through' }),
    op(50, 'mirror', 'twin', { body: 'block', plane: 'side', keep: 'joined' }),
    op(60, 'move', 'half', { body: 'block', how: 'scale', factor: 0.5 }),
  ])
  const run = inPlace(w, the)
  const verbs: string[] = []
  const made = await rebuildWith(w, (job, recipes) => {
    verbs.push(job.verb)
    return run(job, recipes)
  })
  expect(made.reports.map((r) => r.status)).toEqual(w.route.map(() => 'ok'))
  // Two prisms, the cut, the mirrored body and its join, the scaled one: each once.
  expect(verbs.sort()).toEqual(['combine', 'combine', 'move', 'move', 'prism', 'prism'])
})

it('a job that was stopped fails its op until it is tried again; nothing else is done twice', async () => {
  const w = piece([
    base,
    block,
    op(30, 'move', 'half', { body: 'block', how: 'scale', factor: 0.5 }),
  ])
  const cache = new RebuildCache()
  const run = inPlace(w, the)
  const verbs: string[] = []
  const stopping = await rebuildWith(
    w,
    (job, recipes) =>
      job.verb === 'move'
        ? Promise.resolve(bad(STOPPED, 'The exact kernel did not come to an end.'))
        : run(job, recipes),
    cache,
  )
  expect(stopping.reports.map((r) => r.status)).toEqual(['ok', 'ok', 'fail'])
  const asked = (doc = w) =>
    rebuildWith(
      doc,
      (job, recipes) => {
        verbs.push(job.verb)
        return run(job, recipes)
      },
      cache,
    )
  // By itself it stays as it is.
  expect((await asked()).reports[2]!.status).toBe('fail')
  expect(verbs).toEqual([])
  cache.retry()
  expect((await asked()).reports.map((r) => r.status)).toEqual(['ok', 'ok', 'ok'])
  expect(verbs).toEqual(['move'])
})

it('what another workpiece made is not shown while the kernel is at work, though its ops bear the same ids', async () => {
  const cache = new RebuildCache()
  const first = piece([base, block])
  await rebuildWith(first, inPlace(first, the), cache)
  const taller = { ...block, inputs: { ...block.inputs, length: 33 } }
  const second = { ...piece([base, taller]), id: 'other' }
  const waiting = rebuild(second, cache)
  expect(waiting.waits).toHaveLength(1)
  expect(Object.keys(waiting.state.bodies)).toEqual([])
  // Of the same workpiece the last stays until the new is there.
  await rebuildWith(second, inPlace(second, the), cache)
  const edited = rebuild({ ...second, route: [base, block] }, cache)
  expect(Object.keys(edited.state.bodies)).toEqual(['block'])
})

it('a loft shows its skin while the kernel has still to make a body of it, and no longer then', async () => {
  const w = piece([
    circles(10, 'low', 'top', [[0, 0, 20]]),
    op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 50 }),
    circles(14, 'high', 'up', [[5, 0, 12]]),
    op(20, 'loft', 'cup', { sections: [{ profile: 'low' }, { profile: 'high' }], mode: 'new' }),
  ])
  const cache = new RebuildCache()
  const waiting = rebuild(w, cache).reports.at(-1)!
  expect(waiting.status).toBe('waits')
  const { positions, triangles } = waiting.shown!.skin!
  expect(Math.max(...triangles)).toBe(positions.length / 3 - 1)
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!]
    // Straight from circle to circle, their middles 5 apart.
    expect(Math.hypot(x - z / 10, y)).toBeCloseTo(20 - (8 * z) / 50, 3)
  }
  const made = (await rebuildWith(w, inPlace(w, the), cache)).reports.at(-1)!
  expect([made.status, made.shown!.skin, made.shown!.threads!.length]).toEqual(['ok', undefined, 1])
})

it('in a drag a loft shows its skin and asks nothing of the kernel; the body it last made stays until it rests', async () => {
  const at = (height: number) => ({
    ...piece([
      circles(10, 'a', 'top', [[0, 0, 20]]),
      op(20, 'plane', 'up', { how: 'offset', from: 'top', offset: 'height' }),
      circles(30, 'b', 'up', [[0, 0, 20]]),
      op(40, 'loft', 'skin', { sections: [{ profile: 'a' }, { profile: 'b' }], mode: 'new' }),
      op(50, 'move', 'twice', { body: 'skin', how: 'scale', factor: 2 }),
    ]),
    figures: [{ name: 'height', expr: `${height} mm` }],
  })
  const cache = new RebuildCache()
  const run = inPlace(at(50), the)
  const volumeOf = (built: ReturnType<typeof rebuild>) => {
    const { shape } = built.state.bodies.skin!
    return shape.kind === 'exact' ? shape.measure.volume / (8 * Math.PI * 400) : Number.NaN
  }
  expect(volumeOf(await rebuildWith(at(50), run, cache))).toBeCloseTo(50, 3)
  const dragged = rebuild(at(60), cache, true)
  const loft = dragged.reports[3]!
  expect([loft.status, dragged.waits]).toEqual(['waits', []])
  const { positions } = loft.shown!.skin!
  expect(Math.max(...positions.filter((_, i) => i % 3 === 2))).toBeCloseTo(60, 3)
  expect(volumeOf(dragged)).toBeCloseTo(50, 3)
  expect(volumeOf(await rebuildWith(at(60), run, cache))).toBeCloseTo(60, 3)
  // What was worked out in passing is kept nowhere.
  expect((await rebuildWith(at(60), run, cache)).reports[3]!.status).toBe('ok')
})
