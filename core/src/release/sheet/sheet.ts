import { type Frame, fixed, type P2, type P3 } from '../../math'
import { slice, sliceArea } from '../../mesh'
import { hatch } from './hatch'
import { type Seen, viewLines } from './lines'
import type { Sheet, Stroke, Text } from './paper'
import { callOut } from './rounds'

/** What stands in the title block beside scale and units. */
export interface Title {
  name: string
  material: string
  bodies: string[]
}

/** Scales that drawings use (ISO 5455, from memory), larger first, and papers (ISO 216), smaller first. */
const SCALES = [10, 5, 2, 1, 1 / 2, 1 / 5, 1 / 10, 1 / 20, 1 / 50] as const
const PAPERS = [
  { name: 'A4', width: 297, height: 210 },
  { name: 'A3', width: 420, height: 297 },
] as const
const MARGIN = 10
/** Between views, with room for dimensions. */
const GAP = 22
/** For the figures of diameters left of the views. */
const FIGURES = 32
const BLOCK = { width: 120, height: 24 }

const frame = (x: P3, y: P3, z: P3): Frame => ({ origin: [0, 0, 0], x, y, z })
/** First angle: from above below the front, from the left beside it on the right. */
const VIEWS = {
  front: frame([1, 0, 0], [0, 0, 1], [0, -1, 0]),
  left: frame([0, -1, 0], [0, 0, 1], [-1, 0, 0]),
  above: frame([1, 0, 0], [0, 1, 0], [0, 0, 1]),
}

/** Three views, first angle, and a section through the middle, dimensioned, on the smallest paper they fit. */
export function viewsSheet(bodies: readonly Seen[], title: Title): Sheet {
  const { min, max } = boundsOf(bodies)
  const [w, d, h] = [max[0] - min[0], max[1] - min[1], max[2] - min[2]]
  const cut = fullerCut(bodies, min, max)
  const across = cut.seen === 'left' ? d : w
  const { scale, paper } = chooseScale(w + d + across, h + d)
  const strokes: Stroke[] = []
  const texts: Text[] = []
  const free = {
    x: paper.width - 2 * MARGIN - scale * (w + d + across) - 2 * GAP,
    y: paper.height - 2 * MARGIN - BLOCK.height - scale * (h + d) - GAP,
  }
  // Lower left corners of the views' boxes.
  const left = MARGIN + Math.max(FIGURES, free.x / 2)
  const upper = paper.height - MARGIN - Math.max(GAP / 2, free.y / 2) - scale * h
  const place = (view: Frame, corner: P2): ((p: P2) => P2) => {
    const [u, v] = [lowest(view.x, min, max), lowest(view.y, min, max)]
    return (p) => [corner[0] + scale * (p[0] - u), corner[1] + scale * (p[1] - v)]
  }
  const draw = (view: Frame, corner: P2) => {
    const lines = viewLines(bodies, view)
    const at = place(view, corner)
    for (const l of lines.hidden) strokes.push({ pen: 'hidden', points: l.map(at) })
    for (const l of lines.visible) strokes.push({ pen: 'edge', points: l.map(at) })
  }
  const front: P2 = [left, upper]
  const side: P2 = [left + scale * w + GAP, upper]
  const plan: P2 = [left, upper - GAP - scale * d]
  draw(VIEWS.front, front)
  draw(VIEWS.left, side)
  draw(VIEWS.above, plan)

  const rounds = bodies.flatMap((b) => b.rounds)
  for (const [view, corner, height] of [
    [VIEWS.front, front, h],
    [VIEWS.above, plan, d],
  ] as const)
    callOut(
      rounds,
      view,
      place(view, corner),
      scale,
      { corner, height: scale * height, clear: view === VIEWS.above && cut.seen === 'front' },
      strokes,
      texts,
    )

  const there: P2 = [side[0] + scale * d + GAP, upper]
  const at = place(cut.plane, there)
  for (const [i, b] of bodies.entries()) {
    const loops = slice(b.mesh, cut.plane).map((l) => l.map(at))
    for (const line of hatch(loops, i % 2 === 1)) strokes.push({ pen: 'hatch', points: line })
    for (const l of loops) strokes.push({ pen: 'cut', points: [...l, l[0]!] })
  }
  const label = (x: number, y: number, text: string): Text => ({
    at: [x, y],
    text,
    size: 3.5,
    anchor: 'middle',
  })
  if (cut.seen === 'left') {
    const x = left + (scale * w) / 2
    strokes.push({
      pen: 'plane',
      points: [
        [x, upper - 4],
        [x, upper + scale * h + 4],
      ],
    })
    texts.push(label(x, upper + scale * h + 5.5, 'A'), label(x, upper - 8.5, 'A'))
  } else {
    const y = plan[1] + (scale * d) / 2
    strokes.push({
      pen: 'plane',
      points: [
        [left - 4, y],
        [left + scale * w + 4, y],
      ],
    })
    texts.push(label(left - 6.5, y - 1.7, 'A'), label(left + scale * w + 6.5, y - 1.7, 'A'))
  }
  texts.push(label(there[0] + (scale * across) / 2, upper + scale * h + 5.5, 'A – A'))

  dimension(front, [front[0] + scale * w, front[1]], -15, fixed(w, 2), strokes, texts)
  dimension(
    [side[0] + scale * d, side[1]],
    [side[0] + scale * d, side[1] + scale * h],
    9,
    fixed(h, 2),
    strokes,
    texts,
  )
  dimension(
    [plan[0] + scale * w, plan[1]],
    [plan[0] + scale * w, plan[1] + scale * d],
    cut.seen === 'front' ? 15 : 9,
    fixed(d, 2),
    strokes,
    texts,
  )

  const words = scale >= 1 ? `${scale}:1` : `1:${Math.round(1 / scale)}`
  titleBlock(paper, title, words, strokes, texts)
  return {
    width: paper.width,
    height: paper.height,
    title: title.name,
    scale: words,
    strokes,
    texts,
  }
}

