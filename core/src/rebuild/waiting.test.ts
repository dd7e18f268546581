import fc from 'fast-check'
import { expect, it } from 'vitest'
import { faceRef } from '../exact'
import { bad } from '../math'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { inPlace, RebuildCache, type RunJob, rebuild, rebuildWith, STOPPED } from '.'
import { base, block, exact, piece, the } from './exactroute.test-data'

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

it('where one way was stopped, the sentence of no other way is told, and no other way is taken', async () => {
  // A drum of our own surfaces: our wall comes first, the kernel's after it.
  const vase = [
    circles(10, 'low', 'top', [[0, 0, 20]]),
    op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 40 }),
    circles(14, 'high', 'up', [[0, 0, 15]]),
    op(20, 'loft', 'vase', {
      sections: [{ profile: 'low' }, { profile: 'high' }],
      run: 'ruled',
      mode: 'new',
    }),
  ]
  const whole = await exact(vase, 'vase')
  const lid = whole.faces.findIndex((f) => f.kind === 'plane' && f.middle[2] > 39)
  const w = piece([
    ...vase,
    op(30, 'shell', 'thin', { body: 'vase', wall: 1, open: [faceRef(whole, lid)], side: 'in' }),
  ])
  for (const stopped of ['form', 'quilt', 'shell', 'combine']) {
    const run = inPlace(w, the)
    let asked = 0
    const built = await rebuildWith(w, (job, recipes) => {
      if (job.verb !== stopped || (job.args as { op?: string }).op === 'vase')
        return run(job, recipes)
      // The loft itself is sewn too: that is let through.
      if (stopped === 'quilt' && asked++ === 0) return run(job, recipes)
      asked++
      return Promise.resolve(bad(STOPPED, 'The exact kernel did not come to an end.'))
    })
    const last = built.reports.at(-1)!
    if (last.status !== 'fail') continue
    expect([stopped, last.diagnoses[0]!.code]).toEqual([stopped, STOPPED])
  }
})

it('property: in whatever order and after whatever time the kernel answers, the same route makes the same', async () => {
  const hole = circles(30, 'ring', 'top', [[20, 20, 6]])
  const other = circles(32, 'post', 'top', [[80, 20, 9]])
  const w = piece([
    base,
    block,
    hole,
    op(31, 'extrude', 'hole', { profile: 'ring', mode: 'cut', body: 'block', length: 12 }),
    other,
    op(33, 'extrude', 'pin', { profile: 'post', mode: 'new', length: 30 }),
    op(40, 'move', 'aside', { body: 'pin', how: 'way', x: -25, y: 0, z: 0 }),
    op(50, 'combine', 'one', { how: 'join', body: 'block', tools: ['pin'] }),
  ])
  const read = ({ state, reports }: Awaited<ReturnType<typeof rebuildWith>>) =>
    JSON.stringify([
      reports.map((r) => [r.id, r.status, r.consequence, r.diagnoses]),
      Object.values(state.bodies).map((b) => 'measure' in b.shape && b.shape.measure),
    ])
  const want = read(await rebuildWith(w, inPlace(w, the)))
  await fc.assert(
    fc.asyncProperty(fc.infiniteStream(fc.nat({ max: 5 })), async (chance) => {
      const next = () => chance.next().value as number
      const cache = new RebuildCache()
      const run = inPlace(w, the)
      for (;;) {
        const built = rebuild(w, cache)
        if (built.waits.length === 0) {
          expect(read(built)).toBe(want)
          return
        }
        // Some of what waits, in any order, each after a while; a rebuild may come in between.
        const jobs = [...built.waits].sort(() => next() - 2.5).slice(0, 1 + next())
        await Promise.all(
          jobs.map(async (job) => {
            for (let k = next(); k > 0; k--) await Promise.resolve()
            cache.exact.put(job, await run(job, cache.exact.recipesFor(job.on)))
            if (next() === 0) rebuild(w, cache)
          }),
        )
      }
    }),
    { numRuns: 200 },
  )
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

it('what an op took has the kernel’s time in it, and nothing where the kept result served', async () => {
  const slow: RunJob = async (job, recipes) => {
    await new Promise((r) => setTimeout(r, 60))
    return inPlace(w, the)(job, recipes)
  }
  const grown = op(40, 'move', 'half', { body: 'block', how: 'scale', factor: 0.5 })
  const w = piece([base, block, grown])
  const cache = new RebuildCache()
  const first = await rebuildWith(w, slow, cache)
  for (const id of ['block', 'half'])
    expect(first.reports.find((r) => r.id === id)!.ms).toBeGreaterThanOrEqual(59)
  expect((await rebuildWith(w, slow, cache)).reports.every((r) => r.ms === 0)).toBe(true)
})
