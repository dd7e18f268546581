import {
  arc,
  boundsOf,
  type Curve,
  endOf,
  line,
  nearest,
  offsetCurve,
  pointAt,
  startOf,
  tangentAt,
} from '../curve'
import {
  along,
  bad,
  boxDistance,
  FIT,
  good,
  left,
  mm,
  type Outcome,
  type P2,
  type Place,
  POINT,
  turn,
} from '../math'
import {
  AXIS,
  arrange,
  CUT,
  chain,
  combine,
  type Loop,
  type Piece,
  pruneEnds,
  type Region,
  regionArea,
  regionsFrom,
  regionsOf,
  type Seg,
  segsOf,
  sideOf,
} from '../profile'
import { bodyLoops, type TurnedBody } from './body'

export interface ShellResult {
  body: TurnedBody
  /** Faces too small to leave a trace on the other side of the wall, with their places. */
  lost: { name: string; at: P2 }[]
}

/** A wall curve: a face that is kept, or its straight run-out past an open face. */
interface Wall {
  curve: Curve
  name: string
}

/** How much an offset B-spline may lie nearer to its wall than asked, mm. */
const SLACK = 2 * FIT

/**
 * Hollows the body to walls of `t` mm. Faces in `open` get no wall. `side` says whether the wall
 * grows inward from the faces or outward (then the faces become the inside). The cavity is all that
 * lies at least `t` from every kept face, so details smaller than the wall disappear cleanly.
 */
export function shell(
  b: TurnedBody,
  t: number,
  open: ReadonlySet<Seg>,
  side: 'in' | 'out',
  op: string,
): Outcome<ShellResult> {
  const loops = bodyLoops(b)
  if (loops.flat().every((s) => s.name === AXIS || open.has(s))) {
    return bad('nothing-left', 'Every face is open, so there is no wall to make.')
  }
  return side === 'in' ? inward(b, loops, t, open, op) : outward(b, loops, t, open, op)
}

function inward(
  b: TurnedBody,
  loops: Loop[],
  t: number,
  open: ReadonlySet<Seg>,
  op: string,
): Outcome<ShellResult> {
  const { walls, raw } = offsets(loops, t, open, op, 1)
  const through = loops.flat().filter((s) => s.name === AXIS || open.has(s))
  const segs: Seg[] = [...raw, ...through]
  const curves = segs.map((s) => s.curve)
  const kept: Piece[] = []
  for (const p of arrange(curves).pieces) {
    const m = pointAt(p.curve, 0.5)
    if (nearestWall(walls, m, t - SLACK) < t - SLACK) continue
    const onThrough = p.sources.some((s) => s.index >= raw.length)
    if (!onThrough && !sideOf(loops, m).inside) continue
    kept.push(p)
  }
  const closed = pruneEnds(kept)
  const cavity = regionsFrom(closed, curves, (p) => segs[p.part.index]!.name).filter(
    (r) => regionArea(r) > t * POINT,
  )
  if (cavity.length === 0) {
    return bad(
      'no-cavity',
      `A wall of ${mm(t)} leaves no cavity: the body is nowhere thicker than two walls.`,
      [{ at: deepest(loops, walls) }],
    )
  }
  if (chain(closed).flat().length < closed.length) {
    return bad('shell-unclosed', 'The inside of the wall does not close.', [
      { at: startOf(closed[0]!.curve) },
    ])
  }
  const cut = cutOff(cavity, open)
  if (cut)
    return bad(
      'pinched',
      `With a wall of ${mm(t)} the cavity closes off here and leaves a void without an opening.`,
      [cut],
    )
  const regions = combine(b.regions, cavity, CUT)
  const names = new Set(segsOf(cavity).map((s) => s.name))
  const lost = walls
    .filter((w) => loops.flat().some((s) => s.curve === w.curve))
    .filter((w) => !names.has(inName(op, w.name)))
    .map((w) => ({ name: w.name, at: pointAt(w.curve, 0.5) }))
  return good({ body: { ...b, regions }, lost })
}

