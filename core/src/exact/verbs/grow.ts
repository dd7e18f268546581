import type { Frame, P3 } from '../../math'
import { good, scale3 } from '../../math'
import { soundVolume } from '../accept'
import { type Bench, keepMade, type Named, type Verb } from './verb'

export interface GrowArgs {
  op: string
  face: number
  /** The plane of the face, its normal out of the material. */
  plane: Frame
  /** Along the normal, mm; against it negative. */
  by: number
  /** How much the faces beside it lean in along the normal, rad, by their number. */
  leans: { face: number; lean: number }[]
}

/**
 * What lies between a flat face and where it is to go, its sides running on as the faces beside it do. The far
 * side keeps the face's name, the sides those of the faces beside it.
 */
export const growVerb: Verb<GrowArgs> = {
  version: 1,
  run(bench, on, { op, face, plane, by, leans }) {
    const [given] = on
    const way: P3 = scale3(plane.z, by)
    const made = keepMade(bench, bench.kernel.grown(given!.shape, face, way))
    let tool: Named & { of: number[] } = {
      shape: made.shape,
      of: made.origins.map(([o]) =>
        o?.from === 'edge'
          ? (o.faces.find((f) => f !== face) ?? -1)
          : o?.from === 'face'
            ? face
            : -1,
      ),
      names: [],
    }
    for (const angle of new Set(leans.map((l) => l.lean))) {
      if (angle === 0) continue
      const tilted = leans.filter((l) => l.lean === angle).map((l) => l.face)
      tool = leaned(bench, tool, tilted, plane, angle)
    }
    const sound = soundVolume(bench.kernel, tool.shape, 'What is between')
    if (!sound.ok) return sound
    const names = tool.of.map((f) => (f < 0 ? [`${op}:seam`] : given!.names[f]!))
    return good([{ shape: tool.shape, names }])
  },
}

function leaned(
  bench: Bench,
  tool: Named & { of: number[] },
  beside: readonly number[],
  plane: Frame,
  angle: number,
) {
  const tilted = tool.of.flatMap((f, i) => (beside.includes(f) ? [i] : []))
  const made = keepMade(bench, bench.kernel.draft(tool.shape, tilted, plane, angle))
  const of = made.origins.map(([o]) => (o?.from === 'face' ? tool.of[o.face]! : -1))
  return { shape: made.shape, of, names: [] }
}
