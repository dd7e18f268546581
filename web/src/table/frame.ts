import type { Frame, P2 } from '@ivory/core/math'

/** Where a section point (r, z) of a turned body falls on a drawing plane. */
export function onPlane(plane: Frame, body: Frame, [r, z]: P2): P2 {
  const d = [0, 1, 2].map(
    (i) => body.origin[i]! + body.x[i]! * r + body.z[i]! * z - plane.origin[i]!,
  )
  const dot = (a: readonly number[]) => a[0]! * d[0]! + a[1]! * d[1]! + a[2]! * d[2]!
  return [dot(plane.x), dot(plane.y)]
}

/** The plane the table shows when no profile is selected. */
export const FRONT: Frame = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1], z: [0, -1, 0] }
