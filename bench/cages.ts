import { CageSkinner, startCylinder, surfaced, tableOf } from '@ivory/core/cage'
import { RebuildCache, rebuild } from '@ivory/core/rebuild'
import type { Workpiece } from '@ivory/core/workpiece'
import { demoSet } from '@ivory/demo'

/** A cage of 501 faces, its skin refined three times each time its points have moved. */
export function skinOfFive() {
  const rings = Array.from({ length: 26 }, (_, k) => ({ radius: 40 + (k % 3), z: 4 * k }))
  const cage = startCylinder(20, rings, { floor: false, lid: true })
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
