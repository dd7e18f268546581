import {
  bad,
  type Diagnosis,
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
  type Basis,
  basisOf,
  breaksOf,
  type Crossing,
  type Curve3,
  columnAt,
  crossing,
  evenBasis,
  fittedBeside,
  type Guide,
  guideOf,
  isTip,
  type Patch,
  pointOn,
  Railed,
  reversed3,
  type Section,
  type Side,
  tipCrossing,
  Way,
} from '../../../surface'
import type { OpContext, Shown } from '../../state'

/** Up to this a rail touches a section, mm. */
const TOUCHES = 1e-4
/** Up to this a rail that misses a section is led through it without asking, and it is told, mm. */
const JOINS = 0.01
/** How near the railed skin is met by its poles, mm. */
const NEAR = 3e-5
/** Rails at most: mirrored ones count. */
const MOST = 8

interface RailInputs {
  rails: readonly string[]
  mirror?: string | undefined
  /** How far rails may miss sections and are led through them, mm. */
  give: number | string
}

export interface RailedSkin {
  patches: Patch[]
  warnings: Diagnosis[]
  /** What was measured, in words. */
  words: string
}

/** The skin led along its rails; each is looked over before, and the result measured against them and the sections. */
export function alongRails(
  base: { patches: Patch[]; params: number[] },
  row: readonly Section[],
  sides: readonly Side[],
  input: RailInputs,
  ctx: OpContext,
): Outcome<RailedSkin> {
  const warnings: Diagnosis[] = []
  const rails = railCurves(input, ctx)
  if (!rails.ok) return rails
  const real = row.find((s) => !isTip(s))!
  const closed = 'ring' in real ? real.ring.closed : true
  const guides: Guide[] = []
  const touches: NonNullable<Shown['touches']> = []
  for (const [k, pieces] of rails.value.entries()) {
    const made = guide(pieces, k + 1, base.params, row, sides, closed, input, ctx)
    if (!made.ok) return made
    guides.push(made.value.guide)
    touches.push(...made.value.touches)
    warnings.push(...made.value.warnings)
  }
  ctx.shows({ touches })
  const twice = meeting(guides, base.params)
  if (twice) return twice
  const pins = closed ? [] : drawnIn(base.patches)
  const all = [...guides, ...pins]
  const railed = new Railed(base.patches, all, closed)
  const v = creasedBasis(
    Math.max(10, 3 * row.length),
    guides.flatMap((g) => g.kinks),
  )
  const { patches } = fittedBeside(
    base.patches.map((p) => p.u),
    v,
    base.patches.map((_, i) => (u: number, w: number) => railed.place(i, u, w)),
    NEAR,
  )
  const missed = Math.max(...guides.map((g) => missedBy(g, patches)))
  const off = sectionsOff(patches, sides, base.params)
  if (missed > 1e-3 || off > 1e-4)
    return bad(
      'not-met',
      `No skin was found that runs along the rails: it misses them by ${mm(missed, 4)}, the sections by ${mm(off, 4)}.`,
    )
  const changed = changedBy(all, [], base.patches, closed)
  const each = guides.map((g) =>
    changedBy(
      all,
      all.filter((o) => o !== g),
      base.patches,
      closed,
    ),
  )
  const single = guides.length > 1 ? ` (${each.map((c) => mm(c, 2)).join(', ')} each)` : ''
  const words = `${guides.length === 1 ? 'a rail' : `${guides.length} rails`} met within ${mm(Math.max(missed, 1e-6), 6)}, changing it by ${mm(changed, 2)}${single}`
  return good({ patches, warnings, words })
}

/** A basis of so many functions along v that may crease at some of its places. */
function creasedBasis(count: number, creases: readonly number[]): Basis {
  const even = evenBasis(5, count)
  const at = creases.filter((c, i) => !creases.some((o, k) => k < i && Math.abs(o - c) < 1e-9))
  const inner = breaksOf(even)
    .slice(1, -1)
    .filter((k) => at.every((c) => Math.abs(c - k) > 1e-3))
  const breaks = [...inner.map((k) => ({ at: k })), ...at.map((c) => ({ at: c, times: 5 }))]
  return basisOf(
    5,
    breaks.sort((a, b) => a.at - b.at),
  )
}

