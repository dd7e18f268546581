import {
  bad,
  type Diagnosis,
  dot3,
  good,
  norm3,
  type Outcome,
  type P3,
  rounded,
  scale3,
  sub3,
  unit3,
} from '../../../math'
import {
  type EndHold,
  isTip,
  type Matched,
  meetingOff,
  type Patch,
  runningOn,
  type Section,
  type Side,
} from '../../../surface'
import type { OpContext } from '../../state'
import { type LoftInputs, railed } from './inputs'
import type { LoftSection } from './section'

/** Up to which a skin runs on in what lies beside it: angle (rad), and share of the curvature. */
const RUNS_ON = { angle: 1.75e-3, bend: 0.05 }

/** How the skin was measured to meet what lies beside its ends, where it was to run on. */
export function meetings(
  patches: readonly Patch[],
  row: readonly Section[],
  input: LoftInputs,
): { words: string[]; warnings: Diagnosis[] } {
  const words: string[] = []
  const warnings: Diagnosis[] = []
  if (input.run === 'ruled' || input.ring === 'yes') return { words, warnings }
  for (const last of [false, true]) {
    const how = last ? input.ends : input.begins
    const own = row[last ? row.length - 1 : 0]!
    if ((how !== 'on' && how !== 'bent') || isTip(own)) continue
    const { angle, bend, at } = meetingOff(patches, own, last)
    const [deg, share] = [rounded((angle * 180) / Math.PI, 3), rounded(100 * bend, 1)]
    const told = how === 'bent' ? `${deg}° and ${share} % of curvature` : `${deg}°`
    const end = last ? 'end' : 'beginning'
    words.push(`${end} runs on within ${told}`)
    if (angle > RUNS_ON.angle || (how === 'bent' && bend > RUNS_ON.bend))
      warnings.push({
        code: 'meets-off',
        message: `At its ${end} the skin is off what lies beside it by ${told}${railed(input) ? ': the rails lead it away' : ''}.`,
        places: [{ at }],
        fixes: [],
      })
  }
  return { words, warnings }
}

/** What holds the ends of the skin: square to the section's plane, or the roundness of a dome. */
export function endHolds(
  row: readonly Section[],
  sides: readonly Side[],
  steps: readonly number[],
  sections: readonly LoftSection[],
  input: LoftInputs,
  ctx: OpContext,
): Outcome<{ first: EndHold; last: EndHold }> {
  const n = row.length
  const whole = steps.reduce((a, b) => a + b, 0)
  /** How much of the whole way a step is, as v counts it. */
  const share = (step: number) => steps[step]! / whole
  const hold = (last: boolean): Outcome<EndHold> => {
    const [i, next] = last ? [n - 1, n - 2] : [0, 1]
    const s = sections[i]!
    if (s.kind === 'tip') {
      if (!s.domed || input.run === 'ruled') return good(null)
      const scale = s.weight / share(Math.min(i, next))
      return good(domed(s.at, middleOf(row[next]!), scale, sides, next, last))
    }
    const how = last ? input.ends : input.begins
    if (how === 'free' || input.run === 'ruled' || input.ring === 'yes') return good(null)
    const pull = ctx.read(last ? input.endPull : input.beginPull, 'number')
    if (!(pull > 0)) return bad('not-positive', 'The pull must be more than 0.')
    const own = row[i] as Matched
    const { ring } = own
    const to = sub3(middleOf(row[next]!), ring.centre)
    // As far as the next section is, in a unit of v for all sections together.
    const reach = (pull * norm3(to)) / share(Math.min(i, next))
    if (how !== 'square') return runningOn(own, reach, last, how === 'bent')
    const along = dot3(to, ring.normal)
    if (Math.abs(along) < 0.05 * norm3(to))
      return bad(
        'beside',
        'The next section lies beside this one, not before it: the skin cannot leave it square.',
        [{ at: ring.centre }],
      )
    const way = scale3(unit3(ring.normal), reach * Math.sign(along) * (last ? -1 : 1))
    return good({ slope: () => way })
  }
  const first = hold(false)
  if (!first.ok) return first
  const last = hold(true)
  return last.ok ? good({ first: first.value, last: last.value }) : last
}

export const middleOf = (s: Section): P3 => ('tip' in s ? s.tip : s.ring.centre)

/** The skin leaves a dome's top level, away to where its neighbour section lies. */
function domed(
  top: P3,
  middle: P3,
  weight: number,
  sides: readonly Side[],
  next: number,
  last: boolean,
): EndHold {
  const axis = unit3(sub3(top, middle))
  const scale = (weight * Math.PI) / 2
  return {
    slope(u, side) {
      const out = sub3(sides[side]!.place[next]!(u), middle)
      const flat = sub3(out, scale3(axis, dot3(out, axis)))
      return scale3(flat, last ? -scale : scale)
    },
  }
}
