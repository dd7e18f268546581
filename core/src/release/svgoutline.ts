import { XMLParser } from 'fast-xml-parser'
import { type CommandA, SVGPathData } from 'svg-pathdata'
import { arc, type Curve, ellipse, line, pointAt, spansOf, spline } from '../curve'
import { bad, good, type Outcome, type P2 } from '../math'
import { isRound, isSane, MAX_OUTLINE_BYTES, MAX_PIECES, type Outlines } from './outlines'

/** x' = a x + c y + e, y' = b x + d y + f, as SVG writes it. */
type Matrix = readonly [number, number, number, number, number, number]
/** SVG's y runs down, the drawing's up. */
const UP: Matrix = [1, 0, 0, -1, 0, 0]
const times = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
]
const put = (m: Matrix, [x, y]: P2): P2 => [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]]
const turned = (m: Matrix, [x, y]: P2): P2 => [m[0] * x + m[2] * y, m[1] * x + m[3] * y]

type Node = Record<string, unknown> & { ':@'?: Record<string, string> }
const SHAPES = ['path', 'line', 'polyline', 'polygon', 'rect', 'circle', 'ellipse']
const GROUPS = ['svg', 'g', 'a']
const SILENT = ['#text', 'defs', 'title', 'desc', 'metadata', 'style', '?xml', 'sodipodi:namedview']
/** Nesting deeper than this is refused. */
const DEEPEST = 60

/** Paths and basic shapes of an SVG, transforms followed; text, pictures and the rest are listed. */
export function readSvg(text: string): Outcome<Outlines> {
  if (text.length > MAX_OUTLINE_BYTES)
    return bad('too-large', 'The file is larger than 20 MB, too large for an outline.')
  let nodes: Node[]
  try {
    const parser = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '',
      preserveOrder: true,
      processEntities: false,
    })
    nodes = parser.parse(text, true) as Node[]
  } catch {
    return bad('bad-svg', 'The file is not a readable SVG.')
  }
  const root = nodes.find((n) => 'svg' in n)
  if (!root) return bad('bad-svg', 'The file is not an SVG: it has no <svg> element.')
  const out: Outlines = { curves: [], skipped: {}, unit: unitOf(root[':@'] ?? {}) }
  try {
    walk([root], UP, out, 0)
  } catch (e) {
    if (e instanceof Refused) return bad('bad-svg', e.message)
    throw e
  }
  if (out.curves.length === 0) return bad('nothing', 'Nothing in the SVG can be drawn.')
  return good(out)
}

class Refused extends Error {}

