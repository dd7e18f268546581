import { type Curve, placeCurve } from '../curve'
import { type P2, polar } from '../math'
import type { Letter } from './font'

/** Where a line of letters goes in its plane; lengths in mm, angles in rad. */
export type TextWay = {
  /** The place its start, middle or end lies on; of an arc, its centre. */
  at: P2
  align: 'start' | 'middle' | 'end'
} & (
  | { along: 'line'; turn: number }
  /** On an arc of this radius, `turn` from the plane's x; the feet point to the centre or away from it. */
  | { along: 'arc'; radius: number; turn: number; feet: 'in' | 'out' }
  /** On a curve: `on` gives the place and heading at a length along it, `begin` the length where it is aligned. */
  | { along: 'curve'; begin: number; on(length: number): { at: P2; heading: number } }
)

export interface Placed {
  char: string
  curves: Curve[]
}

/** The letters on a line or an arc, each set down as it is; `behind` mirrors the whole to be read from there. */
export function placeLetters(
  letters: readonly Letter[],
  width: number,
  way: TextWay,
  behind: boolean,
): Placed[] {
  const shift = { start: 0, middle: -width / 2, end: -width }[way.align]
  return letters.map(({ char, x, advance, curves }) => {
    const s = x + shift
    if (way.along === 'curve' && behind)
      return { char, curves: mirroredOn(way, s, advance, curves) }
    const { foot, heading } = footOf(s, advance, way)
    const flip = behind ? -1 : 1
    const [ux, uy] = polar([0, 0], 1, heading)
    const put = curves.map((c) =>
      placeCurve(c, {
        origin: [way.at[0] + flip * foot[0], way.at[1] + foot[1]],
        x: [flip * ux, uy],
        y: [flip * -uy, ux],
      }),
    )
    return { char, curves: put }
  })
}

/** Where a letter's start lies from the place, and which way its foot line runs. */
function footOf(s: number, advance: number, way: TextWay): { foot: P2; heading: number } {
  if (way.along === 'line') return { foot: polar([0, 0], s, way.turn), heading: way.turn }
  // The middle of the letter's foot is on the arc or curve, and the letter stands square there.
  const mid = s + advance / 2
  if (way.along === 'curve') {
    const { at, heading } = way.on(way.begin + mid)
    return { foot: polar(at, -advance / 2, heading), heading }
  }
  const inward = way.feet === 'in'
  const angle = way.turn + (inward ? -mid : mid) / way.radius
  const heading = angle + (inward ? -Math.PI / 2 : Math.PI / 2)
  const on = polar([0, 0], way.radius, angle)
  return { foot: polar(on, -advance / 2, heading), heading }
}

/** A letter that is read from behind keeps its place on a curve: the words run against that, every letter mirrored. */
function mirroredOn(
  way: Extract<TextWay, { along: 'curve' }>,
  s: number,
  advance: number,
  curves: readonly Curve[],
): Curve[] {
  const { at, heading } = way.on(way.begin - s - advance / 2)
  const [ux, uy] = polar([0, 0], 1, heading)
  const origin = polar(at, advance / 2, heading)
  return curves.map((c) => placeCurve(c, { origin, x: [-ux, -uy], y: [-uy, ux] }))
}
