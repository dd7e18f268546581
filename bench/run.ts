// Benchmarks. Each line is a ratio of two things measured in one run, so it holds on any machine;
// the milliseconds beside it are this machine's. Run with `npm run bench`.

import { readFileSync } from 'node:fs'
import { loadKernel } from '@ivory/core/kernel'
import { writeStl } from '@ivory/core/mesh'
import { START, turnedOf } from '@ivory/core/ops'
import { dragTo, enclosed, hold, offsetChain } from '@ivory/core/profile'
import { RebuildCache, rangeOf, readGauges, rebuild } from '@ivory/core/rebuild'
import { liftToSolid, solidMesh } from '@ivory/core/turned'
import type { Workpiece } from '@ivory/core/workpiece'
import { demoSet } from '@ivory/demo'
import { bodyView, viewOf } from '../web/src/engine/view'
import {
  crockAndRoom,
  dragOfCrock,
  examinationOfFive,
  layingOnBall,
  patchesOfCrock,
  skinOfFive,
} from './cages'
import { star, steppedProfile } from './drafting'
import { benchExact } from './exact'
import { groovedBeaker } from './grooves'
import { measurePage } from './page'
import { loftAlongRails } from './surface'

const median = (xs: number[]): number => [...xs].sort((a, b) => a - b)[Math.floor(xs.length / 2)]!

function time(work: (i: number) => void, runs: number, warm = 5): number {
  for (let i = 0; i < warm; i++) work(i)
  return median(
    Array.from({ length: runs }, (_, i) => {
      const start = performance.now()
      work(i + warm)
      return performance.now() - start
    }),
  )
}

const row = (what: string, ratio: number, words: string) =>
  console.log(`${what.padEnd(54)} ${ratio.toFixed(3).padStart(9)}   ${words}`)
const ms = (x: number) => `${x.toFixed(2)} ms`

const cruet = demoSet()[0]!
/** The cruet with its belly a little wider each time, so nothing can be reused. */
const wider = (i: number): Workpiece => ({
  ...cruet,
  figures: cruet.figures.map((f) =>
    f.name === 'belly' ? { ...f, expr: `${83 + (i % 40) * 0.05} mm` } : f,
  ),
})

console.log('ratio of a to b, medians\n')
const frame = 1000 / 30
const chain = time((i) => rebuild(wider(i)), 30)
row('turned chain, nothing kept / frame at 30 Hz', chain / frame, ms(chain))

const skin = time(skinOfFive(), 20)
row('cage of 501 faces, points moved, level 3 / 20 ms', skin / 20, ms(skin))
const cageDrag = time(dragOfCrock(), 20)
row('drag of a row of the crock, level 3 / frame at 30 Hz', cageDrag / frame, ms(cageDrag))
const patches = time(patchesOfCrock(), 5, 1)
row('exact patches of a crock, within 0.01 / 1 s', patches / 1000, ms(patches))
const five = examinationOfFive()
const cures = time(five.cures, 3, 1)
row('what makes 501 faces uneven, cures tried / 2 s', cures / 2000, ms(cures))
const crossing = time(five.crossing, 5, 1)
row('where 501 faces go through themselves / 0.2 s', crossing / 200, ms(crossing))
const laying = time(layingOnBall(), 3, 1)
row('384 faces laid onto 100,000 triangles / 5 s', laying / 5000, ms(laying))
const crock = await crockAndRoom()
row('exact body of the crock / 3 s', crock.crock / 3000, ms(crock.crock))
row('its room fitted for another wall, and cut / 5 s', crock.room / 5000, ms(crock.room))
row('the same with its rim / 5 s', crock.rim / 5000, ms(crock.rim))

const grooved = Array.from({ length: 36 }, (_, i) => groovedBeaker(20, i))
const grooves = time((i) => rebuild(grooved[i]!), 12)
row('20 patterned grooves, nothing kept / 60 ms', grooves / 60, ms(grooves))
const builtGrooves = grooved.map((w) => rebuild(w))
const grooveGauges = time((i) => readGauges(grooved[i]!, builtGrooves[i]!), 12)
row('their gauges / the grooves', grooveGauges / grooves, ms(grooveGauges))
const shellId = cruet.route.find((o) => o.kind === 'shell')!.id
const shellRange = time((i) => rangeOf(wider(i), rebuild(wider(i)), shellId, 'wall'), 3, 1)
row('range of the cruet’s shell / its chain', shellRange / chain, ms(shellRange))

const loft = time((i) => loftAlongRails(i), 12)
row('4 free sections, 4 rails, to places shown / 50 ms', loft / 50, ms(loft))

const cache = new RebuildCache()
const drag = time((i) => {
  const w = wider(i)
  viewOf(
    w,
    rebuild(w, cache),
    {
      cutaway: true,
      fill: null,
      draft: true,
      solid: false,
      plane: START.planes.front!.frame,
      cut: { plane: START.planes.front!.frame, free: false },
    },
    0,
  )
}, 40)
row('drag step: route and section / frame at 30 Hz', drag / frame, ms(drag))

