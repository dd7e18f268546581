import type { P2 } from '../../math'

/** How a line is drawn: seen edges, hidden ones, hatch, dimensions, axes of a cut. */
export type Pen = 'edge' | 'hidden' | 'cut' | 'hatch' | 'dimension' | 'plane'
export interface Stroke {
  pen: Pen
  /** mm on paper, y up from the lower left corner. */
  points: P2[]
}
export interface Text {
  at: P2
  text: string
  /** Height of capitals, mm. */
  size: number
  anchor: 'start' | 'middle' | 'end'
  upright?: boolean
}
/** A drawing on paper, mm. */
export interface Sheet {
  width: number
  height: number
  title: string
  scale: string
  strokes: Stroke[]
  texts: Text[]
}
