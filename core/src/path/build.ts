import { bad, dot3, good, norm3, type Outcome, type P3, scale3, sub3, unit3 } from '../math'
import { arcFrom3, arcThrough3, type Curve3, through3, throughClosed3, way3 } from '../surface'
import { TOUCH } from './chain'
import { type Chain, rounded } from './round'

/** A place a path goes to, and how it gets there from the one before. */
export interface Stop {
  at: P3
  /**
   * Straight; by an arc that runs on from what comes before; as the middle of an arc to the next place; by a curve through all
   * places that follow each other so.
   */
  by: 'line' | 'arc' | 'over' | 'spline'
  /** Its number among all places of the path, from 1; where it comes in `stops` when absent. */
  number?: number
  /** Radius of the rounding between the straight pieces that meet here, mm; 0 for none, undefined for that of all. */
  round: number | undefined
}

/**
 * The pieces of a path through its stops, `toN` the one that goes to stop N. A closed one goes back to the first, the way
 * that one says. Corners between straight pieces are rounded by `round` mm where a stop has no radius of its own.
 */
export function built(stops: readonly Stop[], closed: boolean, round = 0): Outcome<Chain> {
  if (stops.length < 2) return bad('too-few', 'A path needs two places at least.')
  if (closed && stops.length < 3 && stops.every((s) => s.by === 'line'))
    return bad('too-few', 'A closed path of lines needs three places at least.')
  const raw: Piece[] = []
  const told = (n: number) => stops[n - 1]!.number ?? n
  if (closed && stops.every((s) => s.by === 'spline')) return closedCurve(stops)
  const goals = closed ? [...stops.slice(1), stops[0]!] : stops.slice(1)
  for (let i = 0; i < goals.length; ) {
    const from = i === 0 ? stops[0]!.at : goals[i - 1]!.at
    const goal = goals[i]!
    const number = i + 2 > stops.length ? 1 : i + 2
    if (goal.by === 'spline') {
      let n = 1
      while (goals[i + n]?.by === 'spline') n++
      const made = curve(from, goals.slice(i, i + n), raw[raw.length - 1], goals[i + n])
      if (!made.ok) return made
      raw.push({ curve: made.value, stop: number + n - 1 > stops.length ? 1 : number + n - 1 })
      i += n
      continue
    }
    if (goal.by === 'over') {
      const made = arcOver(from, goal, goals[i + 1], told(number))
      if (!made.ok) return made
      raw.push({ curve: made.value, stop: number + 1 > stops.length ? 1 : number + 1 })
      i += 2
      continue
    }
    if (norm3(sub3(goal.at, from)) < TOUCH)
      return bad('no-length', `Place ${told(number)} lies on the one before it.`, [{ at: goal.at }])
    if (goal.by === 'line') raw.push({ curve: { kind: 'line', a: from, b: goal.at }, stop: number })
    else {
      const before = raw[raw.length - 1]
      if (!before)
        return bad(
          'no-direction',
          'An arc runs on from what comes before it: begin with a line or a curve.',
          [{ at: from }],
        )
      const dir = way3(before.curve, 1)
      const arc = arcFrom3(from, dir, goal.at)
      const ahead = dot3(sub3(goal.at, from), dir) > 0
      if (!arc && !ahead)
        return bad('turns-back', `Place ${told(number)} lies right behind: no arc leads there.`, [
          { at: goal.at },
        ])
      raw.push({ curve: arc ?? { kind: 'line', a: from, b: goal.at }, stop: number })
    }
    i++
  }
  const corners = raw.map(({ curve, stop }) => {
    const own = stops[stop - 1]!.round
    return {
      curve,
      name: `to${told(stop)}`,
      round: own ?? round,
      must: own !== undefined && own !== 0,
    }
  })
  return rounded(corners, closed)
}

interface Piece {
  curve: Curve3
  stop: number
}

/** The arc over a place to the next. */
function arcOver(from: P3, over: Stop, to: Stop | undefined, number: number): Outcome<Curve3> {
  if (!to)
    return bad('no-end', `Place ${number} is the middle of an arc: it takes one more to end at.`, [
      { at: over.at },
    ])
  const arc = arcThrough3(from, over.at, to.at)
  return arc
    ? good(arc)
    : bad('straight', `Place ${number} lies in line with its neighbours: no arc goes over it.`, [
        { at: over.at },
      ])
}

/** One smooth curve through all places, back to the first. */
function closedCurve(stops: readonly Stop[]): Outcome<Chain> {
  const places = stops.map((s) => s.at)
  if (places.length < 3) return bad('too-few', 'A closed curve goes through three places at least.')
  const close = places.findIndex((p, i) => norm3(sub3(p, places.at(i - 1)!)) < TOUCH)
  if (close >= 0)
    return bad('no-length', 'Two places of a curve lie on each other.', [{ at: places[close]! }])
  const corner = {
    curve: throughClosed3(places),
    name: `to${stops[0]!.number ?? 1}`,
    round: 0,
    must: false,
  }
  return rounded([corner], true)
}

/** A curve through places that leaves and arrives the way its neighbours run. */
function curve(
  from: P3,
  goals: readonly Stop[],
  before: Piece | undefined,
  after: Stop | undefined,
): Outcome<Curve3> {
  const places = [from, ...goals.map((g) => g.at)]
  const close = places.findIndex((p, i) => i > 0 && norm3(sub3(p, places[i - 1]!)) < TOUCH)
  if (close > 0)
    return bad('no-length', 'Two places of a curve lie on each other.', [{ at: places[close]! }])
  const length = places.slice(1).reduce((sum, p, i) => sum + norm3(sub3(p, places[i]!)), 0)
  const last = places[places.length - 1]!
  const first = before && scale3(way3(before.curve, 1), length)
  const onward =
    after?.by === 'line' && norm3(sub3(after.at, last)) > TOUCH
      ? scale3(unit3(sub3(after.at, last)), length)
      : undefined
  return good(
    through3(places, 3, { ...(first ? { first } : {}), ...(onward ? { last: onward } : {}) }),
  )
}
