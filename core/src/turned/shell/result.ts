import type { Curve } from '../../curve'
import { FIT, type P2, POINT } from '../../math'
import type { TurnedBody } from '../body'

export interface ShellResult {
  body: TurnedBody
  /** Faces too small to leave a trace on the other side of the wall, with their places. */
  lost: { name: string; at: P2 }[]
}

/** How much an offset may lie nearer to its walls than asked, mm: of lines and arcs it is exact. */
export const slackOf = (walls: readonly { curve: Curve }[]): number =>
  walls.some((w) => w.curve.kind === 'spline') ? 2 * FIT : POINT

/** The name of a face that a shell made of another. */
export const inName = (op: string, name: string): string => `${op}:wall(${name})`
