import { add3, lerp3, mean3, norm3, type P3, placeAt, scale3, sub3 } from '../../math'
import { pointNormals } from '../edit'
import { type Cage, neighbours } from '../layout'
import type { Stars } from './stars'

/** Points that follow each other straight on, through points where four edges meet, from border, crease or star to the next. */
export interface Line {
  points: number[]
  /** Whether the last goes on to the first. */
  closed: boolean
}

/** Where points of a cage would stand if it were even about them. */
export interface Wanted {
  cage: Cage
  /** Points beside each point. */
  around: readonly number[][]
  normals: readonly P3[]
  lines: readonly Line[]
  /** The mean length of the edges at a point, mm. */
  size(p: number): number
  /** The way a point would go so that it stands off those beside it as they do off theirs; null where that is not known. */
  alone(p: number): P3 | null
  /** The same by what lies across a line alone. */
  across(line: Line, k: number): P3 | null
}

/** What lies straight on from what in a layout; the same while only points move. */
export interface Straight {
  around: readonly number[][]
  on: StraightOn
  lines: readonly Line[]
}
export function straightOf(cage: Cage, { count, held }: Stars): Straight {
  const around = neighbours(cage)
  const on = straightOn(cage, around, (p) => !held[p] && count[p] === 4)
  return { around, on, lines: linesOf(around, on) }
}

export function wantedOf(
  cage: Cage,
  { count, held }: Stars,
  { around, on, lines }: Straight,
): Wanted {
  const normals = pointNormals({ faces: cage.layout.faces, at: cage.at })
  const place = (p: number) => placeAt(cage.at, p)
  const off = (p: number): P3 => sub3(mean3(around[p]!.map(place)), place(p))

  /** Where p lies by the two points beside it on one line and those after them: a cubic, a parabola or a straight one through them. */
  const between = (p: number, l: number, r: number): P3 => {
    const [l2, r2] = [on(p, l), on(p, r)]
    const middle = lerp3(place(l), place(r), 0.5)
    if (l2 !== undefined && r2 !== undefined)
      return sub3(scale3(middle, 4 / 3), scale3(lerp3(place(l2), place(r2), 0.5), 1 / 3))
    const [far, near, next] = l2 !== undefined ? [l2, l, r] : [r2, r, l]
    if (far === undefined) return middle
    return add3(place(near), scale3(sub3(place(next), place(far)), 1 / 3))
  }
  return {
    cage,
    around,
    normals,
    lines,
    size: (p) =>
      around[p]!.reduce((s, q) => s + norm3(sub3(place(q), place(p))), 0) / around[p]!.length,
    alone: (p) => {
      const ring = around[p]!
      const free = ring.filter((q) => !held[q])
      if (held[p] || free.length < 2) return null
      const other = mean3(free.map(off))
      const share = free.reduce((sum, q) => sum + 1 / around[q]!.length, 0) / free.length
      return scale3(sub3(off(p), other), 1 / (1 + share))
    },
    across: ({ points, closed }, k) => {
      const p = points[k]!
      const beside = points[k + 1] ?? (closed ? points[0]! : points[k - 1]!)
      if (held[p] || count[p] !== 4) return null
      const [l, r] = around[p]!.filter((q) => q !== beside && q !== on(beside, p))
      return l === undefined || r === undefined ? null : sub3(between(p, l, r), place(p))
    },
  }
}

/** The point that follows straight on after going from one point to the next; undefined where the line ends. */
type StraightOn = (from: number, to: number) => number | undefined

function straightOn(
  { layout }: Cage,
  around: readonly number[][],
  goesOn: (p: number) => boolean,
): StraightOn {
  const ways = new Map<string, number>()
  const beside = layout.points.map((): Set<string> => new Set())
  for (const { corners } of layout.faces)
    for (const [i, p] of corners.entries()) {
      const [before, after] = [corners.at(i - 1)!, corners[(i + 1) % corners.length]!]
      beside[p]!.add(`${before} ${after}`).add(`${after} ${before}`)
    }
  for (const [p, ring] of around.entries()) {
    if (!goesOn(p)) continue
    for (const q of ring) {
      const over = ring.filter((r) => r !== q && !beside[p]!.has(`${q} ${r}`))
      if (over.length === 1) ways.set(`${q} ${p}`, over[0]!)
    }
  }
  return (from, to) => ways.get(`${from} ${to}`)
}

function linesOf(around: readonly number[][], on: StraightOn): Line[] {
  const told = new Set<string>()
  const out: Line[] = []
  const run = (from: number, to: number): Line => {
    const points = [from, to]
    for (let q = on(from, to); q !== undefined; q = on(points.at(-2)!, q)) {
      if (q === points[0] && on(points.at(-1)!, q) === points[1]) return { points, closed: true }
      points.push(q)
      if (points.length > around.length + 1) break
    }
    return { points, closed: false }
  }
  for (const [p, ring] of around.entries())
    for (const q of ring) {
      if (told.has(`${p} ${q}`)) continue
      // Back to where the line begins, then along it.
      const back = run(q, p)
      const line = back.closed ? back : run(back.points.at(-1)!, back.points.at(-2)!)
      const { points, closed } = line
      for (const [k, a] of points.entries()) {
        const b = points[k + 1] ?? (closed ? points[0] : undefined)
        if (b !== undefined) told.add(`${a} ${b}`).add(`${b} ${a}`)
      }
      if (points.length > 2) out.push(line)
    }
  return out
}
