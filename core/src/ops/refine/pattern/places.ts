import type { ExactPart } from '../../../exact'
import {
  bad,
  good,
  type Motion,
  type Outcome,
  type P3,
  scale3,
  shift,
  turnAbout,
} from '../../../math'
import { datumAxis } from '../../draw/datum'
import type { OpContext } from '../../state'
import { countOf, type Laid, tooMany, whole } from './count'
import { alongCurve } from './curve'
import { overField } from './field'
import { MOST, type PatternInputs } from './inputs'
import { pitchFor } from './spacing'
import { alongWay } from './way'

/** Where the copies go as seen from the first, and their numbers counted from 1 at the first place. */
export interface Places {
  motions: Motion[]
  numbers: number[]
  /** Where the first itself goes; it stays where there is none. */
  first?: Motion
}

export function placesOf(i: PatternInputs, part: ExactPart, ctx: OpContext): Outcome<Places> {
  const skip = numbersIn(i.skip)
  if (!skip) return bad('skip', `"${i.skip}" is no list of numbers such as 3, 5-7.`)
  const laid =
    i.how === 'curve'
      ? alongCurve(i, ctx)
      : i.how === 'way'
        ? alongWay(i, ctx)
        : i.how === 'field'
          ? overField(i, part, ctx)
          : i.how === 'round'
            ? round(i, ctx)
            : inRows(i, part, ctx)
  if (!laid.ok) return laid
  const { all, first } = laid.value
  const kept = all.flatMap((motion, k) =>
    k === 0 || skip.has(k + 1) ? [] : [{ motion, number: k + 1 }],
  )
  if (kept.some((x) => isStill(x.motion)))
    return bad('in-place', 'Copies would lie in one another: the pitch is 0.')
  return good({
    motions: kept.map((x) => x.motion),
    numbers: kept.map((x) => x.number),
    ...(first ? { first } : {}),
  })
}

function round(i: PatternInputs, ctx: OpContext): Outcome<Laid> {
  const axis = axisOf(i.axis, ctx)
  if (!axis.ok) return axis
  const count = countOf(i, ctx)
  if (!count.ok) return count
  const n = count.value
  const sweep = ctx.read(i.turn, 'angle')
  const closed = Math.abs(Math.abs(sweep) - 2 * Math.PI) < 1e-9
  const { origin, dir } = axis.value
  const step = sweep / (closed ? n : Math.max(1, n - 1))
  return good({ all: Array.from({ length: n }, (_, k) => turnAbout(origin, dir, k * step)) })
}

function inRows(i: PatternInputs, part: ExactPart, ctx: OpContext): Outcome<Laid> {
  const axis = i.along === 'axis' ? axisOf(i.axis, ctx) : good({ dir: WAY[i.along] })
  if (!axis.ok) return axis
  const count = countOf(i, ctx)
  if (!count.ok) return count
  const rows = i.how === 'grid' ? whole(ctx.read(i.count2, 'number'), 'Rows') : good(1)
  if (!rows.ok) return rows
  const total = count.value * rows.value
  if (total > MOST) return tooMany(total)
  const pitch =
    i.how === 'row' && i.space === 'gap'
      ? pitchFor(part, axis.value.dir, ctx.read(i.gap, 'length'))
      : good(ctx.read(i.pitch, 'length'))
  if (!pitch.ok) return pitch
  const all: Motion[] = []
  for (let row = 0; row < rows.value; row++)
    for (let k = 0; k < count.value; k++) {
      const u = scale3(axis.value.dir, k * pitch.value)
      const v = scale3(WAY[i.across], row === 0 ? 0 : row * ctx.read(i.pitch2, 'length'))
      all.push(shift([u[0] + v[0], u[1] + v[1], u[2] + v[2]]))
    }
  return good({ all })
}

const UPRIGHT = { origin: [0, 0, 0] as P3, dir: [0, 0, 1] as P3 }
const WAY: Record<'x' | 'y' | 'z', P3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }
const axisOf = (id: string | undefined, ctx: OpContext) => (id ? datumAxis(id, ctx) : good(UPRIGHT))

const isStill = ({ m, t }: Motion): boolean =>
  Math.hypot(...t) < 1e-9 && m.every((row, i) => Math.abs(row[i]! - 1) < 1e-12)

/** The numbers of a list such as "3, 5-7"; null where it is none. */
function numbersIn(text: string): Set<number> | null {
  const out = new Set<number>()
  for (const item of text.split(/[\s,;]+/).filter(Boolean)) {
    const m = /^(\d{1,4})(?:-(\d{1,4}))?$/.exec(item)
    if (!m) return null
    const [from, to] = [Number(m[1]), Number(m[2] ?? m[1])]
    for (let n = from; n <= to; n++) out.add(n)
  }
  return out
}
