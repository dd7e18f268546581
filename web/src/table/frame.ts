import { add3, dot3, type Frame, type P2, type P3, scale3, sub3 } from '@ivory/core/math'

/** Where a section point (r, z) of a turned body falls on a drawing plane. */
export function onPlane(plane: Frame, body: Frame, [r, z]: P2): P2 {
  return seenOn(plane, add3(body.origin, add3(scale3(body.x, r), scale3(body.z, z))))
}

/** Where a place in space falls on a drawing plane, seen square to it. */
export const seenOn = (plane: Frame, p: P3): P2 => {
  const d = sub3(p, plane.origin)
  return [dot3(plane.x, d), dot3(plane.y, d)]
}

/** The plane the table shows when no profile is selected. */
export const FRONT: Frame = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1], z: [0, -1, 0] }
