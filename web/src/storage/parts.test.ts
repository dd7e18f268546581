import 'fake-indexeddb/auto'
import type { ExactPart, KernelJob } from '@ivory/core/exact'
import { expect, it } from 'vitest'
import { keepParts, keptParts } from './parts'

const job = (file: string): KernelJob => ({ verb: 'step', args: { op: 'o', file }, on: [] })
const part = (key: string, floats: number): ExactPart =>
  ({
    kind: 'exact',
    key,
    faces: [],
    edges: [],
    shown: { positions: new Float32Array(floats) },
    mesh: { positions: new Float32Array(0), triangles: new Uint32Array(0) },
  }) as unknown as ExactPart

it('gives back what was kept of a job, and nothing of one that never was', async () => {
  expect(await keptParts(job('a'))).toBeNull()
  await keepParts(job('a'), [part('x.0', 3), part('x.1', 5)])
  const back = await keptParts(job('a'))
  expect(back!.map((p) => [p.key, p.shown.positions.length])).toEqual([
    ['x.0', 3],
    ['x.1', 5],
  ])
  expect(await keptParts(job('b'))).toBeNull()
})
it('lets the longest unused go when it gets too much', async () => {
  // 60 MB each: two fit beside the small one, three do not.
  for (const file of ['one', 'two', 'three']) {
    await keepParts(job(file), [part(file, 15 * 1024 * 1024)])
    await new Promise((r) => setTimeout(r, 5))
  }
  expect(await keptParts(job('one'))).toBeNull()
  expect(await keptParts(job('three'))).not.toBeNull()
})
