import DxfParser from 'dxf-parser'
import { type Arc, arc, type Curve, ellipse, fitSpline, line, type Spline, spline } from '../curve'
import { bad, good, type Outcome, type P2 } from '../math'
import { isSane, MAX_OUTLINE_BYTES, MAX_PIECES, type Outlines } from './outlines'

/** Millimetres in a unit by the header's $INSUNITS (DXF reference): in, ft, mm, cm, m. */
const UNITS: Record<number, number> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000 }

interface Vertex {
  x: number
  y: number
  bulge?: number
}
/** The fields of a parsed entity that are read here; all are checked before use. */
interface Raw {
  type: string
  vertices?: Vertex[]
  center?: Vertex
  radius?: number
  startAngle?: number
  endAngle?: number
  majorAxisEndPoint?: Vertex
  axisRatio?: number
  shape?: boolean
  controlPoints?: Vertex[]
  fitPoints?: Vertex[]
  knotValues?: number[]
  degreeOfSplineCurve?: number
  closed?: boolean
  weights?: number[]
  extrusionDirectionZ?: number
}

interface Parsed {
  entities?: unknown[]
  header?: Record<string, unknown>
}

const TURN = 2 * Math.PI
const p2 = (v: Vertex): P2 => [v.x, v.y]

/** Lines, arcs, circles, ellipses, polylines with bulges and splines of a DXF text; the rest is listed. */
export function readDxf(text: string): Outcome<Outlines> {
  if (text.length > MAX_OUTLINE_BYTES)
    return bad('too-large', 'The file is larger than 20 MB, too large for an outline.')
  let parsed: Parsed | null
  try {
    parsed = new DxfParser().parseSync(text) as Parsed | null
  } catch {
    return bad('bad-dxf', 'The file is not a readable DXF text file.')
  }
  const entities = (parsed?.entities ?? []) as Raw[]
  if (entities.length === 0) return bad('bad-dxf', 'The file holds nothing that can be drawn.')
  if (entities.length > MAX_PIECES)
    return bad(
      'too-many',
      `The file holds ${entities.length} entities; ${MAX_PIECES} are the most.`,
    )
  const curves: Curve[] = []
  const skipped = unknownIn(text)
  for (const e of entities) {
    const made = curvesOf(e).filter(isSane)
    if (made.length === 0) skipped[e.type] = (skipped[e.type] ?? 0) + 1
    curves.push(...made)
  }
  if (curves.length === 0)
    return bad('nothing', `Nothing in the file can be drawn: ${Object.keys(skipped).join(', ')}.`)
  if (curves.length > MAX_PIECES)
    return bad('too-many', `The file draws ${curves.length} pieces; ${MAX_PIECES} are the most.`)
  return good({ curves, skipped, unit: UNITS[Number(parsed?.header?.$INSUNITS)] })
}

function curvesOf(e: Raw): Curve[] {
  // Drawn from behind: mirrored; told as skipped rather than drawn the wrong way round.
  if (e.extrusionDirectionZ !== undefined && e.extrusionDirectionZ < 0) return []
  switch (e.type) {
    case 'LINE':
      return e.vertices?.length === 2 ? [line(p2(e.vertices[0]!), p2(e.vertices[1]!))] : []
    case 'CIRCLE':
      return e.center && e.radius! > 0 ? [arc(p2(e.center), e.radius!, 0, TURN)] : []
    case 'ARC': {
      if (!e.center || !(e.radius! > 0)) return []
      return [arc(p2(e.center), e.radius!, e.startAngle!, sweepOf(e.startAngle!, e.endAngle!))]
    }
    case 'ELLIPSE': {
      if (!e.center || !e.majorAxisEndPoint || !(e.axisRatio! > 0)) return []
      const u = p2(e.majorAxisEndPoint)
      const v: P2 = [-u[1] * e.axisRatio!, u[0] * e.axisRatio!]
      return [ellipse(p2(e.center), u, v, e.startAngle, sweepOf(e.startAngle!, e.endAngle!))]
    }
    case 'LWPOLYLINE':
    case 'POLYLINE':
      return polyline(e.vertices ?? [], Boolean(e.shape))
    case 'SPLINE':
      return splineOf(e)
    default:
      return []
  }
}

