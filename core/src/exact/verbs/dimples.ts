import { bad, cross3, good, type Motion, norm3, type P3, unit3 } from '../../math'
import { soundVolume } from '../accept'
import { namesFrom } from '../names'
import { keepMade, type Named, type Verb } from './verb'

export interface DimplesArgs {
  op: string
  /** Of the balls, mm. */
  radius: number
  /** How far they go into the body, or stand out of it, mm. */
  deep: number
  way: 'in' | 'out'
  /** Where each meets the surface, and the direction out of the material there. */
  places: { at: P3; out: P3 }[]
}

/** Measured volumes may differ from that of caps on a flat by this share: what the surface's curve does. */
const CURVED = 0.35

/** Caps of balls taken from a body, or put onto it, all in one call. */
export const dimplesVerb: Verb<DimplesArgs> = {
  version: 1,
  run(bench, on, { op, radius: r, deep, way, places }) {
    const { kernel } = bench
    const [target] = on
    const half = kernel.turn(
      [
        [
          { kind: 'arc', a: [0, 0, -r], mid: [r, 0, 0], b: [0, 0, r] },
          { kind: 'line', a: [0, 0, r], b: [0, 0, -r] },
        ],
      ],
      [0, 0, 0],
      [0, 0, 1],
      2 * Math.PI,
    )
    const ball = keepMade(bench, half)
    const balls = places.map((p, i): Named => {
      const made = keepMade(bench, kernel.moved(ball.shape, standing(p, r, deep, way)))
      return { shape: made.shape, names: made.origins.map(() => [`${op}:dimple${i + 1}`]) }
    })
    const made = keepMade(
      bench,
      kernel.boolean(
        way === 'in' ? 'cut' : 'join',
        target!.shape,
        balls.map((b) => b.shape),
      ),
    )
    const names = namesFrom(made.origins, [target!.names, ...balls.map((b) => b.names)], op)
    const volume = soundVolume(kernel, made.shape, 'What they make')
    if (!volume.ok) return volume
    // Counted by what each left: the kernel may lose one and call the rest valid.
    const left = new Set(names.flat())
    const lost = places.filter((_, i) => !left.has(`${op}:dimple${i + 1}`))
    if (lost.length > 0)
      return bad(
        'lost-copies',
        `${lost.length} of ${places.length} left nothing in the body.`,
        lost.map(({ at }) => ({ at })),
      )
    const cap = (Math.PI * deep ** 2 * (3 * r - deep)) / 3
    const change = Math.abs(volume.value - kernel.measure(target!.shape).volume)
    if (Math.abs(change / (cap * places.length) - 1) > CURVED)
      return bad(
        'not-right',
        'The body did not change by about as much as so many caps measure, so the result is not used: they may run into each other.',
      )
    return good([{ shape: made.shape, names }])
  },
}

/**
 * The motion that sets a ball down: its middle on the normal so that it goes `deep` beyond the surface, its
 * seam on the side away from what is left of it.
 */
function standing(
  { at, out }: { at: P3; out: P3 },
  r: number,
  deep: number,
  way: 'in' | 'out',
): Motion {
  const sign = way === 'in' ? 1 : -1
  const side = norm3(cross3(out, [0, 0, 1])) > 0.1 ? ([0, 0, 1] as const) : ([1, 0, 0] as const)
  const z = unit3(cross3(out, side))
  const x: P3 = [sign * out[0], sign * out[1], sign * out[2]]
  const y = cross3(z, x)
  const off = sign * (r - deep)
  return {
    m: [0, 1, 2].map((k): P3 => [x[k]!, y[k]!, z[k]!]) as unknown as Motion['m'],
    t: [0, 1, 2].map((k) => at[k]! + off * out[k]!) as unknown as P3,
  }
}
