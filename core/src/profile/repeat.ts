import { type Placing, placeCurve } from '../curve'
import { bad, type Outcome, type P2 } from '../math'
import type { Drawing, Drawn, Pattern, Read, Value } from './drawing'
import { type Row, reckonRow } from './pattern'
import { ORIGIN } from './solver'

/** Most copies one pattern makes. */
const MOST = 500

/** The copies patterns make of their pieces; a copy of `line1` is `line1~2`, `line1~3` and so on. */
export function repeated(
  drawing: Drawing,
  drawn: readonly Drawn[],
  points: Readonly<Record<string, P2>>,
  read: Read,
): { drawn: Drawn[]; unfit: { id: string; message: string }[]; rows: Record<string, Row> } {
  const out: Drawn[] = []
  const unfit: { id: string; message: string }[] = []
  const rows: Record<string, Row> = {}
  for (const p of drawing.patterns ?? []) {
    let placings: Placing[] | string
    if (p.kind === 'ring') placings = ringOf(p, points, read)
    else {
      const row = rowOf(p, read)
      placings = row.ok ? along(p.along, row.value) : row.diagnosis.message
      if (row.ok) rows[p.id] = row.value
    }
    if (typeof placings === 'string') {
      unfit.push({ id: p.id, message: placings })
      continue
    }
    for (const id of p.entities) {
      const piece = drawn.find((d) => d.id === id)
      if (!piece) continue
      for (const [k, placing] of placings.entries())
        out.push({ ...piece, id: `${id}~${k + 2}`, curve: placeCurve(piece.curve, placing) })
    }
  }
  return { drawn: out, unfit, rows }
}

function rowOf(p: Extract<Pattern, { kind: 'row' }>, read: Read): Outcome<Row> {
  const value = (v: Value | undefined) => (v === undefined ? undefined : read(v, 'length'))
  const row = reckonRow({
    size: read(p.size, 'length'),
    count: p.count === undefined ? undefined : read(p.count, 'number'),
    pitch: value(p.pitch),
    gap: value(p.gap),
    gapMost: value(p.gapMost),
    length: value(p.length),
    head: value(p.head),
    tail: value(p.tail),
    extent: value(p.extent),
  })
  if (row.ok && row.value.count > MOST)
    return bad('row', `${row.value.count} copies are too many; ${MOST} are the most.`)
  return row
}

const along = (way: 'level' | 'upright', row: Row): Placing[] =>
  Array.from({ length: row.count - 1 }, (_, i): Placing => {
    const step = (i + 1) * row.pitch
    return { origin: way === 'level' ? [step, 0] : [0, step], x: [1, 0], y: [0, 1] }
  })

function ringOf(
  p: Extract<Pattern, { kind: 'ring' }>,
  points: Readonly<Record<string, P2>>,
  read: Read,
): Placing[] | string {
  const n = read(p.count, 'number')
  if (!Number.isInteger(n) || n < 1 || n > MOST)
    return `The count must be a whole number from 1 to ${MOST}.`
  const c: P2 | undefined = p.about === ORIGIN ? [0, 0] : points[p.about]
  if (!c) return `The point ${p.about} is not there.`
  const extent = p.extent === undefined ? undefined : read(p.extent, 'angle')
  const step = extent === undefined ? (2 * Math.PI) / n : n > 1 ? extent / (n - 1) : 0
  return Array.from({ length: n - 1 }, (_, i): Placing => {
    const [cos, sin] = [Math.cos((i + 1) * step), Math.sin((i + 1) * step)]
    return {
      origin: [c[0] - cos * c[0] + sin * c[1], c[1] - sin * c[0] - cos * c[1]],
      x: [cos, sin],
      y: [-sin, cos],
    }
  })
}
