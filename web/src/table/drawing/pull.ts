import type { P2 } from '@ivory/core/math'
import { rounded } from '@ivory/core/math'
import type { Drawing } from '@ivory/core/profile'
import type { Driver } from '@ivory/core/rebuild'
import type { Workpiece } from '@ivory/core/workpiece'

const dot = (a: P2, b: P2): number => a[0] * b[0] + a[1] * b[1]
const size = (a: P2): number => Math.hypot(a[0], a[1])

/** A number answers to a drag that runs at least this much its way (cosine). */
const ANSWERS = 0.35

/** The numbers that answer to a drag by `step` mm: those that speak of the point itself first, then the straightest. */
export function answering(drivers: readonly Driver[], step: P2): Driver[] {
  const straight = (d: Driver) => Math.abs(dot(d.moves, step)) / (size(d.moves) * size(step))
  return drivers
    .filter((d) => straight(d) > ANSWERS)
    .sort((a, b) => Number(b.direct) - Number(a.direct) || straight(b) - straight(a))
}

/** The number that brings the point as far along as it goes, in plain steps and within its own limits. */
export function pulled(d: Driver, step: P2): number {
  const v = d.value + dot(step, d.moves) / dot(d.moves, d.moves)
  // Steps that move the point by about a tenth of a millimetre.
  const digits = Math.max(0, Math.min(4, Math.ceil(-Math.log10(0.2 / size(d.moves)))))
  const within = Math.max(d.min ?? Number.NEGATIVE_INFINITY, Math.min(d.max ?? Infinity, v))
  return rounded(within, digits)
}

/** "belly = 83.4 mm": a number as it stands while it is pulled. */
export const pullWords = (d: Driver, value: number): string => `${d.label} = ${value}${d.suffix}`

/** Writes a number where it belongs; changes `doc` (a draft) in place. */
export function putNumber(doc: Workpiece, op: string, d: Driver, value: number): void {
  if (d.of === 'figure') {
    const f = doc.figures.find((x) => x.name === d.id)
    if (f) f.expr = `${value}${d.suffix}`
    return
  }
  const drawing = doc.route.find((o) => o.id === op)?.inputs.drawing as unknown as
    | Drawing
    | undefined
  const dim = drawing?.dimensions?.find((x) => x.id === d.id)
  if (dim) dim.value = value
}
