import { type ExactPart, joinedUp, wiresIn, wiresOf } from '../../../exact'
import { add3, cross3, dot3, norm3, type Outcome, type P2, scale3 } from '../../../math'
import type { Carrying, ChainFinding, Placed } from '../../../path'
import type { Region } from '../../../profile'
import { way3 } from '../../../surface'
import type { OpContext, Path } from '../../state'
import { only } from '../prism'
import { uncrossed } from '../quilted'
import { sectionCurves, sectionMoments } from '../section'
import type { SweepInputs } from './inputs'
import { sweptVolume } from './way'

/** Whether a section is one circle about the path, which nothing can turn. */
export const isRound = (r: Region): boolean =>
  [r.outer, ...r.holes].every((loop) =>
    loop.every(({ curve: c }) => c.kind === 'arc' && Math.hypot(...c.c) < 1e-9),
  )

/** Whether a path stays in one plane, to what matters at the reach of the section. */
export function isFlat(path: Path, reach: number): boolean {
  const tangents = path.pieces.flatMap((c) => [0, 0.2, 0.4, 0.6, 0.8, 1].map((t) => way3(c, t)))
  const t0 = tangents[0]!
  const off = tangents.map((t) => cross3(t0, t)).sort((a, b) => norm3(b) - norm3(a))[0]!
  const size = norm3(off)
  if (size < 1e-9) return true
  const n = scale3(off, 1 / size)
  return tangents.every((t) => Math.abs(dot3(t, n)) * (reach + 1) < 1e-7)
}

/** By the kernel's own sweep: straight pieces and arcs give true planes, cylinders and rings. */
export function piped(
  input: SweepInputs,
  path: Path,
  region: Region,
  start: Placed,
  ways: readonly Carrying[],
  kinks: readonly ChainFinding[],
  reach: number,
  ctx: OpContext,
): Outcome<ExactPart> {
  const put = ([x, y]: P2) => add3(start.at, add3(scale3(start.x, x), scale3(start.y, y)))
  const loops = [region.outer, ...region.holes]
  const outline = loops.map((l) => joinedUp(l.flatMap((s) => wiresOf(s.curve, put))))
  const names = loops.flatMap((l) => l.flatMap((s) => wiresOf(s.curve, put).map(() => s.name)))
  const wires = path.pieces.map(wiresIn)
  const along = wires.flatMap((w, i) => w.map(() => path.names[i]!))
  const { area, centroid } = sectionMoments(loops.map(sectionCurves))
  const volume = sweptVolume(path, ways, kinks, Math.abs(area), centroid, reach, input.corner)
  const made = only(
    ctx.kernel({
      verb: 'pipe',
      args: { op: ctx.op, outline, names, path: wires.flat(), along, corner: input.corner, volume },
      on: [],
    }),
  )
  return made.ok ? uncrossed(made.value) : made
}
