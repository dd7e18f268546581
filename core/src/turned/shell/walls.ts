import { arc, type Curve, endOf, line, offsetCurve, pointAt, tangentAt } from '../../curve'
import { along, dot, left, type P2, turn } from '../../math'
import { AXIS, type Loop, type Seg } from '../../profile'
import { inName } from './result'

/** A wall curve: a face that is kept, or its straight run-out past an open face. */
export interface Wall {
  curve: Curve
  name: string
  /** Its thickness, mm. */
  t: number
}

/**
 * Offset curves of all kept faces at the distance `thick` gives for each, on the left (dir 1) or right (dir -1), with round
 * joints where neighbours part, run-outs past open faces (dir 1) or flat caps there (dir -1).
 */
export function offsets(
  loops: Loop[],
  thick: (s: Seg) => number,
  open: ReadonlySet<Seg>,
  op: string,
  dir: 1 | -1,
) {
  const walls: Wall[] = []
  const raw: Seg[] = []
  const caps: Seg[] = []
  const kept = (s: Seg) => s.name !== AXIS && !open.has(s)
  const put = (curve: Curve, name: string, t: number) => {
    for (const c of offsetCurve(curve, dir * t)) raw.push({ curve: c, name: inName(op, name) })
  }
  for (const loop of loops) {
    for (const [i, s] of loop.entries()) {
      if (!kept(s)) continue
      const t = thick(s)
      walls.push({ curve: s.curve, name: s.name, t })
      put(s.curve, s.name, t)
      const next = loop[(i + 1) % loop.length]!
      const prev = loop[(i + loop.length - 1) % loop.length]!
      const joint = kept(next) ? jointArc(s, next, t, thick(next), dir) : null
      if (joint) raw.push({ curve: joint, name: inName(op, `${s.name}|${next.name}`) })
      for (const [other, end] of [
        [next, 1],
        [prev, 0],
      ] as const) {
        if (other.name === AXIS) {
          const tip = tipArc(s, end, t, dir)
          if (tip) raw.push({ curve: tip, name: inName(op, s.name) })
        } else if (open.has(other)) {
          const corner = cornerAt(s, other, end)
          // Outward a wall that runs nearly level with its open face would end in a long thin lip.
          const level = dir === -1 && corner > Math.PI - RUN_OUT
          const runsOut = corner >= RUN_OUT && !level
          if (dir === -1)
            caps.push({ curve: rimCap(s, other, end, t, runsOut), name: `${op}:rim(${s.name})` })
          if (runsOut) {
            const run = runOut(s, end, t)
            walls.push({ curve: run, name: s.name, t })
            put(end === 1 ? run : line(run.b, run.a), s.name, t)
          } else if (dir === 1) {
            raw.push({ curve: endArc(s, end, t), name: inName(op, s.name) })
          }
        }
      }
    }
  }
  return { walls, raw, caps }
}

/**
 * The arc about a corner that bridges two offsets, or null where they meet or overlap. Of walls that differ it
 * is that of the thicker, from its end on until it surely has met the offset of the thinner.
 */
function jointArc(a: Seg, b: Seg, ta: number, tb: number, dir: 1 | -1): Curve | null {
  const [u, v] = [tangentAt(a.curve, 1), tangentAt(b.curve, 0)]
  const bend = turn(u, v)
  const square = (w: P2) => Math.atan2(left(w)[1] * dir, left(w)[0] * dir)
  if (ta !== tb) {
    const sweep = -dir * (Math.PI / 2 + Math.max(0, -dir * bend))
    const from = ta > tb ? square(u) : square(v) - sweep
    return arc(endOf(a.curve), Math.max(ta, tb), from, sweep)
  }
  if (Math.abs(bend) < 1e-9 || Math.sign(bend) === dir) return null
  return arc(endOf(a.curve), ta, square(u), bend)
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

/**
 * Where a wall grown outward ends at its open face: along the open face carried on straight, so that the
 * rim lies in it; square to the wall where the two run nearly level.
 */
function rimCap(s: Seg, open: Seg, end: 0 | 1, t: number, runsOut: boolean): Curve {
  const p = pointAt(s.curve, end)
  if (!runsOut) return line(p, along(p, left(tangentAt(s.curve, end)), -t))
  const u = tangentAt(open.curve, end === 1 ? 0 : 1)
  const square = left(tangentAt(s.curve, end))
  // As far as it takes to pass the offset, and a little over: what hangs over is dropped.
  const reach = t / Math.max(0.1, Math.abs(dot(u, square)))
  return line(p, along(p, u, (end === 1 ? -1 : 1) * 1.01 * reach))
}

/** Half-circle about a wall's end, run so that the cavity lies left. */
function endArc(s: Seg, end: 0 | 1, t: number): Curve {
  const n = left(tangentAt(s.curve, end))
  const sign = end === 1 ? 1 : -1
  return arc(pointAt(s.curve, end), t, Math.atan2(sign * n[1], sign * n[0]), -Math.PI)
}