/** With open faces given, a cavity part that reaches none of them; the place is its nearest way out. */
function cutOff(cavity: readonly Region[], open: ReadonlySet<Seg>): Place | null {
  if (open.size === 0) return null
  const opens = [...open].map((s) => s.curve)
  const reaches = (r: Region) =>
    segsOf([r]).some((s) => opens.some((o) => nearest(o, pointAt(s.curve, 0.5)).d < 10 * POINT))
  const away = cavity.filter((r) => !reaches(r))
  if (away.length === 0) return null
  const goals = [
    ...opens,
    ...cavity.filter(reaches).flatMap((r) => segsOf([r]).map((s) => s.curve)),
  ]
  let best: { d: number; at: P2 } = { d: Number.POSITIVE_INFINITY, at: pointAt(opens[0]!, 0.5) }
  for (const s of segsOf(away)) {
    for (const u of [0, 0.5, 1]) {
      const from = pointAt(s.curve, u)
      for (const g of goals) {
        const n = nearest(g, from)
        if (n.d < best.d) best = { d: n.d, at: [(from[0] + n.p[0]) / 2, (from[1] + n.p[1]) / 2] }
      }
    }
  }
  return { at: best.at }
}

function outward(
  b: TurnedBody,
  loops: Loop[],
  t: number,
  open: ReadonlySet<Seg>,
  op: string,
): Outcome<ShellResult> {
  const { walls, raw, caps } = offsets(loops, t, open, op, -1)
  const faces = loops.flat().filter((s) => s.name !== AXIS && !open.has(s))
  const zs = faces.flatMap((s) => [boundsOf(s.curve).min[1], boundsOf(s.curve).max[1]])
  const axis: Seg = {
    curve: line([0, Math.min(...zs) - 2 * t], [0, Math.max(...zs) + 2 * t]),
    name: AXIS,
  }
  const segs = [...raw, axis, ...faces]
  const skin: Seg[] = [...faces, ...caps]
  for (const p of arrange(segs.map((s) => s.curve)).pieces) {
    const m = pointAt(p.curve, 0.5)
    const name = segs[p.part.index]!.name
    if (p.part.index > raw.length) continue
    if (m[0] < -POINT || sideOf(loops, m).inside) continue
    const d = nearestWall(walls, m, 0)
    if (
      name === AXIS ? d <= t - SLACK && m[0] < POINT && !onAxisOfBody(loops, m) : d >= t - SLACK
    ) {
      skin.push({ curve: p.curve, name })
    }
  }
  const found = regionsOf(skin)
  if (!found.ok) return found
  const regions = found.value
  if (regions.length === 0) {
    return bad('shell-unclosed', 'The outside of the wall does not close.', [
      { at: pointAt(faces[0]!.curve, 0.5) },
    ])
  }
  const names = new Set(segsOf(regions).map((s) => s.name))
  const lost = faces
    .filter((f) => !names.has(inName(op, f.name)))
    .map((f) => ({ name: f.name, at: pointAt(f.curve, 0.5) }))
  return good({ body: { ...b, regions }, lost })
}

const onAxisOfBody = (loops: Loop[], m: P2): boolean =>
  loops.flat().some((s) => s.name === AXIS && nearest(s.curve, m).d < 10 * POINT)

const inName = (op: string, name: string): string => `${op}:wall(${name})`

/**
 * Offset curves of all kept faces at distance t, on the left (dir 1) or right (dir -1), with round
 * joints where neighbours part, run-outs past open faces (dir 1) or flat caps there (dir -1).
 */
function offsets(loops: Loop[], t: number, open: ReadonlySet<Seg>, op: string, dir: 1 | -1) {
  const walls: Wall[] = []
  const raw: Seg[] = []
  const caps: Seg[] = []
  const kept = (s: Seg) => s.name !== AXIS && !open.has(s)
  const put = (curve: Curve, name: string) => {
    for (const c of offsetCurve(curve, dir * t)) raw.push({ curve: c, name: inName(op, name) })
  }
  for (const loop of loops) {
    for (const [i, s] of loop.entries()) {
      if (!kept(s)) continue
      walls.push({ curve: s.curve, name: s.name })
      put(s.curve, s.name)
      const next = loop[(i + 1) % loop.length]!
      const prev = loop[(i + loop.length - 1) % loop.length]!
      const joint = kept(next) ? jointArc(s, next, t, dir) : null
      if (joint) raw.push({ curve: joint, name: inName(op, `${s.name}|${next.name}`) })
      for (const [other, end] of [
        [next, 1],
        [prev, 0],
      ] as const) {
        if (other.name === AXIS) {
          const tip = tipArc(s, end, t, dir)
          if (tip) raw.push({ curve: tip, name: inName(op, s.name) })
        } else if (open.has(other)) {
          if (dir === -1) {
            const p = pointAt(s.curve, end)
            const n = left(tangentAt(s.curve, end))
            caps.push({ curve: line(p, along(p, n, -t)), name: `${op}:rim(${s.name})` })
          } else if (cornerAt(s, other, end) >= RUN_OUT) {
            const run = runOut(s, end, t)
            walls.push({ curve: run, name: s.name })
            put(end === 1 ? run : line(run.b, run.a), s.name)
          } else {
            raw.push({ curve: endArc(s, end, t), name: inName(op, s.name) })
          }
        }
      }
    }
  }
  return { walls, raw, caps }
}

