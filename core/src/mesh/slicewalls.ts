import { dist, type P2 } from '../math'

/** A wall across a section: from a place on its border straight through the material to the other side, mm. */
export interface SectionWall {
  at: P2
  to: P2
  d: number
}

/** Places looked at round a section, and how many walls are told. */
const SAMPLES = 400
const MOST = 6
/** Sides that lean towards each other by more than this (cosine) are a corner, not a wall. */
const FACING = -0.8
/** Shares of the section's size: walls alike, and how far apart those told stand at least. */
const ALIKE = 1e-4
const APART = 0.12

/**
 * Walls of a section to be told: the thinnest first, then others where the wall is least or even, as far from
 * each other as they can be. `loops` are closed, material to their left, in any plane's own coordinates.
 */
export function sectionWalls(loops: readonly (readonly P2[])[]): SectionWall[] {
  const sides = loops.flatMap((loop) =>
    loop.slice(1).flatMap((b, i) => {
      const a = loop[i]!
      const l = dist(a, b)
      return l > 0 ? [{ a, l, u: [(b[0] - a[0]) / l, (b[1] - a[1]) / l] as P2 }] : []
    }),
  )
  const around = sides.reduce((sum, s) => sum + s.l, 0)
  if (around === 0) return []
  const size = around / 4
  const tell: SectionWall[] = []
  let run: SectionWall[] = []
  const settle = () => {
    const [first] = run
    if (first) tell.push(run[Math.floor(run.length / 2)]!)
    run = []
  }
  const step = around / SAMPLES
  /** How far on from the start of the side the next place lies: half a step at the middle of a long one's first. */
  let next = step / 2
  for (const { a, l, u } of sides) {
    // Straight sides of many steps have their places evenly, so that their middle is among them.
    const n = Math.max(1, Math.round(l / step))
    const long = l > 3 * step
    for (let s = long ? l / n / 2 : next; s < l; s += long ? l / n : step) {
      const at: P2 = [a[0] + s * u[0], a[1] + s * u[1]]
      const d = across(at, u, sides, size * 1e-6)
      if (d === null) {
        settle()
        continue
      }
      const wall = { at, to: [at[0] - u[1] * d, at[1] + u[0] * d] as P2, d }
      // Walls alike beside each other are one; of a wall that grows or shrinks, the place where it turns.
      const last = run[run.length - 1]
      if (last && Math.abs(last.d - d) > ALIKE * size) {
        if (d > last.d) settle()
        else run = []
      }
      run.push(wall)
    }
    next = long ? step / 2 : next + Math.ceil(Math.max(0, l - next) / step) * step - l
    if (long) settle()
  }
  settle()
  return spread(tell, size * APART)
}

/** How far it is through the material, left of a place that runs along `u`; null where that ends in a corner. */
function across(
  at: P2,
  u: P2,
  sides: readonly { a: P2; l: number; u: P2 }[],
  least: number,
): number | null {
  const [nx, ny] = [-u[1], u[0]]
  let best = Number.POSITIVE_INFINITY
  let facing = 0
  for (const s of sides) {
    const det = nx * s.u[1] - ny * s.u[0]
    if (Math.abs(det) < 1e-12) continue
    const [ox, oy] = [s.a[0] - at[0], s.a[1] - at[1]]
    const t = (ox * s.u[1] - oy * s.u[0]) / det
    const k = (ox * ny - oy * nx) / det
    if (t > least && t < best && k >= -1e-9 && k <= s.l + 1e-9) {
      best = t
      facing = u[0] * s.u[0] + u[1] * s.u[1]
    }
  }
  if (!Number.isFinite(best) || facing >= FACING) return null
  // The circle between both sides has nothing inside: along a strip it is no wall, but the strip's length.
  const middle: P2 = [at[0] + (nx * best) / 2, at[1] + (ny * best) / 2]
  return sides.every((s) => toSide(middle, s) > 0.49 * best) ? best : null
}

function toSide(p: P2, { a, l, u }: { a: P2; l: number; u: P2 }): number {
  const k = Math.min(l, Math.max(0, (p[0] - a[0]) * u[0] + (p[1] - a[1]) * u[1]))
  return Math.hypot(p[0] - a[0] - k * u[0], p[1] - a[1] - k * u[1])
}

/** The thinnest, then always the one farthest from those taken. */
function spread(walls: SectionWall[], apart: number): SectionWall[] {
  const rest = [...walls].sort((a, b) => a.d - b.d)
  const taken = rest.splice(0, 1)
  const middle = ({ at, to }: SectionWall): P2 => [(at[0] + to[0]) / 2, (at[1] + to[1]) / 2]
  const away = (w: SectionWall) => Math.min(...taken.map((t) => dist(middle(t), middle(w))))
  while (taken.length < MOST && rest.length > 0) {
    const next = rest.reduce((a, b) => (away(b) > away(a) ? b : a))
    if (away(next) < apart) break
    taken.push(next)
    rest.splice(rest.indexOf(next), 1)
  }
  return taken
}
