import { createApp } from '@ivory/server'
import { launch } from '../e2e/browser'
const app = createApp({ page: process.env.DIST ?? '/tmp/distp', timeLimit: 20_000, sizeLimit: 1e6 })
const server = app.listen(0, '127.0.0.1')
await new Promise((r) => server.once('listening', r))
const base = `http://127.0.0.1:${(server.address() as any).port}`
const browser = await launch(['--disable-gpu-compositing'])
const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await tab.goto(base)
await tab.getByTestId('section').first().waitFor()
for (const name of [/^Release Full width .*\(c\)/, /^Release Distance up .*\(origin, c\)/]) await tab.getByRole('button', { name }).click()
await tab.waitForTimeout(1500)
const box = (await tab.locator('[data-testid="drawn-point"][data-name="c"]').boundingBox())!
const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
await tab.mouse.move(x, y)
await tab.mouse.down()
const cdp = await tab.context().newCDPSession(tab)
await cdp.send('Profiler.enable'); await cdp.send('Profiler.setSamplingInterval', { interval: 500 })
const tr: any[] = []
if (process.env.TRACE) { cdp.on('Tracing.dataCollected', (e) => tr.push(...e.value)); await cdp.send('Tracing.start', { categories: 'devtools.timeline,disabled-by-default-devtools.timeline', transferMode: 'ReportEvents' } as any) }
else await cdp.send('Profiler.start')
const r = (await tab.evaluate(`new Promise((done) => {
  const shown = [], frames=[]
  new MutationObserver(() => shown.push(performance.now())).observe(document.querySelector('[data-testid="section"]'), { attributes: true })
  const table = document.querySelector('[aria-label="Drafting table"]')
  const start = performance.now()
  const step = () => { const t = performance.now() - start; frames.push(t); if (t > 4000) return done({shown,frames})
    table.dispatchEvent(new PointerEvent('pointermove', { bubbles: true, cancelable: true, altKey: true, clientX: ${x} + 12 * Math.sin(t / 150), clientY: ${y} }))
    requestAnimationFrame(step) }
  step() })`)) as any
const med = (a: number[]) => { const g = a.slice(1).map((t, i) => t - a[i]!).sort((p, q) => p - q); return `${g.length} p50 ${g[g.length >> 1]?.toFixed(1)} p10 ${g[g.length*0.1|0]?.toFixed(1)} p90 ${g[g.length * 0.9 | 0]?.toFixed(1)}` }
console.log('shown', med(r.shown), 'frames', med(r.frames))
if (process.env.TRACE) {
  const done = new Promise((r) => cdp.once('Tracing.tracingComplete', r)); await cdp.send('Tracing.end'); await done
  const threads = new Map(tr.filter((e) => e.name === 'thread_name').map((e) => [`${e.pid}:${e.tid}`, e.args.name]))
  const by = new Map<string, number>()
  for (const e of tr) if (e.ph === 'X' && e.dur) { const k = `${threads.get(`${e.pid}:${e.tid}`)} ${e.name}`; by.set(k, (by.get(k) ?? 0) + e.dur / 1000) }
  for (const [k, v] of [...by].sort((a, b) => b[1] - a[1]).slice(0, 40)) console.log(v.toFixed(0).padStart(6), k)
} else {
  const { profile } = (await cdp.send('Profiler.stop')) as any
  const hit=new Map<number,number>(); profile.samples.forEach((s: number, i: number) => hit.set(s,(hit.get(s)??0)+profile.timeDeltas[i]/1000)); const self = new Map<string, number>(), total = new Map<string, number>()
  const byId = new Map<number, any>(profile.nodes.map((n: any) => [n.id, n])), parent = new Map<number, number>()
  for (const n of profile.nodes) for (const c of n.children ?? []) parent.set(c, n.id)
  profile.samples.forEach((s: number, i: number) => { const dt = profile.timeDeltas[i] / 1000; let n = byId.get(s); const nm = (m: any) => `${m.callFrame.functionName || '(anon)'}:${m.callFrame.lineNumber}`; self.set(nm(n), (self.get(nm(n)) ?? 0) + dt); const seen = new Set<string>(); let id: number | undefined = s; while (id !== undefined) { const k = nm(byId.get(id)); if (!seen.has(k)) { seen.add(k); total.set(k, (total.get(k) ?? 0) + dt) } id = parent.get(id) } })
  console.log('SELF'); for (const [k, v] of [...self].sort((a, b) => b[1] - a[1]).slice(0, 30)) console.log(v.toFixed(0).padStart(6), k)
  console.log('COMP'); const comp=new Map<string,number>(); for (const n of profile.nodes) { const p = byId.get(parent.get(n.id) ?? -1); if (p && /^renderWithHooks|^updateForwardRef/.test(p.callFrame.functionName)) { let t=0; const st=[n.id]; while(st.length){const i=st.pop()!; t+=(hit.get(i)??0); st.push(...(byId.get(i).children??[]))} const k=n.callFrame.functionName+':'+n.callFrame.lineNumber; comp.set(k,(comp.get(k)??0)+t) } } for (const [k, v] of [...comp].sort((a, b) => b[1] - a[1]).slice(0, 45)) console.log(v.toFixed(0).padStart(6), k); console.log('TOTAL'); for (const [k, v] of [...total].sort((a, b) => b[1] - a[1]).slice(0, 70)) console.log(v.toFixed(0).padStart(6), k)
}
await tab.mouse.up(); await browser.close(); server.close()
