import { norm3, scale3, sub3 } from '../math'
import { type Curve3, place3, through3, Way, way3 } from '../surface'

/** Places at which a simpler curve is held against what it stands for. */
const LOOKS = 400

/**
 * One smooth curve through `count` places of a chain at even lengths, which leaves and arrives as that does (a closed one comes
 * back smoothly to where it starts), and how far it is off at most, mm.
 */
export function refitted(
  pieces: readonly Curve3[],
  closed: boolean,
  count: number,
): { curve: Curve3; off: number } {
  const way = new Way(pieces)
  const n = closed ? count + 1 : count
  const shares = Array.from({ length: n }, (_, i) => i / (n - 1))
  const places = shares.map((s) => way.place(s))
  // Where a closed one begins: the direction of the chain there, on both sides.
  const first = scale3(way3(pieces[0]!, 0), way.length)
  const last = closed ? first : scale3(way3(pieces[pieces.length - 1]!, 1), way.length)
  const curve = through3(places, 5, { first, last }, shares)
  let off = 0
  for (let i = 0; i <= LOOKS; i++) {
    const at = way.place(i / LOOKS)
    off = Math.max(off, nearest(curve, i / LOOKS, at))
  }
  return { curve, off }
}

/** The distance of a place from a curve, from a parameter near to it, by thirds. */
function nearest(c: Curve3, near: number, at: readonly [number, number, number]): number {
  const d = (t: number) => norm3(sub3(place3(c, t), at))
  let [lo, hi] = [Math.max(0, near - 0.02), Math.min(1, near + 0.02)]
  for (let i = 0; i < 40; i++) {
    const [a, b] = [lo + (hi - lo) / 3, hi - (hi - lo) / 3]
    if (d(a) < d(b)) hi = b
    else lo = a
  }
  return Math.min(d((lo + hi) / 2), d(near))
}
