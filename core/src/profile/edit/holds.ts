import { freshId } from '../../math'
import type { Drawing } from '../drawing'
import type { Relation } from '../solver'

/** Ids of the relations and dimensions of a drawing: they share one set. */
export const holdIds = (d: Drawing): string[] =>
  [...(d.relations ?? []), ...(d.dimensions ?? [])].map((r) => r.id)

/** Lays relations on a drawing under fresh ids. */
export function withHolds(d: Drawing, more: Omit<Relation, 'id'>[]): Drawing {
  const taken = holdIds(d)
  const relations = more.map((r) => {
    const id = freshId(taken, 'hold')
    taken.push(id)
    return { ...r, id }
  })
  return { ...d, relations: [...(d.relations ?? []), ...relations] }
}
