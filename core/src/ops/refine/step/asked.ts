import type { Outcome, P2, P3 } from '../../../math'

/** Where a centring step stands. */
export type Stand = 'opening' | 'inner' | 'outer'

/** What is asked of a step, mm. */
export interface Asked {
  stand: Stand
  height: number
  wall: number
  clearance: number
}

/** A line that zones lie along: the opening of the face it stands on, or its outside. */
export type Along = 'opening' | 'outside'

/** Into the wall from a line where it is more than 0, away from it where less, mm; null is all that lies there. */
export interface Zone {
  along: Along
  from: number | null
  to: number
  /** Over the plane both touch in, towards the other body, mm. */
  low: number
  high: number
  /** What its sides are called. */
  name: string
}

/**
 * What the step is worked out with, the same for half-sections and exact bodies: S is a solid of either kind.
 */
export interface Shop<S> {
  own: S
  other: S
  /** How thick the wall is between opening and outside where both touch, mm; null where the face has no opening. */
  thick: number | null
  /** How many openings the face has. */
  openings: number
  zone(z: Zone): Outcome<S>
  /** Whether all of a zone lies on the face the step is to stand on. */
  covers(from: number, to: number): Outcome<boolean>
  combine(how: 'join' | 'cut' | 'meet', on: S, by: readonly S[]): Outcome<S>
  solids(s: S): number
  /** The least distance between two, mm, and where. */
  gap(step: S, other: S): Outcome<{ d: number; at: P2 | P3 }>
  /** mm³ */
  volume(s: S): number
  /** A place of a solid, to show. */
  at(s: S): P2 | P3
}

/** Both bodies with the step, and what was measured. */
export interface Stepped<S> {
  own: S
  other: S
  /** mm */
  gap: number
  /** What is left of the other's wall beside it where both touch, mm; null where nothing is taken from it. */
  left: number | null
}
