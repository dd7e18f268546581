import { rounded } from './round'
import type { P2 } from './vec2'
import type { P3 } from './vec3'

/** Where a statement applies: on the half-section or profile, mm in [r, z], or in space. */
export interface Place {
  at: P2 | P3
  label?: string
}
/** Whether a place stands in space. */
export const inSpace = (at: P2 | P3): at is P3 => at.length === 3
/** A remedy a person can take with one click: replace these inputs of that op. */
export interface Fix {
  label: string
  op: string
  inputs: Record<string, unknown>
  /** Shows that op instead of changing anything. */
  go?: true
}
/** Why something cannot be, where, and what would help. */
export interface Diagnosis {
  code: string
  message: string
  places: Place[]
  fixes: Fix[]
}
export type Outcome<T> = { ok: true; value: T } | { ok: false; diagnosis: Diagnosis }

export const good = <T>(value: T): Outcome<T> => ({ ok: true, value })
export const bad = (code: string, message: string, places: Place[] = [], fixes: Fix[] = []) =>
  ({ ok: false, diagnosis: { code, message, places, fixes } }) as const

/** A millimetre figure for a sentence: three places at most, no trailing zeros. */
export const mm = (x: number, places = 3): string =>
  `${rounded(x, places).toLocaleString('en-US', { maximumFractionDigits: places, useGrouping: false })} mm`