/** Millimetres in a user unit, where the root gives a width with a unit and a view box. */
function unitOf(at: Record<string, string>): number | undefined {
  const width = /^\s*([\d.]+)\s*(mm|cm|in)\s*$/.exec(at.width ?? '')
  const box = (at.viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  if (!width || !(box[2]! > 0)) return undefined
  return (Number(width[1]) * { mm: 1, cm: 10, in: 25.4 }[width[2] as 'mm']) / box[2]!
}

function walk(nodes: Node[], m: Matrix, out: Outlines, depth: number) {
  if (depth > DEEPEST) throw new Refused('The SVG is nested too deeply to be read.')
  for (const node of nodes) {
    const tag = Object.keys(node).find((k) => k !== ':@')
    if (!tag) continue
    const at = node[':@'] ?? {}
    const here = at.transform ? times(m, transformOf(at.transform)) : m
    if (GROUPS.includes(tag)) walk(node[tag] as Node[], here, out, depth + 1)
    else if (SHAPES.includes(tag)) {
      const made = shapeOf(tag, at, here).filter(isSane)
      if (made.length === 0) out.skipped[tag] = (out.skipped[tag] ?? 0) + 1
      out.curves.push(...made)
      if (out.curves.length > MAX_PIECES)
        throw new Refused(`The SVG draws more than ${MAX_PIECES} pieces.`)
    } else if (!SILENT.includes(tag)) out.skipped[tag] = (out.skipped[tag] ?? 0) + 1
  }
}

function transformOf(text: string): Matrix {
  let m: Matrix = [1, 0, 0, 1, 0, 0]
  for (const [, name, args] of text.matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
    const v = args!
      .trim()
      .split(/[\s,]+/)
      .map(Number)
    const [c, s] = [
      Math.cos(((v[0] ?? 0) * Math.PI) / 180),
      Math.sin(((v[0] ?? 0) * Math.PI) / 180),
    ]
    const about: Matrix = [1, 0, 0, 1, v[1] ?? 0, v[2] ?? 0]
    const back: Matrix = [1, 0, 0, 1, -(v[1] ?? 0), -(v[2] ?? 0)]
    const tan = Math.tan(((v[0] ?? 0) * Math.PI) / 180)
    const one: Matrix | undefined = {
      matrix: v.length === 6 ? (v as unknown as Matrix) : undefined,
      translate: [1, 0, 0, 1, v[0] ?? 0, v[1] ?? 0] as Matrix,
      scale: [v[0] ?? 1, 0, 0, v[1] ?? v[0] ?? 1, 0, 0] as Matrix,
      rotate: times(times(about, [c, s, -s, c, 0, 0]), back),
      skewX: [1, 0, tan, 1, 0, 0] as Matrix,
      skewY: [1, tan, 0, 1, 0, 0] as Matrix,
    }[name!]
    if (!one || one.some((x) => !Number.isFinite(x)))
      throw new Refused(`The transform "${name}" of the SVG is not understood.`)
    m = times(m, one)
  }
  return m
}

function shapeOf(tag: string, at: Record<string, string>, m: Matrix): Curve[] {
  const n = (name: string) => Number.parseFloat(at[name] ?? '0')
  const poly = (pts: P2[], closed: boolean) =>
    (closed ? pts : pts.slice(1)).flatMap((_, i): Curve[] => {
      const [a, b] = [put(m, pts[i]!), put(m, pts[(i + 1) % pts.length]!)]
      return Math.hypot(b[0] - a[0], b[1] - a[1]) > 1e-12 ? [line(a, b)] : []
    })
  switch (tag) {
    case 'line':
      return poly(
        [
          [n('x1'), n('y1')],
          [n('x2'), n('y2')],
        ],
        false,
      )
    case 'polyline':
    case 'polygon': {
      const v = (at.points ?? '')
        .trim()
        .split(/[\s,]+/)
        .map(Number)
      const pts = Array.from(
        { length: Math.floor(v.length / 2) },
        (_, i): P2 => [v[2 * i]!, v[2 * i + 1]!],
      )
      return poly(pts, tag === 'polygon')
    }
    case 'rect': {
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')]
      return w > 0 && h > 0
        ? poly(
            [
              [x, y],
              [x + w, y],
              [x + w, y + h],
              [x, y + h],
            ],
            true,
          )
        : []
    }
    case 'circle':
    case 'ellipse': {
      const [rx, ry] = tag === 'circle' ? [n('r'), n('r')] : [n('rx'), n('ry')]
      return rx > 0 && ry > 0
        ? [round(m, [n('cx'), n('cy')], [rx, 0], [0, ry], 0, 2 * Math.PI)]
        : []
    }
    default:
      return pathOf(at.d ?? '', m)
  }
}

/** An arc of an ellipse by its conjugate half-diameters, carried by the matrix: a true arc where it is round. */
function round(m: Matrix, c: P2, u: P2, v: P2, from: number, sweep: number): Curve {
  const [k, a, b] = [put(m, c), turned(m, u), turned(m, v)]
  if (!isRound(a, b)) return ellipse(k, a, b, from, sweep)
  const side = a[0] * b[1] - a[1] * b[0] > 0 ? 1 : -1
  const start = Math.atan2(a[1], a[0]) + side * from
  return arc(k, Math.hypot(...a), start, side * sweep)
}

function pathOf(d: string, m: Matrix): Curve[] {
  let commands: ReturnType<SVGPathData['toAbs']>['commands']
  try {
    commands = new SVGPathData(d).toAbs().normalizeHVZ(false).normalizeST().commands
  } catch {
    return []
  }
  const out: Curve[] = []
  let [at, start]: [P2, P2] = [
    [0, 0],
    [0, 0],
  ]
  const straight = (to: P2) => {
    if (Math.hypot(to[0] - at[0], to[1] - at[1]) > 1e-12) out.push(line(put(m, at), put(m, to)))
    at = to
  }
  for (const c of commands) {
    if (c.type === SVGPathData.CLOSE_PATH) straight(start)
    else if (c.type === SVGPathData.HORIZ_LINE_TO) straight([c.x, at[1]])
    else if (c.type === SVGPathData.VERT_LINE_TO) straight([at[0], c.y])
    else if (c.type === SVGPathData.MOVE_TO) at = start = [c.x, c.y]
    else if (c.type === SVGPathData.LINE_TO) straight([c.x, c.y])
    else if (c.type === SVGPathData.CURVE_TO || c.type === SVGPathData.QUAD_TO) {
      const inner: P2[] =
        c.type === SVGPathData.QUAD_TO
          ? [[c.x1, c.y1]]
          : [
              [c.x1, c.y1],
              [c.x2, c.y2],
            ]
      const poles = [at, ...inner, [c.x, c.y] as P2].map((p) => put(m, p))
      const k = poles.length
      out.push(spline(k - 1, [...Array(k).fill(0), ...Array(k).fill(1)], poles))
      at = [c.x, c.y]
    } else if (c.type === SVGPathData.ARC) {
      const made = arcOf(at, c, m)
      if (made) out.push(made)
      else straight([c.x, c.y])
      at = [c.x, c.y]
    }
  }
  return out
}

/** Centre form of an arc given by its ends: SVG 2, implementation notes B.2.4. */
function arcOf(from: P2, c: CommandA, m: Matrix): Curve | null {
  let [rx, ry] = [Math.abs(c.rX), Math.abs(c.rY)]
  if (rx < 1e-12 || ry < 1e-12) return null
  const phi = (c.xRot * Math.PI) / 180
  const [cos, sin] = [Math.cos(phi), Math.sin(phi)]
  const [hx, hy] = [(from[0] - c.x) / 2, (from[1] - c.y) / 2]
  const [x1, y1] = [cos * hx + sin * hy, -sin * hx + cos * hy]
  const over = (x1 / rx) ** 2 + (y1 / ry) ** 2
  if (over < 1e-18) return null
  if (over > 1) {
    rx *= Math.sqrt(over)
    ry *= Math.sqrt(over)
  }
  const q = Math.max(0, 1 / Math.max(over, 1e-300) - 1)
  const k = (c.lArcFlag === c.sweepFlag ? -1 : 1) * Math.sqrt(over > 1 ? 0 : q)
  const [cx, cy] = [(k * rx * y1) / ry, (-k * ry * x1) / rx]
  const angle = (x: number, y: number) => Math.atan2(y / ry, x / rx)
  const start = angle(x1 - cx, y1 - cy)
  let sweep = angle(-x1 - cx, -y1 - cy) - start
  if (c.sweepFlag && sweep < 0) sweep += 2 * Math.PI
  if (!c.sweepFlag && sweep > 0) sweep -= 2 * Math.PI
  const centre: P2 = [
    cos * cx - sin * cy + (from[0] + c.x) / 2,
    sin * cx + cos * cy + (from[1] + c.y) / 2,
  ]
  return round(m, centre, [rx * cos, rx * sin], [-ry * sin, ry * cos], start, sweep)
}

/** An SVG of curves in mm, one path each: lines, arcs and Bezier pieces as what they are. */
export function writeSvg(curves: readonly Curve[]): { text: string; skipped: number } {
  const all = curves.flatMap((c) => Array.from({ length: 33 }, (_, i) => pointAt(c, i / 32)))
  const xs = all.map((p) => p[0])
  const ys = all.map((p) => p[1])
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const paths = curves.map(pathText)
  const [w, h] = [x1 - x0 + 2, y1 - y0 + 2]
  const body = paths.flatMap((d) => (d ? [`  <path d="${d}"/>`] : [])).join('\n')
  return {
    text: `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="${x0 - 1} ${-y1 - 1} ${w} ${h}" fill="none" stroke="#000" stroke-width="0.2">\n${body}\n</svg>\n`,
    skipped: paths.filter((d) => d === null).length,
  }
}

const xy = ([x, y]: P2): string => `${x} ${-y}`
function pathText(c: Curve): string | null {
  if (c.kind === 'line') return `M${xy(c.a)}L${xy(c.b)}`
  if (c.kind === 'arc') {
    const whole = Math.abs(c.sweep) > 2 * Math.PI - 1e-9
    const stops = whole ? [0.5, 1] : [1]
    const large = !whole && Math.abs(c.sweep) > Math.PI ? 1 : 0
    const to = stops.map(
      (t) => `A${c.radius} ${c.radius} 0 ${large} ${c.sweep > 0 ? 0 : 1} ${xy(pointAt(c, t))}`,
    )
    return `M${xy(pointAt(c, 0))}${to.join('')}`
  }
  if (c.degree > 3) return null
  const letter = ['', 'L', 'Q', 'C'][c.degree]!
  const spans = spansOf(c)
  return `M${xy(spans[0]!.ctrl[0]!)}${spans.map((s) => `${letter}${s.ctrl.slice(1).map(xy).join(' ')}`).join('')}`
}
