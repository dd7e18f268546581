import {
  bad,
  type Diagnosis,
  dot3,
  good,
  mirrorIn,
  mm,
  norm3,
  type Outcome,
  type P3,
  rounded,
  sub3,
} from '../../../math'
import { chainFindings, moved3 } from '../../../path'
import {
  type Crossing,
  type Curve3,
  crossing,
  crossingIn,
  type Guide,
  guideOf,
  isTip,
  reversed3,
  type Section,
  type Side,
  tipCrossing,
  Way,
} from '../../../surface'
import type { OpContext, Shown } from '../../state'
import type { LoftSectionInput } from './section'

/** Up to this a rail touches a section, mm. */
export const TOUCHES = 1e-4
/** Up to this a rail that misses a section is led through it without asking, and it is told, mm. */
const JOINS = 0.01
/** Rails at most: mirrored ones count. */
const MOST = 8

export interface RailInputs {
  sections: readonly LoftSectionInput[]
  rails: readonly string[]
  mirror?: string | undefined
  /** How far rails and sections may miss each other and are brought together, mm. */
  give: number | string
  /** Which of them is moved. */
  gives: 'rails' | 'sections'
}

/** The curves of each rail, and of its image in the mirror. */
export function railCurves(input: RailInputs, ctx: OpContext): Outcome<Curve3[][]> {
  const out: Curve3[][] = []
  for (const [i, id] of input.rails.entries()) {
    const path = ctx.path(id)
    if (!path) return bad('no-path', `Rail ${i + 1} does not exist at this point of the route.`)
    if (path.closed)
      return bad(
        'closed-rail',
        `Rail ${i + 1} is closed; a rail runs from the first section to the last.`,
      )
    const faults = chainFindings(path.pieces, false)
    const gap = faults.find((f) => f.code === 'gap')
    if (gap)
      return bad('gap', `Rail ${i + 1} has a gap of ${mm(gap.size, 3)} here.`, [{ at: gap.at }])
    out.push(path.pieces)
  }
  if (input.mirror) {
    const plane = ctx.plane(input.mirror)
    if (!plane) return bad('no-plane', 'The plane the rails are mirrored in does not exist here.')
    const over = mirrorIn(plane.frame)
    for (const pieces of [...out]) {
      const image = pieces.map((c) => moved3(c, over))
      // A rail in the mirror's plane is its own image.
      const same = pieces.every((c, i) => norm3(sub3(middle(c), middle(image[i]!))) < TOUCHES)
      if (!same) out.push(image)
    }
  }
  return out.length > MOST ? bad('too-many', `A loft takes ${MOST} rails at most.`) : good(out)
}

const middle = (c: Curve3): P3 => new Way([c]).place(0.5)

