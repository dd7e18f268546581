import { type ExactPart, wallOf } from '../exact'
import type { TrueWalls } from '../gauges'
import type { Side } from '../kernel'
import type { MeshWallSpot } from '../mesh'
import { followed, wallsJob } from './gaugejobs'
import type { JobResults } from './jobs'

/**
 * The wall of a part, or the gaps in it, on its surfaces: null where no two sides face each other, a sentence where it could not be
 * read, or is not yet. Where a ball was not found on the surfaces, as the triangles tell.
 */
export function wallsOf(p: ExactPart, side: Side, exact: JobResults): TrueWalls | null | string {
  const job = wallsJob(p, side)
  const field = wallOf(p, side)
  if (!job || !field) return null
  if (!exact.has(job))
    return side === 'in' ? 'Its wall is being read.' : 'The gaps in it are being read.'
  const read = exact.resultOf(job)
  if (!read.ok) return read.diagnosis.message
  const { balls } = read.value[0]!.form!
  const [thin, thick] = followed(field)
  const told = (list: readonly MeshWallSpot[], from: number, sign: 1 | -1) => {
    const found = list.map((spot, i) => {
      const ball = balls[from + i]
      const near = ball && Math.abs(ball.wall - spot.wall) < Math.max(ASTRAY, SHARE * spot.wall)
      return { ...(near ? ball : spot), true: near }
    })
    // A dent of the triangles is no thicker wall where others are known truly; a thinner one is not passed over.
    const known = sign < 0 && found.some((x) => x.true) ? found.filter((x) => x.true) : found
    return known.reduce((a, b) => (sign * (b.wall - a.wall) < 0 ? b : a))
  }
  return { min: told(thin, 0, 1), max: told(thick, thin.length, -1), mean: field.mean }
}
/** A ball that differs by more from what triangles tell touches elsewhere, mm, or as a share: on trimmed free faces they lie up to 0.4 off. */
const [ASTRAY, SHARE] = [0.3, 0.25]
