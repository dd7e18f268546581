import type { Op, Workpiece } from './schema'

/** Number for a new op after the one at `index` (-1: first): half-way, or the route renumbered by tens. */
export function insertOp(route: readonly Op[], index: number, op: Omit<Op, 'number'>): Op[] {
  const before = route[index]?.number ?? 0
  const after = route[index + 1]?.number
  const number =
    after === undefined ? Math.floor(before / 10) * 10 + 10 : Math.floor((before + after) / 2)
  const out = [...route.slice(0, index + 1), { ...op, number }, ...route.slice(index + 1)]
  return number > before && (after === undefined || number < after) ? out : renumber(out)
}

export const renumber = (route: readonly Op[]): Op[] =>
  route.map((o, i) => ({ ...o, number: (i + 1) * 10 }))

/** The ops that are shown: all, or up to the one the view is rolled back to. */
export function shownRoute(w: Workpiece): Op[] {
  const end = w.route.findIndex((o) => o.id === w.rolledTo)
  return end < 0 ? w.route : w.route.slice(0, end + 1)
}

export const emptyWorkpiece = (id: string, name: string): Workpiece => ({
  format: 'ivory-lathe',
  version: 1,
  id,
  name,
  unit: 'mm',
  figures: [],
  route: [],
  brief: { purpose: '', targets: {} },
  gauges: [],
  links: [],
  notes: [],
  materials: [],
  bodies: {},
  log: [],
})
