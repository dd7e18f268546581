import { add3, cross3, dot3, type Frame, norm3, type P3, scale3, sub3, unit3 } from './vec3'

/** A motion or scaling of space: x' = m x + t, m a rotation, mirroring or one factor in all directions. */
export interface Motion {
  m: readonly [P3, P3, P3]
  /** mm */
  t: P3
}

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

/** Larger along each direction by a factor of its own, from a place. */
export const stretchFrom = (origin: P3, [x, y, z]: P3): Motion =>
  about(origin, (v) => [x * v[0], y * v[1], z * v[2]])

/** One motion after another. */
export function after(first: Motion, then: Motion): Motion {
  const column = (k: number): P3 => [first.m[0][k]!, first.m[1][k]!, first.m[2][k]!]
  const row = (r: P3): P3 => [dot3(r, column(0)), dot3(r, column(1)), dot3(r, column(2))]
  const [a, b, c] = then.m
  return {
    m: [row(a), row(b), row(c)],
    t: [dot3(a, first.t) + then.t[0], dot3(b, first.t) + then.t[1], dot3(c, first.t) + then.t[2]],
  }
}

/** What undoes a motion that keeps lengths. */
export function undone({ m, t }: Motion): Motion {
  const column = (k: number): P3 => [m[0][k]!, m[1][k]!, m[2][k]!]
  const back: Motion['m'] = [column(0), column(1), column(2)]
  return { m: back, t: [-dot3(back[0], t), -dot3(back[1], t), -dot3(back[2], t)] }
}

/** The least turn about a place that brings one unit direction into another. */
export function turnTo(origin: P3, from: P3, to: P3): Motion {
  const across = cross3(from, to)
  const sine = norm3(across)
  const angle = Math.atan2(sine, dot3(from, to))
  if (sine > 1e-9) return turnAbout(origin, scale3(across, 1 / sine), angle)
  // Already there, or right the other way: about any direction square to it.
  const square = Math.abs(from[2]) < 0.9 ? cross3(from, [0, 0, 1]) : cross3(from, [1, 0, 0])
  return turnAbout(origin, unit3(square), dot3(from, to) > 0 ? 0 : Math.PI)
}

/** Where a motion takes a place, mm. */
export const moved = ({ m, t }: Motion, p: P3): P3 => [
  dot3(m[0], p) + t[0],
  dot3(m[1], p) + t[1],
  dot3(m[2], p) + t[2],
]

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
