import type { Motion } from '../kernel'
import { add3, cross3, dot3, type Frame, type P3, scale3, sub3 } from '../math'

const IDENTITY: Motion['m'] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
]

/** Along a vector, mm. */
export const shift = (t: P3): Motion => ({ m: IDENTITY, t })

/** About a line by `angle` rad (Rodrigues). */
export function turnAbout(origin: P3, dir: P3, angle: number): Motion {
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const image = (v: P3): P3 =>
    add3(add3(scale3(v, c), scale3(cross3(dir, v), s)), scale3(dir, dot3(dir, v) * (1 - c)))
  return about(origin, image)
}

/** Over to the other side of a plane. */
export const mirrorIn = (plane: Frame): Motion =>
  about(plane.origin, (v) => sub3(v, scale3(plane.z, 2 * dot3(plane.z, v))))

/** By one factor from a place. */
export const scaleFrom = (origin: P3, factor: number): Motion =>
  about(origin, (v) => scale3(v, factor))

/** The motion that leaves a place where it is and does this to directions from it. */
function about(origin: P3, image: (v: P3) => P3): Motion {
  const [x, y, z] = [image([1, 0, 0]), image([0, 1, 0]), image([0, 0, 1])]
  return {
    m: [
      [x[0], y[0], z[0]],
      [x[1], y[1], z[1]],
      [x[2], y[2], z[2]],
    ],
    t: sub3(origin, image(origin)),
  }
}
