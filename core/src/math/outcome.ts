import type { P2 } from './vec2'

/** Where on the half-section (or profile) a statement applies, mm in [r, z]. */
export interface Place {
  at: P2
  label?: string
}
/** A remedy a person can take with one click: replace these inputs of that op. */
export interface Fix {
  label: string
  op: string
  inputs: Record<string, unknown>
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
  `${(Number(x.toFixed(places)) + 0).toLocaleString('en-US', { maximumFractionDigits: places, useGrouping: false })} mm`
