import { add3, angle3, cross3, dot3, norm3, type P3, scale3, sub3, unit3 } from '../math'
import { at3, type Curve3, way3 } from '../surface'

/** A frame that moves along a path: a place, the direction of the path, and two directions square to it. */
export interface Moving {
  at: P3
  /** Along the path. */
  t: P3
  x: P3
  y: P3
}

/** Steps a whole turn of bending is parted into; off by 1.6e-5 deg for a helix of three turns at this. */
const STEPS = 96
/** Places nearer than this are one, mm. */
const SAME_PLACE = 1e-7
/** Steps of a curve at least. */
const LEAST = 24

/**
 * A frame carried along curves that run on in each other, with the least turn about the path: by double reflection (Wang,
 * Jüttler, Zheng, Liu 2008; from memory), exact on lines and arcs. `x` is the direction at the start, made square to the path.
 */
export class EvenFrames {
  readonly #pieces: { curve: Curve3; params: Float64Array; frames: Moving[] }[] = []

  constructor(curves: readonly Curve3[], x: P3) {
    let last: Moving | null = null
    for (const curve of curves) {
      const n = stepsOf(curve)
      const params = Float64Array.from({ length: n + 1 }, (_, i) => i / n)
      const frames: Moving[] = []
      for (const t of params) {
        const { p, d1 } = at3(curve, t)
        const dir = unit3(d1)
        last = last ? carried(last, p, dir) : square(p, dir, x)
        frames.push(last)
      }
      this.#pieces.push({ curve, params, frames })
    }
  }

  /** The frame of a piece at its parameter t. */
  at(piece: number, t: number): Moving {
    const { curve, params, frames } = this.#pieces[piece]!
    const n = params.length - 1
    const i = Math.min(n - 1, Math.max(0, Math.floor(t * n)))
    const { p, d1 } = at3(curve, t)
    return carried(frames[i]!, p, unit3(d1))
  }

  /** The frame where the last piece ends. */
  get end(): Moving {
    return this.#pieces[this.#pieces.length - 1]!.frames.at(-1)!
  }
}

/** How finely a frame is carried along a curve. */
function stepsOf(c: Curve3): number {
  if (c.kind === 'line') return 1
  if (c.kind === 'arc') return Math.max(1, Math.ceil((STEPS * Math.abs(c.sweep)) / (2 * Math.PI)))
  let turned = 0
  let before = way3(c, 0)
  const n = 8 * c.poles.length
  for (let i = 1; i <= n; i++) {
    const now = way3(c, i / n)
    turned += angle3(before, now)
    before = now
  }
  return Math.max(LEAST, Math.ceil((STEPS * turned) / (2 * Math.PI)))
}

function square(at: P3, t: P3, x: P3): Moving {
  let across = sub3(x, scale3(t, dot3(x, t)))
  if (norm3(across) < 1e-9) across = cross3(Math.abs(t[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], t)
  const ux = unit3(across)
  return { at, t, x: ux, y: cross3(t, ux) }
}

/** The frame at the next place, by two reflections. */
function carried(f: Moving, at: P3, t: P3): Moving {
  const v1 = sub3(at, f.at)
  const c1 = dot3(v1, v1)
  // Where pieces meet there is no way between the places to mirror in.
  if (c1 < SAME_PLACE ** 2) return dot3(f.t, t) > 1 - 1e-12 ? { ...f, at } : turned(f, at, t)
  const mirrored = (w: P3): P3 => sub3(w, scale3(v1, (2 / c1) * dot3(v1, w)))
  const [r, tt] = [mirrored(f.x), mirrored(f.t)]
  const v2 = sub3(t, tt)
  const c2 = dot3(v2, v2)
  const x = c2 < 1e-30 ? r : sub3(r, scale3(v2, (2 / c2) * dot3(v2, r)))
  return square(at, t, x)
}

/** A kink: by the least turn from the direction before to the one after. */
function turned(f: Moving, at: P3, t: P3): Moving {
  const sum = add3(f.t, t)
  const c = dot3(sum, sum)
  if (c < 1e-12) return square(at, t, f.x)
  // Two reflections: in the plane square to the old direction, then half-way.
  const v = sub3(t, f.t)
  const x = sub3(f.x, scale3(v, (2 / dot3(v, v)) * dot3(v, f.x)))
  return square(at, t, x)
}

/** The angle from one frame's x to another's about the direction of the first, rad, in (-pi, pi]. */
export const angleBetween = (a: Moving, b: Moving): number =>
  Math.atan2(dot3(a.y, b.x), dot3(a.x, b.x))
