import { dragTo, hold } from '@ivory/core/profile'
import { RebuildCache, rebuild } from '@ivory/core/rebuild'
import { demoSet } from '@ivory/demo'
import { viewOf } from '../web/src/engine/view'
import { steppedProfile } from './drafting'
const median = (xs: number[]) => [...xs].sort((a, b) => a - b)[Math.floor(xs.length / 2)]!
const time = (work: (i: number) => void, runs: number, warm = 5) => { for (let i = 0; i < warm; i++) work(i); return median(Array.from({ length: runs }, (_, i) => { const s = performance.now(); work(i + warm); return performance.now() - s })).toFixed(2) }
const cruet = demoSet()[0]!
const wider = (i: number) => ({ ...cruet, figures: cruet.figures.map((f) => f.name === 'belly' ? { ...f, expr: `${83 + (i % 40) * 0.05} mm` } : f) })
if (!process.env.S) {
console.log('chain', time((i) => rebuild(wider(i)), 60))
const cache = new RebuildCache()
console.log('drag', time((i) => { const w = wider(i); viewOf(w, rebuild(w, cache), { cutaway: true, fill: null, draft: true, solid: false }, 0) }, 100))
}
if (!process.env.C) for (const n of [20, 60, 200]) {
  const loose = steppedProfile(n); const last = loose.points[`p${n}`]!
  console.log(n, 'step', time((i) => dragTo(loose, { [`p${n}`]: [last[0] + (i % 9), last[1] + 2] }), 20), 'solve', time(() => hold(loose), 10))
}
