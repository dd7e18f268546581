import type { Place } from '../math'
import { type Cavity, cavityOf, type TurnedBody } from '../turned'
import type { Limits, Target } from '../workpiece'

/** The body a gauge looks at. Its cavity is worked out once for all gauges. */
export interface Subject {
  turned: TurnedBody
  /** g/cm3; undefined when no material is chosen. */
  density: number | undefined
  cavity: Cavity | null
}
export const subjectOf = (turned: TurnedBody, density?: number): Subject => ({
  turned,
  density,
  cavity: cavityOf(turned),
})

/** What a gauge reads. `low` and `high` are held against the limits (one value: both the same). */
export interface Reading {
  low: number
  high: number
  text: string
  /** Further figures, in the order they are shown. */
  rows: { label: string; text: string }[]
  places: Place[]
}
export interface GaugeSpec {
  kind: string
  label: string
  help: string
  unit: string
  /** The brief's target whose limits count when the gauge has none of its own. */
  target?: Target
  params: { name: string; label: string; help: string; start: number }[]
  /** A sentence where the body has no such measure. */
  measure(s: Subject, params: Readonly<Record<string, number | string>>): Reading | string
}

export type Verdict = 'holds' | 'marginal' | 'out' | 'none'

/** Share of the band (or of a single limit) within which a reading is called marginal. */
const MARGIN = { band: 0.05, single: 0.02 }

/** How a reading stands against limits: `none` when there are no limits. */
export function verdictOf(low: number, high: number, limits: Limits | undefined): Verdict {
  const { min, max } = limits ?? {}
  if (min === undefined && max === undefined) return 'none'
  if ((min !== undefined && low < min) || (max !== undefined && high > max)) return 'out'
  const margin =
    min !== undefined && max !== undefined
      ? MARGIN.band * (max - min)
      : MARGIN.single * Math.abs(min ?? max ?? 0)
  const close =
    (min !== undefined && low < min + margin) || (max !== undefined && high > max - margin)
  return close ? 'marginal' : 'holds'
}

export const fixed = (x: number, digits: number): string => x.toFixed(digits)
