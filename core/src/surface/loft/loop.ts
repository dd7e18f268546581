import { add3, angle3, cross3, norm3, type P3, scale3, sub3 } from '../../math'
import { Way } from '../arclength'
import { type Curve3, reversed3, way3 } from '../curve3'
import { type BesideCurve, turnedBeside } from './beside'

/** Directions that turn by more at a joint make a corner, rad (0.5 deg). */
const CORNER = 0.0087

/** A section of a loft: curves that follow each other round, or run from one end to another. */
export interface Loop {
  curves: Curve3[]
  names: string[]
  closed: boolean
  /** Of each curve the surface that ends at it, where there is one. */
  beside?: (BesideCurve | null)[]
}

/** A section with what is needed to match it with others. */
export interface Ring {
  curves: Curve3[]
  names: string[]
  way: Way
  closed: boolean
  beside?: Loop['beside']
  /** Shares of its length at which it has corners; of an open one its ends as well. */
  corners: number[]
  centre: P3
  /** About which it runs; of unit length, 0 where it encloses nothing. */
  normal: P3
}

/** How finely a section is looked at for its centre and normal. */
const LOOKS = 96

export function ringOf({ curves, names, closed, beside }: Loop): Ring {
  const way = new Way(curves)
  const starts = way.starts
  const n = curves.length
  const corners: number[] = closed ? [] : [0]
  for (let i = closed ? 0 : 1; i < n; i++) {
    const before = curves[(i + n - 1) % n]!
    const turn = angle3(way3(before, 1), way3(curves[i]!, 0))
    if (turn > CORNER) corners.push(starts[i]!)
  }
  if (!closed) corners.push(1)
  let centre: P3 = [0, 0, 0]
  const spots = Array.from({ length: LOOKS }, (_, i) => way.place(i / LOOKS))
  for (const p of spots) centre = add3(centre, scale3(p, 1 / LOOKS))
  let area: P3 = [0, 0, 0]
  for (const [i, p] of spots.entries())
    area = add3(area, cross3(sub3(p, centre), sub3(spots[(i + 1) % LOOKS]!, centre)))
  const size = norm3(area)
  return {
    curves,
    names,
    way,
    closed,
    corners,
    centre,
    normal: size > 1e-9 ? scale3(area, 1 / size) : [0, 0, 0],
    ...(beside ? { beside } : {}),
  }
}

/** The same section run the other way. */
export function turnedRing(r: Ring): Ring {
  return ringOf({
    curves: [...r.curves].reverse().map(reversed3),
    names: [...r.names].reverse(),
    closed: r.closed,
    ...(r.beside ? { beside: [...r.beside].reverse().map((b) => b && turnedBeside(b)) } : {}),
  })
}
