/** What a click on a cage picks. */
export const CAGE_PICKS = ['points', 'edges', 'faces', 'rows', 'columns'] as const
export type CagePick = (typeof CAGE_PICKS)[number]

/** How they are picked with the mouse. */
export const CAGE_BY = ['click', 'frame', 'loop', 'brush'] as const
export type CageBy = (typeof CAGE_BY)[number]

/** A place on the screen, px from the corner of the Stage. */
export type Spot = readonly [number, number]

/** What a word of a cage is called under the pointer. */
export const wordOf = (word: string, what: CagePick): string => {
  const one = { points: 'point', edges: 'edge', faces: 'face', rows: '', columns: '' }[what]
  return one ? `${one} ${word}` : word
}

/** How the chosen cage is being edited. */
export interface Caging {
  what: CagePick
  by: CageBy
  /** Whether a frame or loop also picks what lies behind. */
  through: boolean
  /** What is picked, in the words edits use. */
  picks: string[]
  /** The edit whose fields are open, by its id. */
  open: string | null
  /** From the bare cage, 0, to the smooth form, 1. */
  smooth: number
  /** Edits that are on trial: those of an op from a place in its list on. */
  trial: { op: string; from: number } | null
}
export const NO_CAGING: Caging = {
  what: 'points',
  by: 'click',
  through: false,
  picks: [],
  open: null,
  smooth: 0.8,
  trial: null,
}
