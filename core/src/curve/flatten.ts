import type { P2 } from '../math'
import { evaluate, pointAt, smoothBreaks } from './curve'
import type { Curve } from './types'

/**
 * Parameters of points along the curve such that each chord stays within `chord` mm of it and
 * the direction turns at most `angle` rad from point to point. Starts with 0 and ends with 1.
 */
export function flattenParams(c: Curve, chord: number, angle = Math.PI / 6): number[] {
  if (c.kind === 'line') return [0, 1]
  if (c.kind === 'arc') {
    const byChord = 2 * Math.acos(Math.max(-1, 1 - chord / c.radius))
    const step = Math.max(1e-3, Math.min(angle, Number.isFinite(byChord) ? byChord : angle))
    const n = Math.max(1, Math.ceil(Math.abs(c.sweep) / step - 1e-9))
    return Array.from({ length: n + 1 }, (_, i) => i / n)
  }
  const breaks = smoothBreaks(c)
  const out = [0]
  for (let i = 1; i < breaks.length; i++) {
    split(c, breaks[i - 1]!, breaks[i]!, chord, angle, out, 0)
  }
  return out
}

function split(
  c: Curve,
  t0: number,
  t1: number,
  chord: number,
  angle: number,
  out: number[],
  depth: number,
) {
  const a = evaluate(c, t0)
  const b = evaluate(c, Math.max(t0, t1 - 1e-12))
  const bend = Math.abs(
    Math.atan2(a.d1[0] * b.d1[1] - a.d1[1] * b.d1[0], a.d1[0] * b.d1[0] + a.d1[1] * b.d1[1]),
  )
  const flat =
    bend <= angle &&
    [0.25, 0.5, 0.75].every((u) => {
      const p = pointAt(c, t0 + (t1 - t0) * u)
      return chordDistance(p, a.p, b.p) <= chord
    })
  if ((flat && depth > 0) || depth > 12) {
    out.push(t1)
    return
  }
  const m = (t0 + t1) / 2
  split(c, t0, m, chord, angle, out, depth + 1)
  split(c, m, t1, chord, angle, out, depth + 1)
}

function chordDistance(p: P2, a: P2, b: P2): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const l2 = dx * dx + dy * dy
  const u = l2 > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / l2)) : 0
  return Math.hypot(p[0] - a[0] - dx * u, p[1] - a[1] - dy * u)
}

/** A polyline with the curve parameter of each vertex; stays within `chord` mm of the curve. */
export interface Polyline {
  t: Float64Array
  x: Float64Array
  y: Float64Array
  chord: number
}

const cache = new WeakMap<Curve, Polyline>()

/** The search polyline of a curve: coarse, kept with the curve, for finding starts for Newton. */
export function searchLine(c: Curve): Polyline {
  const known = cache.get(c)
  if (known) return known
  const chord = 0.08
  const t = Float64Array.from(flattenParams(c, chord, Math.PI / 8))
  const x = new Float64Array(t.length)
  const y = new Float64Array(t.length)
  for (let i = 0; i < t.length; i++) {
    const p = pointAt(c, t[i]!)
    x[i] = p[0]
    y[i] = p[1]
  }
  const made = { t, x, y, chord }
  cache.set(c, made)
  return made
}