const board = demoSet().find((w) => w.route.some((o) => o.id === 'rail_m'))!
/** The board up to its loft, its ridge a little higher each time: section and rails are drawn along. */
const higher = (i: number): Workpiece => ({
  ...board,
  rolledTo: 'board',
  figures: board.figures.map((f) =>
    f.name === 'rise' ? { ...f, expr: `${16 + (i % 40) * 0.05} mm` } : f,
  ),
})
const boardCache = new RebuildCache()
const led = time((i) => {
  const { reports } = rebuild(higher(i), boardCache, true)
  if (!reports.at(-1)?.shown?.skin) throw new Error('no skin was worked out')
}, 20)
row('drag step of a loft along 3 rails: skin / frame at 15 Hz', led / (1000 / 15), ms(led))

const lastCache = new RebuildCache()
rebuild(cruet, lastCache)
const last = time((i) => {
  const route = cruet.route.map((o, k) =>
    k === cruet.route.length - 1
      ? { ...o, inputs: { ...o.inputs, radius: 0.8 + (i % 20) * 0.005 } }
      : o,
  )
  rebuild({ ...cruet, route }, lastCache)
}, 30)
row(
  'rebuild after an edit of the last op / whole rebuild',
  last / chain,
  `${ms(last)} / ${ms(chain)}`,
)

const built = rebuild(cruet)
const gauges = time(() => readGauges(cruet, built), 20)
row('all gauges / turned chain', gauges / chain, `${ms(gauges)} / ${ms(chain)}`)

const body = Object.values(built.state.bodies)[0]!
const display = time(
  () =>
    bodyView(body, {
      cutaway: true,
      fill: null,
      draft: false,
      solid: true,
      plane: START.planes.front!.frame,
      cut: { plane: START.planes.front!.frame, free: false },
    }),
  10,
)
row('display buffers / turned chain', display / chain, `${ms(display)} / ${ms(chain)}`)

const fine = { chord: 0.004, angle: 0.06 }
const mesh = solidMesh(turnedOf(body), fine)
const per100k = 100_000 / (mesh.triangles.length / 3)
const meshing = time(() => solidMesh(turnedOf(body), fine), 7, 2) * per100k
row('mesh per 100k triangles / turned chain', meshing / chain, ms(meshing))
const stl = time(() => writeStl([mesh]), 7, 2) * per100k
row('STL per 100k triangles / mesh per 100k', stl / meshing, ms(stl))

const kernelLoad = performance.now()
const kernel = await loadKernel()
const loaded = performance.now() - kernelLoad
row('kernel load / turned chain', loaded / chain, ms(loaded))
// The same route through the kernel is at the least its lift and its measures once per body op.
const bodyOps = cruet.route.filter((o) => o.kind !== 'profile' && o.kind !== 'plane').length
const lift = time(
  () => {
    const s = liftToSolid(kernel, turnedOf(body))
    kernel.measure(s)
    kernel.free(s)
  },
  5,
  1,
)
row(
  'turned chain / lift and measure in the kernel, each op',
  chain / (lift * bodyOps),
  `${ms(chain)} / ${ms(lift * bodyOps)}`,
)

await benchExact(row)

const budget = 8
for (const n of [20, 60, 200]) {
  const loose = steppedProfile(n)
  const last = loose.points[`p${n}`]!
  // A drag is many steps: what the first ones cost more, while the code is made ready, is left out.
  const pull = (i: number) => dragTo(loose, { [`p${n}`]: [last[0] + (i % 9), last[1] + 2] })
  const step = time(pull, 40, 40)
  const held = time(() => hold(loose), 10, 10)
  const count = loose.drawing.relations!.length + loose.drawing.dimensions!.length
  row(`solver drag step, ${n} lines, ${count} relations / 8 ms`, step / budget, ms(step))
  row(`solve and rank, ${n} lines / 8 ms`, held / budget, ms(held))
}
const outline = star(60)
const regions = time(() => enclosed(outline.map((curve, i) => ({ curve, name: `c${i}` }))), 20)
row('regions of 60 pieces / frame at 30 Hz', regions / frame, ms(regions))
const off = time(() => offsetChain(outline, 2, 'round'), 10)
row('offset of 60 pieces / frame at 30 Hz', off / frame, ms(off))

const shown = await measurePage()
row('cold load to a usable bench / 2 s', shown.usable / 2000, ms(shown.usable))
row('cold load to first body / 4 s', shown.cold / 4000, ms(shown.cold))
row('drag step to shown section / frame at 30 Hz', shown.drag / frame, ms(shown.drag))

const bytes = readFileSync(new URL('../demo/set/oil-cruet.lathe.json', import.meta.url)).length
console.log(
  `\ncruet: ${cruet.route.length} ops, file of ${bytes} bytes, mesh of ${mesh.triangles.length / 3} triangles in the mesh rows`,
)