/** A rail looked over: where it crosses each section, in their order, and what it misses. */
export function guide(
  given: readonly Curve3[],
  number: number,
  params: readonly number[],
  row: readonly Section[],
  sides: readonly Side[],
  closed: boolean,
  input: RailInputs,
  ctx: OpContext,
): Outcome<{ guide: Guide; warnings: Diagnosis[]; touches: NonNullable<Shown['touches']> }> {
  let pieces = [...given]
  let way = new Way(pieces)
  const moves = input.gives === 'sections'
  const cross = () => {
    const real = row.map((s, i) => {
      if (isTip(s)) return null
      const near = crossing(way, sides, i)
      // A section that moves stays in its plane.
      return moves && near.gap > TOUCHES ? crossingIn(way, sides, i, s.ring, near) : near
    })
    return row.map((s, i): Crossing => real[i] ?? tipCrossing(way, s, real[i === 0 ? 1 : i - 1]!)!)
  }
  let list = cross()
  if (list[0]!.s > list[list.length - 1]!.s) {
    pieces = pieces.reverse().map(reversed3)
    way = new Way(pieces)
    list = cross()
  }
  const give = ctx.read(input.give, 'length')
  const worst = list.reduce((a, b) => (b.gap > a.gap ? b : a))
  if (worst.gap > Math.max(JOINS, give)) {
    const wide = Math.ceil(worst.gap * 100 + 0.01) / 100
    return bad(
      'rail-gap',
      `Rail ${number} misses section ${list.indexOf(worst) + 1} by ${mm(worst.gap, 3)}.`,
      [{ at: worst.rail }, { at: worst.section }],
      (['rails', 'sections'] as const).map((gives) => ({
        label: `Let ${gives} give way by up to ${wide} mm`,
        op: ctx.op,
        inputs: { give: wide, gives },
      })),
    )
  }
  const back = list.findIndex((c, i) => i > 0 && !(c.s > list[i - 1]!.s + 1e-9))
  if (back > 0)
    return bad(
      'doubles-back',
      `Rail ${number} does not come to section ${back + 1} after section ${back}: it doubles back, or the sections stand in another order.`,
      [{ at: list[back]!.section }],
    )
  const joined = list.filter((c) => c.gap > TOUCHES)
  const those = joined.length === 1 ? 'a section' : `${joined.length} sections`
  const by = joined.map((c) => mm(c.gap, 4)).join(', ')
  const warnings: Diagnosis[] =
    joined.length === 0
      ? []
      : [
          {
            code: 'rail-joined',
            message: moves
              ? `${those[0]!.toUpperCase()}${those.slice(1)} that rail ${number} misses by ${by} ${joined.length === 1 ? 'is' : 'are'} drawn to it.`
              : `Rail ${number} is led through ${those} it misses by ${by}.`,
            places: joined.map((c) => ({ at: c.section })),
            fixes: [],
          },
        ]
  const kinks = chainFindings(pieces, false).filter((f) => f.code === 'kink')
  if (kinks.length > 0)
    warnings.push({
      code: 'kinked-rail',
      message: `Rail ${number} has ${kinks.length === 1 ? 'a kink' : `${kinks.length} kinks`} of ${kinks.map((f) => `${rounded((f.size * 180) / Math.PI, 1)}°`).join(', ')}: the skin creases there, and its faces end in it. Round the corner where that is not meant.`,
      places: kinks.map((f) => ({ at: f.at })),
      fixes: [],
    })
  const shares = kinks.map((f) => way.starts[f.piece + 1]!)
  const touches = list.map((c) => ({ at: c.section, gap: c.gap }))
  return good({
    guide: guideOf(
      way,
      moves ? list.map((c, i) => drawnTo(c, row[i]!)) : list,
      params,
      sides.length,
      closed,
      shares,
    ),
    warnings,
    touches,
  })
}

/** A crossing whose section is drawn to the rail; a place stays where it is. */
const drawnTo = (c: Crossing, s: Section): Crossing => (isTip(s) ? c : { ...c, section: c.rail })

/** Two rails that meet the skin at one place. */
export function meeting(
  guides: readonly Guide[],
  params: readonly number[],
): Outcome<never> | null {
  for (const [i, a] of guides.entries())
    for (const [k, b] of guides.slice(i + 1).entries()) {
      const j = i + 1 + k
      const meet = params.find(
        (v) => Math.abs(a.at(v) - b.at(v)) < 1e-4 && norm3(sub3(a.place(v), b.place(v))) < 1e-3,
      )
      if (meet !== undefined && !params.some((w) => Math.abs(a.at(w) - b.at(w)) > 1e-2))
        return bad('rails-alike', `Rails ${i + 1} and ${j + 1} lie on each other.`, [
          { at: a.place(meet) },
        ])
      const cross = crossedAt(a, b)
      if (cross)
        return bad(
          'rails-cross',
          `Rails ${i + 1} and ${j + 1} cross here, between the sections: no skin runs along both.`,
          [{ at: cross }],
        )
    }
  return null
}

/** Steps along two rails between which they are looked at for crossing. */
const STEPS = 400

/** Where two rails, seen at the same shares of the way, go through each other: the way from one to the other turns about at once. */
function crossedAt(a: Guide, b: Guide): P3 | null {
  const way = (k: number) => sub3(b.place(k / STEPS), a.place(k / STEPS))
  let before = way(0)
  for (let k = 1; k <= STEPS; k++) {
    const now = way(k)
    if (dot3(before, now) < 0) return a.place((k - 0.5) / STEPS)
    before = now
  }
  return null
}
