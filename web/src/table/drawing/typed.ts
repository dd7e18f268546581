import type { Value } from '@ivory/core/profile'
import { typedNumber } from '../../ui/number'

/**
 * What a typed coordinate is kept as: a plain number where it is one in millimetres, the text itself
 * where it has a unit, names a figure or is to be read in inches. Nothing for an empty text.
 */
export function typedValue(text: string, unit: 'mm' | 'in'): Value | null {
  const t = text.trim()
  if (t === '') return null
  const n = typedNumber(t)
  return unit === 'mm' && n !== null ? n : t
}

/** As `typedValue` for a distance from the axis, where `⌀ 75` gives the diameter. */
export function typedRadius(text: string, unit: 'mm' | 'in'): Value | null {
  const across = /^\s*[⌀Øø]\s*(.+)$/.exec(text)
  if (!across) return typedValue(text, unit)
  const v = typedValue(across[1]!, unit)
  return typeof v === 'number' ? v / 2 : v && `(${v}) / 2`
}
