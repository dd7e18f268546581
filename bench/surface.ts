// Our own surfaces: a loft of four free sections along four rails, from curves to places that could be shown.
import type { P3 } from '@ivory/core/math'
import {
  crossing,
  evaluate,
  evenBasis,
  fittedBeside,
  guideOf,
  interpolated3,
  jet,
  matched,
  Railed,
  ringOf,
  sidesOf,
  skinned,
  through3,
  Way,
} from '@ivory/core/surface'

/** A section of some 60 poles, wavy by `amount`, at a height. */
const section = (height: number, radius: number, amount: number) => {
  const place = (t: number): P3 => {
    const a = 2 * Math.PI * t
    const r = radius + amount * Math.cos(3 * a)
    return [r * Math.cos(a), r * Math.sin(a), height]
  }
  return ringOf({ curves: [interpolated3(evenBasis(3, 60), place)], names: ['s'], closed: true })
}

/** Sections, rails and places shown, made anew; `i` makes each a little different. */
export function loftAlongRails(i: number): number {
  const grow = 1 + i * 1e-4
  const rings = [0, 30, 60, 90].map((z, k) =>
    section(z, (20 + 4 * Math.sin(k)) * grow, 1 + 0.3 * k),
  )
  const ways = matched(rings, [0, 0, 0, 0])
  if (!ways.ok) throw new Error(ways.diagnosis.message)
  const sides = sidesOf(ways.value)
  const skin = skinned(sides, { ruled: false, ring: false, first: null, last: null })
  const guides = [0, 1, 2, 3].map((q) => {
    // Through a place of each section, so that it touches.
    const on = [0, 1, 2, 3].map((k) => sides[0]!.place[k]!((q + 0.5) / 4))
    const rail = new Way([through3(on)])
    const met = [0, 1, 2, 3].map((k) => crossing(rail, sides, k))
    return guideOf(rail, met, skin.params, 1, true)
  })
  const railed = new Railed(skin.patches, guides, true)
  const { patches } = fittedBeside(
    skin.patches.map((p) => p.u),
    evenBasis(5, 12),
    [(us, vs) => railed.over(0, us, vs)],
    1e-3,
  )
  const j = jet()
  let sum = 0
  for (let a = 0; a <= 64; a++)
    for (let b = 0; b <= 64; b++) {
      evaluate(patches[0]!, a / 64, b / 64, 1, j)
      sum += j.p[0]!
    }
  return sum
}
