import { cross3, dot3, mean3, norm3, type P3, placeAt, scale3, sub3, unit3 } from '../../math'
import { AXES, aboutOf, middleOf, movedBy, movedOut, scaledBy, turnedBy, type Ways } from '../edit'
import type { Cage } from '../layout'
import { best, type Cure, type Scored, type Shaping } from './cure'
import type { Line, Wanted } from './wanted'

/** How far each point goes when they are shaped so, mm. */
export function shapedBy(cage: Cage, points: readonly number[], how: Shaping): Ways {
  const counts = new Map(points.map((p) => [p, 1]))
  switch (how.by) {
    case 'way':
      return movedBy(counts, how.way)
    case 'out':
      return movedOut(cage, counts, how.out)
    case 'turn':
      return turnedBy(cage, counts, how.angle, aboutOf(cage, points, how.about), AXES[how.axis])
    case 'size':
      return scaledBy(cage, counts, how.size, middleOf(cage, points))
  }
}

/** Moves shorter than this share of the edges about a point are none. */
const TINY = 0.004
/** Of what points want, the share that one motion has to answer. */
const ANSWERED = 0.7
/** Motions tried a line. */
const TRIED = 2
/** Points of a run go alike to this share of their way. */
const ALIKE = 0.35
/** The share of points that may still want to go half as far after a cure. */
const FEW = 0.03

/** Points that would go where they stand even: each along its normal, and along the form too. */
export function pointCures(wanted: Wanted, score: (p: number) => number): Cure[] {
  const out: Scored[] = []
  for (const p of wanted.around.keys()) {
    const way = wanted.alone(p)
    if (!way) continue
    const n = wanted.normals[p]!
    const square = scale3(n, dot3(way, n))
    const size = wanted.size(p)
    for (const to of [square, way])
      if (norm3(to) > TINY * size && (to === square || norm3(sub3(to, square)) > TINY * size))
        out.push({
          cure: { kind: 'shape', points: [p], how: { by: 'way', way: to } },
          score: score(p),
        })
  }
  return best(out)
}

/** Lines of points, and runs of them, moved as one to where what lies across them leads. */
export function lineCures(wanted: Wanted): Cure[] {
  const out: Scored[] = []
  for (const line of wanted.lines) {
    const ways = waysAcross(wanted, line)
    const known = [...ways.keys()]
    const run = runOf(wanted, line, ways)
    for (const points of [known, run]) {
      if (points.length < 2 || (points === run && run.length === known.length)) continue
      const size = mean(points.map((p) => wanted.size(p)))
      const total = sum(points.map((p) => dot3(ways.get(p)!, ways.get(p)!)))
      if (Math.sqrt(total / points.length) < TINY * size) continue
      for (const { how, left } of fitted(wanted, points, ways, total)
        .filter((f) => f.left < (1 - ANSWERED) * total)
        .slice(0, TRIED))
        out.push({ cure: { kind: 'shape', points, how }, score: (total - left) / size ** 2 })
    }
  }
  return best(out)
}

function waysAcross(wanted: Wanted, line: Line): Ways {
  const out: Ways = new Map()
  for (const [k, p] of line.points.entries()) {
    const way = wanted.across(line, k)
    if (way) out.set(p, way)
  }
  return out
}

