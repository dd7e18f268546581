import {
  add3,
  cross3,
  dot3,
  type Motion,
  moved,
  norm3,
  type P3,
  scale3,
  sub3,
  turnAbout,
} from '../math'
import { jobKey, type KernelJob, type PartKey, splitKey } from './job'

/** What repeats evenly all round an axis: one of it, and how often it is there. */
interface Round {
  one: PartKey
  count: number
  origin: P3
  dir: P3
}

/**
 * The work that makes with surfaces what was joined as triangles out of bodies patterned all round one axis and
 * bodies that look alike in every sector: one sector, repeated. Null where a body was not made so. `recipes` are
 * the jobs that made it.
 */
export function twinJob(key: PartKey, recipes: readonly KernelJob[]): KernelJob<'sector'> | null {
  const byKey = new Map(recipes.map((job) => [jobKey(job), job]))
  const whole: PartKey[] = []
  const rounds: Round[] = []
  const take = (k: PartKey): boolean => {
    const job = byKey.get(splitKey(k).job)
    if (!job?.triangles) {
      whole.push(k)
      return true
    }
    if (job.verb === 'combine' && 'how' in job.args && job.args.how === 'join')
      return job.on.every(take)
    const round = job.verb === 'pattern' && 'motions' in job.args && roundOf(job.args.motions)
    if (!round) return false
    rounds.push({ one: job.on[0]!, ...round })
    return true
  }
  const [first] = take(key) ? rounds : []
  if (!first || rounds.some((r) => !alike(r, first))) return null
  const { count, origin, dir } = first
  return {
    verb: 'sector',
    args: { count, origin, dir, whole: whole.length },
    on: [...whole, ...rounds.map((r) => r.one)],
  }
}

/** Directions and places nearer than this are the same; mm. */
const SAME = 1e-6

const alike = (a: Round, b: Round): boolean =>
  a.count === b.count &&
  norm3(cross3(a.dir, b.dir)) < SAME &&
  norm3(cross3(a.dir, add3(a.origin, scale3(b.origin, -1)))) < SAME

/** The axis that copies stand all round of, evenly; null where they do not. */
function roundOf(motions: readonly Motion[]): Omit<Round, 'one'> | null {
  const count = motions.length + 1
  const first = motions[0]
  if (count < 3 || !first) return null
  const { m, t } = first
  // R - R' is twice the sine of the turn times the matrix that crosses with the axis.
  const twist: P3 = [m[2][1] - m[1][2], m[0][2] - m[2][0], m[1][0] - m[0][1]]
  const angle = Math.atan2(norm3(twist), m[0][0] + m[1][1] + m[2][2] - 1)
  if (norm3(twist) < 1e-9 || Math.abs(angle * count - 2 * Math.PI) > 1e-9) return null
  const dir = scale3(twist, 1 / norm3(twist))
  if (Math.abs(dot3(t, dir)) > SAME) return null
  // The place that the turn leaves where it is, nearest to the origin.
  const origin = scale3(add3(t, scale3(cross3(dir, t), 1 / Math.tan(angle / 2))), 0.5)
  // Three places that are not in line tell a motion.
  const spots: P3[] = [origin, add3(origin, [1, 2, 3]), add3(origin, [-3, 1, 2])]
  const even = motions.every((x, k) => {
    const there = turnAbout(origin, dir, (k + 1) * angle)
    return spots.every((p) => norm3(sub3(moved(x, p), moved(there, p))) < SAME)
  })
  return even ? { count, origin, dir } : null
}
