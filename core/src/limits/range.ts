import { type Diagnosis, rounded } from '../math'

/** A stretch of values for which an op holds, in the unit of what is searched. */
export interface Span {
  from: number
  to: number
  /** What fails just above `to`; null where the search ended there without a failure. */
  blocker: Diagnosis | null
}
/** The values for which an op holds, as one or several spans in rising order. */
export interface WorkingRange {
  spans: Span[]
  /** What fails below the first span: at the smallest value tried. Null where the first span starts at 0. */
  below: Diagnosis | null
  /** The smallest value tried. */
  least: number
  cap: number
}

/** How hard a range is searched for. */
export interface Effort {
  /** Values tried besides those between marks. */
  steps: number
  /** Values are told apart down to this share of the largest value searched. */
  resolution: number
}
const THOROUGH: Effort = { steps: 16, resolution: 1e-7 }
/** Where each trial takes the exact kernel. */
export const SPARING: Effort = { steps: 6, resolution: 2e-4 }
/** How far beyond the end of a span its blocker is read. */
const BEYOND = 2e-4
/** Where the smallest value tried fails, smaller ones are tried: so many, each this share of the last. */
const SMALLER = { times: 3, share: 1 / 4 }
/** Marks nearer to each other than this share of the largest value are one. */
const NEAR = 1e-5

/**
 * The spans below `cap` in which `probe` finds nothing wrong; it returns the reason of a failure or null.
 * `marks` are the values at which the geometry changes its make-up (sides meeting, pieces used up), so
 * that it fails or holds as a whole between two of them: every stretch between neighbours is tried, and
 * where two neighbours differ the end of the span is closed in on. The `present` value is tried too: it may be the only one that holds.
 */
export function workingRange(
  probe: (value: number) => Diagnosis | null,
  cap: number,
  marks: readonly number[] = [],
  effort: Effort = THOROUGH,
  present: number | null = null,
): WorkingRange {
  const tried = triedValues(cap, marks, effort.steps, present).map((value) => ({
    value,
    why: probe(value),
  }))
  for (let k = 0; k < SMALLER.times && tried[0]!.why; k++) {
    const value = tried[0]!.value * SMALLER.share
    tried.unshift({ value, why: probe(value) })
  }
  const spans: Span[] = []
  const first = tried[0]!
  let from: number | null = first.why ? null : 0
  for (let i = 1; i < tried.length; i++) {
    const [a, b] = [tried[i - 1]!, tried[i]!]
    if ((a.why === null) === (b.why === null)) continue
    const end = closeIn(probe, a, b, cap, effort.resolution)
    if (end.rises) from = end.holds
    else {
      spans.push({ from: from!, to: end.holds, blocker: end.why })
      from = null
    }
  }
  if (from !== null) spans.push({ from, to: cap, blocker: null })
  return { spans, below: first.why, least: first.value, cap }
}

/** Middles between neighbouring marks and steps, small values closer together, the present value, and the cap. */
function triedValues(
  cap: number,
  marks: readonly number[],
  count: number,
  present: number | null,
): number[] {
  const steps = Array.from({ length: count }, (_, i) => cap * ((i + 1) / count) ** 2)
  const stops = [0, ...marks.filter((m) => m > 0 && m < cap), ...steps].sort((a, b) => a - b)
  const apart = stops.filter((s, i) => i === 0 || s - stops[i - 1]! > NEAR * cap)
  const values = [...apart.slice(1).map((s, i) => (apart[i]! + s) / 2), cap]
  if (present !== null && present > 0 && present < cap) values.push(present)
  return [...new Set(values)].sort((a, b) => a - b)
}

interface Tried {
  value: number
  why: Diagnosis | null
}

/** The last value that holds between one that does and one that does not, and what fails beside it. */
function closeIn(
  probe: (value: number) => Diagnosis | null,
  a: Tried,
  b: Tried,
  cap: number,
  resolution: number,
) {
  const rises = a.why !== null
  let [holds, fails] = rises ? [b.value, a.value] : [a.value, b.value]
  let why = (rises ? a.why : b.why)!
  while (Math.abs(fails - holds) > resolution * cap) {
    const m = (holds + fails) / 2
    const said = probe(m)
    if (said) {
      fails = m
      why = said
    } else holds = m
  }
  // Where a plain number lies at the very end, it is the end, if it holds.
  const plain = rounded((holds + fails) / 2, 4)
  const nearby = Math.abs(plain - holds) < 10 * resolution * cap && plain !== holds
  if (nearby && probe(plain) === null) holds = plain
  // Right at the end rounding may speak first: what fails a little beyond it is the reason.
  const beyond = fails + Math.sign(fails - holds) * BEYOND
  if (beyond > 0 && beyond < cap) why = probe(beyond) ?? why
  return { holds, why, rises }
}

/** The span a value lies in, or null. */
export const spanAt = (r: WorkingRange, value: number): Span | null =>
  r.spans.find((s) => value >= s.from && value <= s.to) ?? null