/** The arc about a corner that bridges two offsets, or null where they meet or overlap. */
function jointArc(a: Seg, b: Seg, t: number, dir: 1 | -1): Curve | null {
  const [u, v] = [tangentAt(a.curve, 1), tangentAt(b.curve, 0)]
  const bend = turn(u, v)
  if (Math.abs(bend) < 1e-9 || Math.sign(bend) === dir) return null
  const n = left(u)
  return arc(endOf(a.curve), t, Math.atan2(n[1] * dir, n[0] * dir), bend)
}

/** Where a face meets the axis in a point, its mirror image across the axis needs a rounded joint. */
function tipArc(s: Seg, end: 0 | 1, t: number, dir: 1 | -1): Curve | null {
  const n = left(tangentAt(s.curve, end))
  if (n[0] * dir <= 1e-9) return null
  const from = Math.atan2(n[1] * dir, n[0] * dir)
  const to = n[1] * dir >= 0 ? Math.PI / 2 : -Math.PI / 2
  const c: P2 = [0, pointAt(s.curve, end)[1]]
  return end === 1 ? arc(c, t, from, to - from) : arc(c, t, to, from - to)
}

/**
 * A wall that meets its open face at least this squarely (rad of turn) is carried on straight past
 * it; a flatter one, such as a rounded rim running into the opening, just ends, and the cavity keeps
 * its distance from the end.
 */
const RUN_OUT = Math.PI / 4

const cornerAt = (s: Seg, open: Seg, end: 0 | 1): number =>
  end === 1
    ? turn(tangentAt(s.curve, 1), tangentAt(open.curve, 0))
    : turn(tangentAt(open.curve, 1), tangentAt(s.curve, 0))

function runOut(s: Seg, end: 0 | 1, t: number) {
  const p = pointAt(s.curve, end)
  return line(p, along(p, tangentAt(s.curve, end), (end === 1 ? 10 : -10) * t))
}

/** Half-circle about a wall's end, run so that the cavity lies left. */
function endArc(s: Seg, end: 0 | 1, t: number): Curve {
  const n = left(tangentAt(s.curve, end))
  const sign = end === 1 ? 1 : -1
  return arc(pointAt(s.curve, end), t, Math.atan2(sign * n[1], sign * n[0]), -Math.PI)
}

/** Distance from p to the nearest wall; stops looking once below `enough`. */
function nearestWall(walls: readonly Wall[], p: P2, enough: number): number {
  let d = Number.POSITIVE_INFINITY
  for (const w of walls) {
    if (boxDistance(boundsOf(w.curve), p) >= d) continue
    d = Math.min(d, nearest(w.curve, p).d)
    if (d < enough) return d
  }
  return d
}

/** The point of a coarse grid that lies deepest in the body. */
function deepest(loops: Loop[], walls: readonly Wall[]): P2 {
  const boxes = loops.flat().map((s) => boundsOf(s.curve))
  const min = [0, 1].map((k) => Math.min(...boxes.map((x) => x.min[k]!)))
  const max = [0, 1].map((k) => Math.max(...boxes.map((x) => x.max[k]!)))
  let best: { d: number; p: P2 } = { d: -1, p: startOf(loops[0]![0]!.curve) }
  for (let i = 0; i <= 16; i++) {
    for (let j = 0; j <= 32; j++) {
      const p: P2 = [
        min[0]! + ((max[0]! - min[0]!) * i) / 16,
        min[1]! + ((max[1]! - min[1]!) * j) / 32,
      ]
      const d = nearestWall(walls, p, best.d)
      if (d > best.d && sideOf(loops, p).inside) best = { d, p }
    }
  }
  return best.p
}