/** Kinds of entity the parser passes over in silence, counted. */
function unknownIn(text: string): Record<string, number> {
  const lines = text.split(/\r\n|\r|\n/)
  const out: Record<string, number> = {}
  let inside = false
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const [code, value] = [lines[i]!.trim(), lines[i + 1]!.trim()]
    if (code === '2' && value === 'ENTITIES') inside = true
    if (code !== '0') continue
    if (value === 'ENDSEC') inside = false
    if (inside && !PARSED.has(value)) out[value] = (out[value] ?? 0) + 1
  }
  return out
}
const PARSED = new Set(
  '3DFACE ARC ATTDEF CIRCLE DIMENSION ELLIPSE INSERT LINE LWPOLYLINE MTEXT POINT POLYLINE SOLID SPLINE TEXT VERTEX SEQEND SECTION'.split(
    ' ',
  ),
)

/** The turn to the left from one angle to the other; a whole one when they are equal. */
const sweepOf = (from: number, to: number): number => {
  const s = (((to - from) % TURN) + TURN) % TURN
  return s < 1e-12 ? TURN : s
}

/** A bulge is the tangent of a quarter of the arc's angle, left positive (DXF reference). */
function polyline(vertices: Vertex[], closed: boolean): Curve[] {
  const n = closed ? vertices.length : vertices.length - 1
  return Array.from({ length: Math.max(0, n) }, (_, i): Curve => {
    const [v, w] = [vertices[i]!, vertices[(i + 1) % vertices.length]!]
    const [a, b] = [p2(v), p2(w)]
    const bulge = v.bulge ?? 0
    if (Math.abs(bulge) < 1e-12) return line(a, b)
    const k = (1 - bulge * bulge) / (4 * bulge)
    const c: P2 = [(a[0] + b[0]) / 2 - k * (b[1] - a[1]), (a[1] + b[1]) / 2 + k * (b[0] - a[0])]
    const radius = Math.hypot(a[0] - c[0], a[1] - c[1])
    return arc(c, radius, Math.atan2(a[1] - c[1], a[0] - c[0]), 4 * Math.atan(bulge))
  }).filter((c) => c.kind !== 'line' || c.a[0] !== c.b[0] || c.a[1] !== c.b[1])
}

function splineOf(e: Raw): Curve[] {
  const poles = (e.controlPoints ?? []).map(p2)
  const degree = e.degreeOfSplineCurve ?? 3
  if (e.weights?.some((w) => Math.abs(w - e.weights![0]!) > 1e-9)) return []
  if (poles.length > degree && e.knotValues?.length === poles.length + degree + 1) {
    const [lo, hi] = [e.knotValues[degree]!, e.knotValues[poles.length]!]
    const knots = e.knotValues.map((k) => (k - lo) / (hi - lo))
    const clamped = knots[0] === 0 && knots[knots.length - 1] === 1
    return hi > lo && clamped && degree <= 5 ? [spline(degree, knots, poles)] : []
  }
  const through = (e.fitPoints ?? []).map(p2)
  return through.length >= 2
    ? [
        fitSpline(
          through,
          through.map(() => ({ hold: 'auto' as const })),
        ),
      ]
    : []
}

/** A DXF text of curves in mm: LINE, ARC, CIRCLE and SPLINE, each as what it is. */
export function writeDxf(curves: readonly Curve[]): string {
  const out: (string | number)[] = [
    ...[0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1021', 9, '$INSUNITS', 70, 4, 0, 'ENDSEC'],
    ...[0, 'SECTION', 2, 'ENTITIES'],
  ]
  for (const c of curves) out.push(...entity(c))
  out.push(0, 'ENDSEC', 0, 'EOF')
  return `${out.join('\n')}\n`
}

function entity(c: Curve): (string | number)[] {
  if (c.kind === 'line')
    return [0, 'LINE', 8, '0', 10, c.a[0], 20, c.a[1], 30, 0, 11, c.b[0], 21, c.b[1], 31, 0]
  if (c.kind === 'spline') return splineEntity(c)
  const centre = [10, c.c[0], 20, c.c[1], 30, 0, 40, c.radius]
  if (Math.abs(c.sweep) > TURN - 1e-9) return [0, 'CIRCLE', 8, '0', ...centre]
  return [0, 'ARC', 8, '0', ...centre, ...arcAngles(c)]
}

/** Always to the left from 50 to 51, degrees. */
function arcAngles(c: Arc): number[] {
  const [from, to] = c.sweep > 0 ? [c.start, c.start + c.sweep] : [c.start + c.sweep, c.start]
  const deg = (a: number) => ((((a * 180) / Math.PI) % 360) + 360) % 360
  return [50, deg(from), 51, deg(to)]
}

const splineEntity = (s: Spline): (string | number)[] => [
  ...[0, 'SPLINE', 8, '0', 70, 8, 71, s.degree, 72, s.knots.length, 73, s.poles.length],
  ...s.knots.flatMap((k) => [40, k]),
  ...s.poles.flatMap((p) => [10, p[0], 20, p[1], 30, 0]),
]
