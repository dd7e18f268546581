import { type Curve, pointAt, smoothBreaks, subCurve } from '../curve'
import type { Kernel, PlanarFace, SolidHandle, WireCurve } from '../kernel'
import type { P2, P3 } from '../math'
import type { Loop } from '../profile'
import { type TurnedBody, turnedPoint } from './body'

/** The body as an exact solid in the kernel: its section swept there. The caller frees it. */
export function liftToSolid(kernel: Kernel, b: TurnedBody): SolidHandle {
  const put = (p: P2): P3 => turnedPoint(b.frame, p[0], p[1], b.start)
  const faces: PlanarFace[] = b.regions.map((r) => [r.outer, ...r.holes].map((l) => wire(l, put)))
  return kernel.revolve(faces, b.frame.origin, b.frame.z, b.sweep)
}

const wire = (loop: Loop, put: (p: P2) => P3): WireCurve[] =>
  loop.flatMap((s) => edges(s.curve, put))

function edges(c: Curve, put: (p: P2) => P3): WireCurve[] {
  if (c.kind === 'line') return [{ kind: 'line', a: put(c.a), b: put(c.b) }]
  if (c.kind === 'spline') {
    return [{ kind: 'spline', degree: c.degree, knots: [...c.knots], poles: c.poles.map(put) }]
  }
  // Up to a half turn an edge: an arc through three points is then well set.
  const breaks = Math.abs(c.sweep) > Math.PI * 0.99 ? smoothBreaks(c) : [0, 1]
  return breaks.slice(1).map((t1, i) => {
    const part = subCurve(c, breaks[i]!, t1)
    return {
      kind: 'arc',
      a: put(pointAt(part, 0)),
      mid: put(pointAt(part, 0.5)),
      b: put(pointAt(part, 1)),
    }
  })
}
