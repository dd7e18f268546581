import { createApp } from '@ivory/server'
import { launch } from '../e2e/browser'
const app = createApp({ page: '/work/main/web/dist', timeLimit: 20_000, sizeLimit: 1e6 })
const server = app.listen(0, '127.0.0.1')
await new Promise((r) => server.once('listening', r))
const base = `http://127.0.0.1:${(server.address() as any).port}`
for (let i = 0; i < 5; i++) {
const browser = await launch(['--disable-gpu-compositing'])
const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await tab.addInitScript(`window.__t={}; const w=(k,s)=>{ if(!__t[k] && document.querySelector(s)) __t[k]=Math.round(performance.now()) }; new MutationObserver(()=>{ w('main','main'); w('bench','[aria-label=Route] li'); w('table','[aria-label="Drafting table"]'); w('canvas','canvas'); w('section','[data-testid=section]') }).observe(document,{subtree:true,childList:true})`)
const start = performance.now()
await tab.goto(base)
await tab.getByTestId('section').first().waitFor()
const all = performance.now() - start
const t = await tab.evaluate(`JSON.stringify({...__t, res: performance.getEntriesByType('resource').filter(r=>/js|wasm/.test(r.name)).map(r=>[r.name.split('/').pop().slice(0,14), Math.round(r.startTime), Math.round(r.responseEnd)])})`)
console.log(all.toFixed(0), t)
await browser.close() }
server.close()
