import type { Frame, P3 } from '../math'
import { AXIS, type Loop, loopsOf, type Region, type Seg } from '../profile'

/**
 * A body swept by half-section regions about an axis. The frame's z is the axis and its x the
 * radial direction at angle 0; regions are in [r, z], material to the left of their loops. The
 * sweep runs from `start` by `sweep` rad (2 pi for a whole turn). Pieces named `AXIS` lie on the
 * axis and bound the section only.
 */
export interface TurnedBody {
  readonly frame: Frame
  readonly start: number
  readonly sweep: number
  readonly regions: readonly Region[]
}

export const FULL_TURN = 2 * Math.PI
export const isWhole = (b: TurnedBody): boolean => Math.abs(b.sweep - FULL_TURN) < 1e-9

/** Space position of section point (r, z) at angle `theta` (rad from the frame's x). */
export const turnedPoint = (f: Frame, r: number, z: number, theta: number): P3 => {
  const [c, s] = [r * Math.cos(theta), r * Math.sin(theta)]
  return [
    f.origin[0] + f.x[0] * c + f.y[0] * s + f.z[0] * z,
    f.origin[1] + f.x[1] * c + f.y[1] * s + f.z[1] * z,
    f.origin[2] + f.x[2] * c + f.y[2] * s + f.z[2] * z,
  ]
}

/** Loops of the body's regions. */
export const bodyLoops = (b: TurnedBody): Loop[] => loopsOf(b.regions)
/** Boundary pieces that are faces of the body (all but those on the axis). */
export const faceSegs = (b: TurnedBody): Seg[] =>
  bodyLoops(b)
    .flat()
    .filter((s) => s.name !== AXIS)
