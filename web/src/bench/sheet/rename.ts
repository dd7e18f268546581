import type { Workpiece } from '@ivory/core/workpiece'
import type { Draft } from 'immer'

/** Gives an op another name for people; its id, and so every reference to it, stays. */
export function renamedOp(d: Draft<Workpiece>, id: string, name: string): void {
  const op = d.route.find((o) => o.id === id)
  if (op) op.name = name.slice(0, 80)
}