/** The middle plane, across or along, that cuts more material: the one that shows more. */
function fullerCut(
  bodies: readonly Seen[],
  min: P3,
  max: P3,
): { seen: 'left' | 'front'; plane: Frame } {
  const across: Frame = { ...VIEWS.left, origin: [(min[0] + max[0]) / 2, 0, 0] }
  const along: Frame = { ...VIEWS.front, origin: [0, (min[1] + max[1]) / 2, 0] }
  const area = (plane: Frame) => bodies.reduce((sum, b) => sum + sliceArea(b.mesh, plane), 0)
  return area(along) > 1.02 * area(across)
    ? { seen: 'front', plane: along }
    : { seen: 'left', plane: across }
}

/** Scale and paper for views this wide and high in all, mm. */
function chooseScale(wide: number, high: number) {
  const fits = (paper: (typeof PAPERS)[number], scale: number) =>
    scale * wide + 2 * GAP + FIGURES + 2 * MARGIN <= paper.width &&
    scale * high + 2 * GAP + 2 * MARGIN + BLOCK.height <= paper.height
  const least = SCALES[SCALES.length - 1]!
  const largest = (paper: (typeof PAPERS)[number]) => SCALES.find((x) => fits(paper, x)) ?? least
  // The larger paper only where the smaller would not take it at its own size.
  const [small, large] = [largest(PAPERS[0]), largest(PAPERS[1])]
  return small >= 1 || small === large
    ? { scale: small, paper: PAPERS[0] }
    : { scale: Math.min(1, large), paper: PAPERS[1] }
}

/** Least coordinate of a box along one of the axes, either way round. */
const lowest = (u: P3, min: P3, max: P3): number =>
  u.reduce<number>((sum, c, k) => sum + Math.min(c * min[k]!, c * max[k]!), 0)

const boundsOf = (bodies: readonly Seen[]): { min: P3; max: P3 } => ({
  min: [0, 1, 2].map((k) => Math.min(...bodies.map((b) => b.bounds.min[k]!))) as unknown as P3,
  max: [0, 1, 2].map((k) => Math.max(...bodies.map((b) => b.bounds.max[k]!))) as unknown as P3,
})

/** A dimension from a to b, level or upright, its line this far off to the right of the way (mm). */
function dimension(
  a: P2,
  b: P2,
  off: number,
  text: string,
  strokes: Stroke[],
  texts: Text[],
): void {
  const upright = Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0])
  const [dx, dy] = upright ? [off, 0] : [0, off]
  const [p, q]: [P2, P2] = [
    [a[0] + dx, a[1] + dy],
    [b[0] + dx, b[1] + dy],
  ]
  const more = 1.5 * Math.sign(off)
  const help = (from: P2, to: P2): P2[] => [
    [from[0] + (upright ? Math.sign(off) : 0), from[1] + (upright ? 0 : Math.sign(off))],
    [to[0] + (upright ? more : 0), to[1] + (upright ? 0 : more)],
  ]
  const tick = (c: P2): P2[] => [
    [c[0] - 1.2, c[1] - 1.2],
    [c[0] + 1.2, c[1] + 1.2],
  ]
  for (const points of [[p, q], help(a, p), help(b, q), tick(p), tick(q)])
    strokes.push({ pen: 'dimension', points })
  const mid: P2 = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]
  texts.push({
    at: upright ? [mid[0] - 1.2, mid[1]] : [mid[0], mid[1] + 1.2],
    text,
    size: 3.5,
    anchor: 'middle',
    ...(upright ? { upright: true } : {}),
  })
}

function titleBlock(
  paper: { name: string; width: number; height: number },
  { name, material, bodies }: Title,
  scale: string,
  strokes: Stroke[],
  texts: Text[],
): void {
  const box = (x: number, y: number, w: number, h: number) =>
    strokes.push({
      pen: 'edge',
      points: [
        [x, y],
        [x + w, y],
        [x + w, y + h],
        [x, y + h],
        [x, y],
      ],
    })
  box(MARGIN / 2, MARGIN / 2, paper.width - MARGIN, paper.height - MARGIN)
  const [x, y] = [paper.width - MARGIN / 2 - BLOCK.width, MARGIN / 2]
  box(x, y, BLOCK.width, BLOCK.height)
  for (const k of [8, 16])
    strokes.push({
      pen: 'dimension',
      points: [
        [x, y + k],
        [x + BLOCK.width, y + k],
      ],
    })
  const row = (at: number, text: string, size = 3) =>
    texts.push({ at: [x + 3, y + at], text, size, anchor: 'start' })
  row(18.2, name, 4)
  row(
    10.4,
    `${bodies.length === 1 ? '' : `${bodies.length} bodies: `}${shortened(bodies.join(', '))}`,
  )
  row(
    2.6,
    `${material} · scale ${scale} · mm · first angle · ${paper.name} · section A–A through the middle`,
    2.3,
  )
}

const shortened = (text: string): string => (text.length > 60 ? `${text.slice(0, 58)}…` : text)
