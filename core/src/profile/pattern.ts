import { bad, fixed, good, type Outcome } from '../math'

/** What is known of a row of ribs, slots or strips, mm. `size` is the width of one along the row. */
export interface RowKnown {
  size: number
  /** Length the row lies in; without it head and tail mean nothing. */
  length?: number | undefined
  count?: number | undefined
  pitch?: number | undefined
  /** Free space between two. */
  gap?: number | undefined
  /** The gap may be at most this: as few as will do. */
  gapMost?: number | undefined
  head?: number | undefined
  tail?: number | undefined
  /** From the start of the first to the end of the last. */
  extent?: number | undefined
}
export interface Row {
  /** Width of one along the row, mm. */
  size: number
  count: number
  pitch: number
  gap: number
  head: number
  tail: number
  extent: number
  /** What whole pieces leave over at the tail of the extent asked for, mm. */
  rest: number
}

const FIT = 1e-9

/**
 * Reckons a row from what is known of it: extent from length and margins (margins equal when neither is
 * given), pitch from count, count from pitch or gap. Arithmetic: extent = (count - 1) pitch + size.
 */
export function reckonRow(k: RowKnown): Outcome<Row> {
  const given = Object.entries(k).filter(([, v]) => v !== undefined)
  const wrong = given.find(([, v]) => !Number.isFinite(v))
  if (wrong) return bad('row', `The ${wrong[0]} is not a number.`)
  if (!(k.size >= 0)) return bad('row', 'The size of one piece cannot be negative.')
  if (k.pitch !== undefined && k.gap !== undefined && Math.abs(k.pitch - k.size - k.gap) > FIT)
    return bad('row', 'Pitch and gap are both given and differ: the pitch is the size and the gap.')
  if (k.count !== undefined && (k.count < 1 || Math.abs(k.count - Math.round(k.count)) > FIT))
    return bad('row', 'The count must be a whole number, 1 or more.')
  const step = k.pitch ?? (k.gap === undefined ? undefined : k.size + k.gap)
  if (step !== undefined && !(step > 0)) return bad('row', 'The pitch must be more than 0.')
  const space = extentOf(k)
  if (k.count !== undefined) {
    const n = Math.round(k.count)
    if (step !== undefined) return placed(k, n, step, (n - 1) * step + k.size, space)
    if (space === undefined) return bad('row', 'Give the pitch, the gap or the extent as well.')
    if (n === 1) return placed(k, 1, space, k.size, space)
    return placed(k, n, (space - k.size) / (n - 1), space, space)
  }
  if (space === undefined) return bad('row', 'Give two of count, pitch or gap, margins and extent.')
  if (k.gapMost !== undefined) {
    if (!(k.gapMost + k.size > 0)) return bad('row', 'The largest gap must be more than 0.')
    const n = Math.max(2, Math.ceil((space + k.gapMost) / (k.size + k.gapMost) - FIT))
    return placed(k, n, (space - k.size) / (n - 1), space, space)
  }
  if (step === undefined) return bad('row', 'Give the count, the pitch or the gap as well.')
  const n = Math.floor((space - k.size) / step + 1 + FIT)
  if (n < 1) return bad('row', `Not one piece of ${k.size} mm fits into ${fixed(space, 3)} mm.`)
  return placed(k, n, step, (n - 1) * step + k.size, space)
}

/** The extent asked for: given, or what the margins leave of the length. */
function extentOf(k: RowKnown): number | undefined {
  if (k.extent !== undefined) return k.extent
  if (k.length === undefined || (k.head === undefined && k.tail === undefined)) return undefined
  return k.length - (k.head ?? k.tail!) - (k.tail ?? k.head!)
}

function placed(
  k: RowKnown,
  count: number,
  pitch: number,
  extent: number,
  space: number | undefined,
): Outcome<Row> {
  if (!(extent >= k.size - FIT) || (space !== undefined && extent > space + FIT))
    return bad(
      'row',
      `${count} pieces need ${fixed(extent, 3)} mm; there are ${fixed(space ?? 0, 3)} mm.`,
    )
  const left = k.length === undefined ? 0 : k.length - extent
  const rest = space === undefined ? 0 : Math.max(0, space - extent)
  const head = k.head ?? (k.tail === undefined ? left / 2 : left - rest - k.tail)
  const tail = k.length === undefined ? (k.tail ?? 0) : left - head
  if (k.length !== undefined && (head < -FIT || tail < -FIT))
    return bad('row', `The row is ${fixed(-Math.min(head, tail), 3)} mm longer than its place.`)
  return good({ size: k.size, count, pitch, gap: pitch - k.size, head, tail, extent, rest })
}
