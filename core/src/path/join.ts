import { lerp3, norm3, type P3, sub3 } from '../math'
import { basisOf, type Curve3, end3, fitted3, place3, start3 } from '../surface'
import { TOUCH } from './chain'

/** How near an arc is kept as a free curve, mm. */
const NEAR = 1e-7

/** The curve with its ends moved a little to other places. */
function withEnds(c: Curve3, a: P3, b: P3): Curve3 {
  if (c.kind === 'line') return { kind: 'line', a, b }
  const free =
    c.kind === 'spline'
      ? c
      : fitted3(basisOf(5, [{ at: 0.25 }, { at: 0.5 }, { at: 0.75 }]), (t) => place3(c, t), NEAR)
          .curve
  return { ...free, poles: [a, ...free.poles.slice(1, -1), b] }
}

/** Pieces whose ends nearly meet, made to meet half-way; gaps wider than `reach` mm stay. */
export function joinedEnds(pieces: readonly Curve3[], closed: boolean, reach: number): Curve3[] {
  const n = pieces.length
  const ends = pieces.map((c): [P3, P3] => [start3(c), end3(c)])
  const moved = pieces.map(() => false)
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const next = (i + 1) % n
    const [a, b] = [ends[i]![1], ends[next]![0]]
    const gap = norm3(sub3(b, a))
    if (gap <= TOUCH || gap > reach) continue
    const meet = lerp3(a, b, 0.5)
    ends[i]![1] = meet
    ends[next]![0] = meet
    moved[i] = true
    moved[next] = true
  }
  return pieces.map((c, i) => (moved[i] ? withEnds(c, ...ends[i]!) : c))
}
