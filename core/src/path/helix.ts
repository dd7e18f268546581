import { add3, bad, type Frame, good, type Outcome, type P3, scale3 } from '../math'
import { basisOf, type Curve3, fitted3 } from '../surface'

/** A helix about a frame's z from the frame's x: radii (mm) at its start and end, turns, height (mm). */
export interface Helix {
  frame: Frame
  radius: number
  /** Radius at the end; the same where none is told. */
  last?: number
  turns: number
  height: number
  /** Against the clock seen from where z points to, else with it. */
  left?: boolean
}

/** How near the B-spline lies to the true helix, mm. */
const NEAR = 1e-6
/** Spans a turn to begin with; quintic ones are within 1e-6 of radius 20 then. */
const SPANS = 12

/** Any two of pitch (mm a turn), turns and height (mm) give the third. */
export function helixSize(given: {
  pitch?: number
  turns?: number
  height?: number
}): Outcome<{ turns: number; height: number }> {
  const { pitch, turns, height } = given
  if (turns !== undefined && !(turns > 0))
    return bad('not-positive', 'A helix needs more than 0 turns.')
  if (turns !== undefined && height !== undefined) return good({ turns, height })
  if (turns !== undefined && pitch !== undefined) return good({ turns, height: pitch * turns })
  if (height !== undefined && pitch !== undefined && pitch !== 0 && height / pitch > 0)
    return good({ turns: height / pitch, height })
  return bad('not-positive', 'Pitch and height need to be more than 0 to make turns.')
}

/** The place of a helix at a share of its way. */
export function onHelix(
  { frame: f, radius, last = radius, turns, height, left }: Helix,
  s: number,
): P3 {
  const r = radius + (last - radius) * s
  const w = 2 * Math.PI * turns * s * (left ? -1 : 1)
  return add3(
    add3(f.origin, scale3(f.z, height * s)),
    add3(scale3(f.x, r * Math.cos(w)), scale3(f.y, r * Math.sin(w))),
  )
}

/** The helix as a B-spline of degree 5. */
export function helixCurve(h: Helix): Curve3 {
  const spans = Math.max(2, Math.ceil(SPANS * h.turns))
  const breaks = Array.from({ length: spans - 1 }, (_, i) => ({ at: (i + 1) / spans }))
  return fitted3(basisOf(5, breaks), (s) => onHelix(h, s), NEAR).curve
}