/** The curves of each rail, and of its image in the mirror. */
function railCurves(input: RailInputs, ctx: OpContext): Outcome<Curve3[][]> {
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
function guide(
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
  const cross = () => {
    const real = row.map((s, i) => (isTip(s) ? null : crossing(way, sides, i)))
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
      [{ label: `Let rails give way by up to ${wide} mm`, op: ctx.op, inputs: { give: wide } }],
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
  const warnings: Diagnosis[] =
    joined.length === 0
      ? []
      : [
          {
            code: 'rail-joined',
            message: `Rail ${number} is led through ${joined.length === 1 ? 'a section' : `${joined.length} sections`} it misses by ${joined.map((c) => mm(c.gap, 4)).join(', ')}.`,
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
    guide: guideOf(way, list, params, sides.length, closed, shares),
    warnings,
    touches,
  })
}

/** Two rails that meet the skin at one place. */
function meeting(guides: readonly Guide[], params: readonly number[]): Outcome<never> | null {
  for (const [i, a] of guides.entries())
    for (const [j, b] of guides.entries())
      for (const v of params)
        if (
          j > i &&
          Math.abs(a.at(v) - b.at(v)) < 1e-4 &&
          norm3(sub3(a.place(v), b.place(v))) < 1e-3
        ) {
          const apart = params.some((w) => Math.abs(a.at(w) - b.at(w)) > 1e-2)
          if (!apart)
            return bad('rails-alike', `Rails ${i + 1} and ${j + 1} lie on each other.`, [
              { at: a.place(v) },
            ])
        }
  return null
}

/** Ends that all open sections share stay where they are, as if a rail ran through each. */
function drawnIn(patches: readonly Patch[]): Guide[] {
  return [0, patches.length].flatMap((at): Guide[] => {
    const p = at === 0 ? patches[0]! : patches[patches.length - 1]!
    const spots = columnAt(p, at > 0)
    const shared = spots.every((q) => norm3(sub3(q, spots[0]!)) < TOUCHES)
    return shared ? [{ at: () => at, place: () => spots[0]!, kinks: [] }] : []
  })
}

const STATIONS = 33

function missedBy(g: Guide, patches: readonly Patch[]): number {
  let off = 0
  for (let i = 0; i < STATIONS; i++) {
    const v = i / (STATIONS - 1)
    const n = patches.length
    const w = ((g.at(v) % n) + n) % n
    const k = Math.min(n - 1, Math.floor(w))
    off = Math.max(off, norm3(sub3(pointOn(patches[k]!, w - k, v), g.place(v))))
  }
  return off
}

function sectionsOff(
  patches: readonly Patch[],
  sides: readonly Side[],
  params: readonly number[],
): number {
  let off = 0
  for (const [k, side] of sides.entries())
    for (const [i, place] of side.place.entries())
      for (let j = 0; j < STATIONS; j++) {
        const u = j / (STATIONS - 1)
        off = Math.max(off, norm3(sub3(pointOn(patches[k]!, u, params[i]!), place(u))))
      }
  return off
}

/** How far the skin lies from what it would be along fewer rails, mm at most. */
function changedBy(
  guides: readonly Guide[],
  fewer: readonly Guide[],
  base: readonly Patch[],
  closed: boolean,
): number {
  const all = new Railed(base, guides, closed)
  const less = fewer.length > 0 ? new Railed(base, fewer, closed) : null
  let off = 0
  for (const k of base.keys())
    for (let i = 0; i <= 8; i++)
      for (let j = 1; j < 12; j++) {
        const [u, v] = [i / 8, j / 12]
        const without = less ? less.place(k, u, v) : pointOn(base[k]!, u, v)
        off = Math.max(off, norm3(sub3(all.place(k, u, v), without)))
      }
  return off
}
