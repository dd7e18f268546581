import type { Drawing } from '../drawing'
import { type Built, looseFrom, outlineMovedBy } from './faroff.test-data'
import { hold } from './hold'
import { evenNumbers } from './starts'

type P2 = [number, number]
interface Dim {
  id: string
  kind: string
  points: string[]
  entities: string[]
  value: number
}

const from = (p: P2, q: P2): P2 => [q[0] - p[0], q[1] - p[1]]
const long = (v: P2) => Math.hypot(v[0], v[1])
const turned = (u: P2, v: P2) =>
  Math.abs(Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1]))

/**
 * Half outlines with some corners rounded by arcs that touch both lines, held wholly by dimensions of any
 * kind, taken as they come until nothing is free; then every point is moved by up to `share` of the size.
 */
export function roundedMovedBy(share: number, seed: number): Built & { arcs: number } {
  const random = evenNumbers(seed * 104_729)
  const { truth: corners } = outlineMovedBy(0, seed)
  const size = Math.max(...Object.values(corners).flat())
  const { truth, entities, relations } = rounded(corners, random)
  const arcs = entities.filter((e) => e.kind === 'arc')
  const dims: Dim[] = []
  const freedoms = (d: Dim[]) => {
    const { state } = hold(looseFrom(truth, entities, relations, d))
    return state.conflict.length > 0 || state.unreached ? Number.POSITIVE_INFINITY : state.freedoms
  }
  let free = freedoms(dims)
  for (const more of dimensionsOf(truth, entities, random)) {
    if (free === 0) break
    const left = freedoms([...dims, more])
    if (left >= free) continue
    dims.push(more)
    free = left
  }
  const shift = () => share * size * (2 * random() - 1)
  const moved = Object.fromEntries(
    Object.entries(truth).map(([id, [x, y]]): [string, P2] => [id, [x + shift(), y + shift()]]),
  )
  return { loose: looseFrom(moved, entities, relations, dims), truth, arcs: arcs.length }
}

/** The outline through corners, about half of them rounded. */
function rounded(corners: Record<string, P2>, random: () => number) {
  const chain = Object.entries(corners)
  const truth: Record<string, P2> = Object.fromEntries(chain.slice(0, 1))
  const entities: Drawing['entities'] = []
  const relations: object[] = [
    { id: 'fix', kind: 'coincident', points: ['o', 'origin'], entities: [] },
    { id: 'onaxis', kind: 'upright', points: ['o', 't'], entities: [] },
  ]
  let last = chain[0]![0]
  const lineTo = (to: string, at: P2) => {
    truth[to] = at
    const [dx, dy] = from(truth[last]!, at)
    const id = `l${to}`
    entities.push({ id, kind: 'line', a: last, b: to })
    for (const [kind, off] of [
      ['upright', dx],
      ['level', dy],
    ] as const)
      if (Math.abs(off) < 1e-9) relations.push({ id: `r${id}`, kind, points: [], entities: [id] })
    last = to
    return id
  }
  let touch: string | null = null
  for (let i = 1; i < chain.length; i++) {
    const [id, c] = chain[i]!
    const [u, v] = [from(c, chain[i - 1]![1]), from(c, chain[i + 1]?.[1] ?? c)]
    const [lu, lv] = [long(u), long(v)]
    const flat = Math.sin(turned(u, v)) < 0.25
    const round = i + 1 < chain.length && random() < 0.5 && !flat
    const cut = (0.1 + 0.35 * random()) * Math.min(lu, lv)
    const [eu, ev]: P2[] = [
      [u[0] / lu, u[1] / lu],
      [v[0] / lv, v[1] / lv],
    ]
    const ahead = (w: P2, by: number): P2 => [c[0] + by * w[0], c[1] + by * w[1]]
    const line = lineTo(round ? `a${i}` : id, round ? ahead(eu!, cut) : c)
    if (touch) relations.push({ id: `u${i}`, kind: 'tangent', points: [], entities: [touch, line] })
    touch = null
    if (!round) continue
    const half = long(from(eu!, ev!)) / 2
    truth[`b${i}`] = ahead(ev!, cut)
    truth[`m${i}`] = ahead([eu![0] + ev![0], eu![1] + ev![1]], cut / 2 / (1 + half))
    touch = `c${i}`
    entities.push({ id: touch, kind: 'arc', a: `a${i}`, via: `m${i}`, b: `b${i}` })
    relations.push({ id: `t${i}`, kind: 'tangent', points: [], entities: [line, touch] })
    last = `b${i}`
  }
  return { truth, entities, relations }
}

/** Dimensions that are true of an outline, in any order, radii mostly first. */
function dimensionsOf(
  truth: Record<string, P2>,
  entities: Drawing['entities'],
  random: () => number,
): Dim[] {
  const out: { rank: number; dim: Omit<Dim, 'id'> }[] = []
  const add = (kind: string, points: string[], ids: string[], value: number, rank = random()) =>
    out.push({ rank, dim: { kind, points, entities: ids, value } })
  const lines = entities.filter((e) => e.kind === 'line')
  for (const e of entities) {
    if (e.kind !== 'arc') continue
    const [a, m, b] = [truth[e.a]!, truth[e.via]!, truth[e.b]!]
    // Chord over twice the sine of the angle at the middle.
    add(
      'radius',
      [],
      [e.id],
      long(from(a, b)) / 2 / Math.sin(turned(from(a, m), from(m, b))),
      random() - 0.5,
    )
  }
  const points = Object.keys(truth).filter((p) => !p.startsWith('m') && p !== 'o')
  for (const [i, p] of points.entries()) {
    const at = truth[p]!
    if (at[0] > 1e-9) add('across', [p], [], 2 * at[0])
    const other = i > 0 ? points[Math.floor(random() * i)]! : 'o'
    const rise = Math.abs(at[1] - truth[other]![1])
    if (rise > 1e-6) add('upright', [other, p], [], rise)
  }
  for (const [i, l] of lines.entries()) {
    const way = from(truth[l.a]!, truth[l.b]!)
    add('distance', [], [l.id], long(way))
    const m = lines[i + 1]
    if (!m) continue
    const turn = turned(way, from(truth[m.a]!, truth[m.b]!))
    const angle = l.b === m.a ? Math.PI - turn : turn
    if (angle > 0.05 && angle < Math.PI - 0.05) add('angle', [], [l.id, m.id], angle)
  }
  return out.sort((a, b) => a.rank - b.rank).map(({ dim }, i) => ({ ...dim, id: `d${i}` }))
}
