import { Bundle, boundsOf, line, nearest, pointAt } from '../../curve'
import { bad, good, type Outcome, type P2, POINT } from '../../math'
import { AXIS, arrange, type Loop, regionsOf, type Seg, segsOf, sideOf } from '../../profile'
import type { TurnedBody } from '../body'
import { inName, type ShellResult, slackOf } from './result'
import { offsets } from './walls'

/** The body that was, hollow, within a wall of `t` mm about it. */
export function outward(
  b: TurnedBody,
  loops: Loop[],
  t: number,
  open: ReadonlySet<Seg>,
  op: string,
): Outcome<ShellResult> {
  const { walls, raw, caps } = offsets(loops, () => t, open, op, -1)
  const faces = loops.flat().filter((s) => s.name !== AXIS && !open.has(s))
  const zs = faces.flatMap((s) => [boundsOf(s.curve).min[1], boundsOf(s.curve).max[1]])
  const axis: Seg = {
    curve: line([0, Math.min(...zs) - 2 * t], [0, Math.max(...zs) + 2 * t]),
    name: AXIS,
  }
  const segs = [...raw, axis, ...faces]
  const slack = slackOf(walls)
  const skin: Seg[] = [...faces, ...caps]
  const wall = new Bundle(walls.map((w) => w.curve))
  for (const p of arrange(segs.map((s) => s.curve)).pieces) {
    const m = pointAt(p.curve, 0.5)
    const name = segs[p.part.index]!.name
    if (p.part.index > raw.length) continue
    if (m[0] < -POINT || sideOf(loops, m).inside) continue
    const d = wall.nearest(m[0], m[1])!.d
    if (
      name === AXIS ? d <= t - slack && m[0] < POINT && !onAxisOfBody(loops, m) : d >= t - slack
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