/** Motions that answer what points want, those that leave least first. */
function fitted(
  { cage, normals }: Wanted,
  points: readonly number[],
  ways: Ways,
  /** The sum of the squares of what is wanted. */
  total: number,
) {
  const hows: Shaping[] = [{ by: 'way', way: mean3(points.map((p) => ways.get(p)!)) }]
  for (const axis of ['x', 'y', 'z'] as const) {
    const k = 'xyz'.indexOf(axis)
    const [i, j] = [(k + 1) % 3, (k + 2) % 3] as [0, 0]
    const parts = (about: P3) => {
      const all = points.map((p) => ({ r: sub3(placeAt(cage.at, p), about), d: ways.get(p)! }))
      return {
        turn: sum(all.map(({ r, d }) => r[i] * d[j] - r[j] * d[i])),
        size: sum(all.map(({ r, d }) => r[i] * d[i] + r[j] * d[j])),
        arms: sum(all.map(({ r }) => r[i] ** 2 + r[j] ** 2)),
      }
    }
    const own = parts(middleOf(cage, points))
    if (!(own.arms > 0)) continue
    hows.push({ by: 'turn', angle: own.turn / own.arms, axis, about: 'own' })
    const s = 1 + own.size / own.arms
    hows.push({ by: 'size', size: [0, 1, 2].map((c) => (c === k ? 1 : s)) as unknown as P3 })
    if (axis !== 'z') continue
    const z = parts(aboutOf(cage, points, 'axis'))
    if (z.arms > 0) hows.push({ by: 'turn', angle: z.turn / z.arms, axis, about: 'axis' })
  }
  hows.push({ by: 'out', out: mean(points.map((p) => dot3(ways.get(p)!, normals[p]!))) })
  return hows
    .map((how) => {
      const made = shapedBy(cage, points, how)
      const left = sum(points.map((p) => norm3(sub3(ways.get(p)!, made.get(p)!)) ** 2))
      // Of motions that answer as well the first.
      return { how, left, rank: Math.round((1e4 * left) / total) }
    })
    .sort((a, b) => a.rank - b.rank)
}

/** The points beside each other on a line that want to go farthest and alike, in space or as seen along the line and out of the form. */
function runOf({ cage, normals }: Wanted, { points, closed }: Line, ways: Ways): number[] {
  const n = points.length
  const at = (k: number) => points[closed ? (k + n) % n : Math.min(Math.max(k, 0), n - 1)]!
  const way = (k: number): P3 => ways.get(points[k]!) ?? [0, 0, 0]
  const seen = (k: number): P3 => {
    const d = way(k)
    const out = normals[points[k]!]!
    const on = unit3(sub3(placeAt(cage.at, at(k + 1)), placeAt(cage.at, at(k - 1))))
    return [dot3(d, out), dot3(d, on), dot3(d, cross3(out, on))]
  }
  const [inSpace, alongLine] = [points.map((_, k) => way(k)), points.map((_, k) => seen(k))]
  const seed = inSpace.reduce((most, d, k) => (norm3(d) > norm3(inSpace[most]!) ? k : most), 0)
  const run = [seed]
  const alike = (all: readonly P3[], k: number) => {
    const usual = mean3(run.map((j) => all[j]!))
    return norm3(sub3(all[k]!, usual)) <= ALIKE * norm3(usual)
  }
  for (const step of [1, -1])
    for (let k = seed + step; closed || (k >= 0 && k < n); k += step) {
      const i = (k + n) % n
      if (run.includes(i) || !(alike(inSpace, i) || alike(alongLine, i))) break
      if (step > 0) run.push(i)
      else run.unshift(i)
    }
  return run.map((k) => points[k]!).filter((p) => ways.has(p))
}

/**
 * Whether a cure by `ways` leaves hardly any points that want to go half as far: what many want is the form, not a fault of it. Lines
 * are held against what lies across lines too, and may leave one more as wrong as they were.
 */
export function settles(before: Wanted, after: Wanted, ways: Ways): boolean {
  const points = [...ways.keys()]
  const wants = after.around.map((_, p) => norm3(after.alone(p) ?? [0, 0, 0]))
  if (points.length > 1)
    for (const line of after.lines)
      for (const [p, way] of waysAcross(after, line)) wants[p] = Math.max(wants[p]!, norm3(way))
  const far = mean(points.map((p) => norm3(ways.get(p)!) / before.size(p)))
  const alike = wants.filter((way, p) => way / after.size(p) > far / 2).length
  return alike <= FEW * wants.length + points.length - 1
}

const sum = (of: readonly number[]): number => of.reduce((s, x) => s + x, 0)
const mean = (of: readonly number[]): number => sum(of) / of.length

/** Points drawn towards their neighbours, each with those about it. */
export function relaxCures(
  { around }: Wanted,
  held: readonly boolean[],
  score: (p: number) => number,
): Cure[] {
  return best(
    around.flatMap((ring, p): Scored[] => {
      const points = [p, ...ring].filter((q) => !held[q])
      return held[p] || points.length < 3
        ? []
        : [{ cure: { kind: 'relax', points }, score: score(p) }]
    }),
  )
}
