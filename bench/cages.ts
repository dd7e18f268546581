import {
  CageSkinner,
  cageCrossing,
  examined,
  type Orbits,
  orbitsOf,
  startCylinder,
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

/** The demo's crock from nothing, and its room fitted anew for another wall, the kernel's work with them, ms. */
export async function crockAndRoom(): Promise<{ crock: number; room: number }> {
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
  return { crock: alone, room: await timed({ ...crock, figures }) }
}
