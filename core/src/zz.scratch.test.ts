import { readFileSync } from 'node:fs'
import { test } from 'vitest'
import { readWorkpiece } from './workpiece'
import { inPlace, RebuildCache, rebuildWith } from './rebuild'
import { the } from './rebuild/exactroute.test-data'
test('t', async () => {
  const store = await the()
  const run = store.run.bind(store)
  ;(store as any).run = (job: any) => {
    const t = performance.now()
    const r = run(job)
    console.log((performance.now() - t).toFixed(0), JSON.stringify(job.verb), JSON.stringify(job.args).slice(0, 120), r.ok ? r.value.map((p: any) => p.faces?.length + 'f ' + p.mesh?.triangles.length/3) : r.diagnosis.message)
    return r
  }
  const w = readWorkpiece(readFileSync(process.env.FILE!, 'utf8')) as any
  const t = performance.now()
  const { reports } = await rebuildWith(w.value ?? w.workpiece ?? w, inPlace(w.value ?? w, the), new RebuildCache())
  for (const r of reports) console.log(r.id, r.status, r.consequence, (r as any).ms)
  console.log('all', performance.now() - t)
}, 300000)
