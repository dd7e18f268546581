import { readFileSync } from 'node:fs'
import { it } from 'vitest'
import { inPlace, rebuildWith } from './rebuild'
import { the } from './rebuild/exactroute.test-data'
import { checkWorkpiece } from './workpiece'

it('x', async () => {
  const store = await the()
  const w = checkWorkpiece(JSON.parse(readFileSync('demo/set/timer-dial.lathe.json', 'utf8')))
  if (!w.ok) throw new Error()
  const run = inPlace(w.value, the)
  const k = store.kernel as unknown as Record<string, (...a: unknown[]) => unknown>
  const sums: Record<string, number> = {}
  for (const f of [
    'measure',
    'anatomy',
    'boolean',
    'volumeByTriangles',
    'prism',
    'solidFaces',
    'moved',
    'together',
  ]) {
    const own = k[f]!.bind(k)
    k[f] = (...a) => {
      const t = performance.now()
      try {
        return own(...a)
      } finally {
        sums[f] = (sums[f] ?? 0) + performance.now() - t
      }
    }
  }
  const t0 = Date.now()
  const r = await rebuildWith(w.value, async (job, recipes) => {
    const t = Date.now()
    const out = await run(job, recipes)
    console.log(
      job.verb,
      (job.args as { how?: string }).how,
      job.on.length,
      Date.now() - t,
      out.ok ? out.value[0]!.faces.length : out.diagnosis.message,
    )
    return out
  })
  console.log(sums)
  console.log(
    Date.now() - t0,
    r.reports.map((x) => [x.id, x.status, Math.round(x.ms), x.consequence]),
  )
})
