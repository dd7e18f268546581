import {
  type Arc,
  boundsOf,
  type Curve,
  endOf,
  extremes,
  type Line,
  pointAt,
  startOf,
  subCurve,
} from '../curve'
import { type KernelJob, outlineOf, wiresOf } from '../exact'
import type { Kernel, SolidHandle, WireCurve } from '../kernel'
import { dist, MODEL, type P2, type P3, POINT, polar } from '../math'
import { faceSegs, isWhole, type TurnedBody, turnedPoint } from './body'
import { volumeOf } from './properties'

/**
 * Where the seam of a whole turn stands, rad from the frame's x: off the planes that other things are drawn
 * in, since the kernel fails more often where an edge meets a seam.
 */
const SEAM = 2.2

/** The body as work for the exact kernel: its section swept there, its faces with the names they have. */
export function turnedJob(b: TurnedBody): KernelJob<'turned'> {
  const from = isWhole(b) ? SEAM : b.start
  const put = (p: P2): P3 => turnedPoint(b.frame, p[0], p[1], from)
  const sections = b.regions.map((r) =>
    outlineOf(r, (c) => partedAtAxis(c).flatMap((part) => edges(part, put))),
  )
  const own = faceSegs(b)[0]?.name.split(':')[0] ?? 'turn'
  return {
    verb: 'turned',
    args: {
      sections,
      origin: b.frame.origin,
      axis: b.frame.z,
      angle: b.sweep,
      ends: [`${own}:first`, `${own}:last`],
      volume: volumeOf(b),
    },
    on: [],
  }
}

/** The body as an exact solid in the kernel. The caller frees it. */
export function liftToSolid(kernel: Kernel, b: TurnedBody): SolidHandle {
  const { sections, origin, axis, angle } = turnedJob(b).args
  return kernel.revolve(
    sections.map((s) => s.outline),
    origin,
    axis,
    angle,
  )
}

/** The curve parted where it touches the axis on its way: a pole has to be a vertex. */
function partedAtAxis(c: Curve): Curve[] {
  const box = boundsOf(c)
  if (c.kind === 'line' || box.min[0] > POINT || box.max[0] <= POINT) return [c]
  const touches = extremes(c, 0).filter(
    (t) =>
      pointAt(c, t)[0] <= POINT &&
      ![startOf(c), endOf(c)].some((e) => dist(e, pointAt(c, t)) < MODEL),
  )
  const marks = [0, ...touches.sort((a, b) => a - b), 1]
  return marks.slice(1).map((t1, i) => subCurve(c, marks[i]!, t1))
}

const edges = (c: Curve, put: (p: P2) => P3): WireCurve[] => {
  if (c.kind === 'arc' && crossesAxis(c)) return [rationalArc(c, put)]
  if (c.kind === 'line' && nearlyUpright(c))
    return [{ kind: 'spline', degree: 1, knots: [0, 0, 1, 1], poles: [put(c.a), put(c.b)] }]
  return wiresOf(c, put)
}

/**
 * Whether a line leans from the axis by so little that the kernel would make a cylinder of what is a cone: measured, it does so under
 * 1e-4 rad and is off by up to 1.5e-5 of the volume. What leans by less than its own smallest length is one.
 */
const nearlyUpright = (c: Line): boolean => {
  const [across, up] = [Math.abs(c.b[0] - c.a[0]), Math.abs(c.b[1] - c.a[1])]
  return across > KERNEL_POINT && across < 2e-4 * up
}
const KERNEL_POINT = 1e-7

/**
 * Whether the arc's whole circle reaches the axis without being centred on it. Turned, it would be a
 * torus that runs through itself, which readers of STEP take for something else.
 */
const crossesAxis = (c: Arc): boolean =>
  Math.abs(c.c[0]) > POINT && c.radius > Math.abs(c.c[0]) - POINT

/**
 * The same arc, exactly, as a rational B-spline of degree 2: an eighth of a turn a span, middle weights
 * cos(half the span) (Piegl and Tiller, The NURBS Book, section 7.3; citation from memory).
 */
function rationalArc(c: Arc, put: (p: P2) => P3): WireCurve {
  const n = Math.max(1, Math.ceil(Math.abs(c.sweep) / (Math.PI / 4) - 1e-9))
  const half = c.sweep / n / 2
  const poles: P3[] = []
  const weights: number[] = []
  const knots = [0, 0, 0]
  for (let k = 0; k <= n; k++) {
    const angle = c.start + 2 * half * k
    poles.push(put(polar(c.c, c.radius, angle)))
    weights.push(1)
    if (k === n) break
    poles.push(put(polar(c.c, c.radius / Math.cos(half), angle + half)))
    weights.push(Math.cos(half))
    if (k > 0) knots.push(k / n, k / n)
  }
  return { kind: 'spline', degree: 2, knots: [...knots, 1, 1, 1], poles, weights }
}
