import type { Drawing } from '../drawing'
import { DIMENSIONS, RELATIONS } from './schema'

/** A relation or dimension in plain words: "Parallel (line1, line3)", "Radius 8 (arc2)". */
export function relationWords(drawing: Drawing, id: string): string {
  const named = (r: { points: string[]; entities: string[] }) =>
    `(${[...r.points, ...r.entities].join(', ')})`
  const d = drawing.dimensions?.find((x) => x.id === id)
  if (d) return `${DIMENSIONS[d.kind].label} ${d.value} ${named(d)}`
  const p = drawing.patterns?.find((x) => x.id === id)
  if (p) return `${p.kind === 'row' ? 'Row' : 'Ring'} of ${p.entities.join(', ')}`
  const r = drawing.relations?.find((x) => x.id === id)
  return r ? `${RELATIONS[r.kind].label} ${named(r)}` : id
}

/** The drawing without one relation or dimension. */
export const withoutHold = (drawing: Drawing, id: string): Drawing => ({
  ...drawing,
  ...(drawing.relations ? { relations: drawing.relations.filter((r) => r.id !== id) } : {}),
  ...(drawing.patterns ? { patterns: drawing.patterns.filter((p) => p.id !== id) } : {}),
  ...(drawing.dimensions ? { dimensions: drawing.dimensions.filter((d) => d.id !== id) } : {}),
})
