import {
  CageSkinner,
  cageCrossing,
  examined,
  laidOnto,
  type Orbits,
  orbitsOf,
  startCylinder,
  startPlane,
  surfaced,
  tableOf,
} from '@ivory/core/cage'
import { loadShapes, ShapeStore } from '@ivory/core/exact'
import { inPlace, RebuildCache, rebuild, rebuildWith } from '@ivory/core/rebuild'
import type { Workpiece } from '@ivory/core/workpiece'
import { demoSet } from '@ivory/demo'

/** A cage of 501 faces. */
function fiveHundred() {
  const rings = Array.from({ length: 26 }, (_, k) => ({ radius: 40 + (k % 3), z: 4 * k }))
  return startCylinder(20, rings, { floor: false, lid: true })
}

/** Its skin refined three times each time its points have moved. */
export function skinOfFive() {
  const cage = fiveHundred()
  const table = tableOf(cage)
  if (!table.ok) throw new Error(table.diagnosis.message)
  const skinner = new CageSkinner(table.value, 3)
  return (i: number) => {
    const at = cage.at.slice()
    for (let k = 0; k < 60; k++) at[k]! += 0.01 * i
    skinner.skin({ at })
  }
}

/** The patches of the demo's crock, without the kernel. */
export function patchesOfCrock() {
  const cage = startCylinder(
    12,
    Array.from({ length: 8 }, (_, k) => ({ radius: 48 - k, z: 15 * k })),
    { floor: false, lid: true },
  )
  const table = tableOf(cage)
  if (!table.ok) throw new Error(table.diagnosis.message)
  return () => surfaced(table.value, cage, 0.01)
}

/** A step of a drag of one row of the demo's crock: its edits replayed and its skin drawn, the kernel left alone. */
export function dragOfCrock() {
  const crock = demoSet().find((w) => w.id === 'utensil-crock')!
  const cache = new RebuildCache()
  const dragged = (i: number): Workpiece => {
    const w = structuredClone(crock)
    const edits = w.route[0]!.inputs.edits as unknown[]
    edits.push({ id: 'drag', kind: 'move', on: ['row 3'], out: 0.05 * i })
    w.route = w.route.slice(0, 1)
    return w
  }
  return (i: number) => rebuild(dragged(i), cache, true)
}

/** What would make 501 faces bend more evenly; and whether they go through themselves. */
export function examinationOfFive() {
  const cage = fiveHundred()
  const table = tableOf(cage)
  if (!table.ok) throw new Error(table.diagnosis.message)
  const orbits = orbitsOf(cage, { turns: 1, mirrors: [] }) as Orbits
  return { cures: () => examined(cage, orbits), crossing: () => cageCrossing(table.value, cage) }
}

/** The demo's crock from nothing, and its room fitted anew for another wall, round and with its rim, the kernel's work with them, ms. */
export async function crockAndRoom(): Promise<{ crock: number; room: number; rim: number }> {
  const { kernel, meshes } = await loadShapes()
  const store = new ShapeStore(kernel, meshes)
  const crock = demoSet().find((w) => w.id === 'utensil-crock')!
  const cache = new RebuildCache()
  const timed = async (w: Workpiece) => {
    const start = performance.now()
    await rebuildWith(
      w,
      inPlace(w, async () => store),
      cache,
    )
    return performance.now() - start
  }
  const alone = await timed({ ...crock, route: crock.route.slice(0, 1) })
  await timed(crock)
  const figures = crock.figures.map((f) => (f.name === 'wall' ? { ...f, expr: '2.6 mm' } : f))
  const rim = await timed({ ...crock, figures })
  const round = crock.route.map((o) =>
    o.kind === 'cavity' ? { ...o, inputs: { ...o.inputs, rim: undefined } } : o,
  )
  return { crock: alone, room: await timed({ ...crock, figures, route: round }), rim }
}

/** A ball of some 100,000 triangles. */
function ball(radius: number) {
  const n = 160
  const w = 2 * n + 1
  const positions = new Float32Array(3 * (n + 1) * w)
  const triangles: number[] = []
  for (let i = 0; i <= n; i++)
    for (let j = 0; j < w; j++) {
      const [a, b, p] = [(Math.PI * i) / n, (Math.PI * j) / n, i * w + j]
      const r = radius * Math.sin(a)
      positions.set([r * Math.cos(b), r * Math.sin(b), radius * Math.cos(a)], 3 * p)
      if (i === n || j === w - 1) continue
      if (i > 0) triangles.push(p, p + w, p + 1)
      if (i < n - 1) triangles.push(p + 1, p + w, p + w + 1)
    }
  return { positions, triangles: Uint32Array.from(triangles) }
}

/** A flat cage of 384 faces laid onto a body of 100,000 triangles, its tree made anew. */
export function layingOnBall() {
  const cage = startPlane([60, 40], 24, 16)
  const at = cage.at.map((x, k) => (k % 3 === 2 ? 70 : x))
  const table = tableOf(cage)
  if (!table.ok) throw new Error(table.diagnosis.message)
  const all = new Set(cage.layout.points.keys())
  return (i: number) => laidOnto({ ...cage, at }, table.value, ball(60 + 0.01 * i), 0, all)
}
