import { bad, good, type Outcome, type P2 } from '../math'

/** Places of a box in rows from its middle, so that both sides are alike; `most` bounds how many are looked at. */
export function gridOver(
  { min, max }: { min: P2; max: P2 },
  pitch: number,
  layout: 'hex' | 'square',
  most: number,
): Outcome<P2[]> {
  const rise = layout === 'hex' ? pitch * Math.sqrt(0.75) : pitch
  const [w, h] = [max[0] - min[0], max[1] - min[1]]
  if ((w / pitch) * (h / rise) > most)
    return bad('too-many', 'At this pitch there are far more places than are made at once.')
  const [mx, my] = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2]
  const rows = Math.ceil(h / rise / 2)
  const columns = Math.ceil(w / pitch / 2) + 1
  const places: P2[] = []
  for (let row = -rows; row <= rows; row++)
    for (let column = -columns; column <= columns; column++) {
      const aside = layout === 'hex' && row % 2 !== 0 ? pitch / 2 : 0
      places.push([mx + column * pitch + aside, my + row * rise])
    }
  return good(places)
}
