import { bad, type Diagnosis, good, mm, norm3, type Outcome, placeAt, sub3 } from '../../../math'
import {
  type Basis,
  basisOf,
  breaksOf,
  columnAt,
  evenBasis,
  fittedBeside,
  type Guide,
  isTip,
  type Patch,
  placesOver,
  pointOn,
  Railed,
  type Section,
  type Side,
} from '../../../surface'
import type { OpContext, Shown } from '../../state'
import { guide, meeting, type RailInputs, railCurves, TOUCHES } from './guides'
import { turnedRound } from './turned'

/** How near the railed skin is met by its poles, mm. */
const NEAR = 3e-5
/** The same while something is dragged, mm. */
const ROUGH = 0.02

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
    base.patches.map((_, i) => (us, vs) => railed.over(i, us, vs)),
    ctx.rough ? ROUGH : NEAR,
  )
  if (ctx.rough) return good({ patches, warnings, words: '' })
  const missed = Math.max(...guides.map((g) => missedBy(g, patches)))
  const off = sectionsOff(patches, sides, base.params)
  const moves = input.gives === 'sections' && touches.some((t) => t.gap > TOUCHES)
  if (missed > 1e-3 || (off > 1e-4 && !moves))
    return bad(
      'not-met',
      `No skin was found that runs along the rails: it misses them by ${mm(missed, 4)}, the sections by ${mm(off, 4)}.`,
    )
  const ends = [0, base.patches.length].map(
    (at) => pins.find((p) => p.at(0) === at)?.place(0) ?? null,
  )
  const turned = closed ? null : turnedRound(input, guides, base.patches, [ends[0]!, ends[1]!], ctx)
  if (turned) ctx.shows({ turned })
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
  const words = `${guides.length === 1 ? 'a rail' : `${guides.length} rails`} met within ${mm(Math.max(missed, 1e-6), 6)}, changing it by ${mm(changed, 2)}${single}${moves ? `, sections moved by up to ${mm(off, 3)}` : ''}`
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

/** So many numbers at even distances. */
const evenly = (count: number, from: number, to: number): number[] =>
  Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1))

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
  const us = evenly(STATIONS, 0, 1)
  let off = 0
  for (const [k, side] of sides.entries()) {
    const made = placesOver(patches[k]!, us, params)
    for (const [i, place] of side.place.entries())
      for (const [j, u] of us.entries())
        off = Math.max(off, norm3(sub3(placeAt(made, j * params.length + i), place(u))))
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
  const [us, vs] = [evenly(9, 0, 1), evenly(11, 1 / 12, 11 / 12)]
  let off = 0
  for (const [k, patch] of base.entries()) {
    const [led, without] = [all.over(k, us, vs), less?.over(k, us, vs) ?? placesOver(patch, us, vs)]
    for (let i = 0; i < us.length * vs.length; i++)
      off = Math.max(off, norm3(sub3(placeAt(led, i), placeAt(without, i))))
  }
  return off
}
