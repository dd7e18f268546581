/** What a click on a cage picks. */
export const CAGE_PICKS = ['points', 'edges', 'faces', 'rows', 'columns'] as const
export type CagePick = (typeof CAGE_PICKS)[number]

/** How the chosen cage is being edited. */
export interface Caging {
  what: CagePick
  /** What is picked, in the words edits use. */
  picks: string[]
  /** The edit whose fields are open, by its id. */
  open: string | null
  /** From the bare cage, 0, to the smooth form, 1. */
  smooth: number
  /** Edits that are on trial: those of an op from a place in its list on. */
  trial: { op: string; from: number } | null
}
export const NO_CAGING: Caging = { what: 'points', picks: [], open: null, smooth: 0.8, trial: null }
