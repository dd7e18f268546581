import { edgeCurve } from '../../../exact'
import {
  add3,
  bad,
  type Diagnosis,
  dot3,
  type Frame,
  frameAlong,
  good,
  mm,
  norm3,
  type Outcome,
  type P3,
  sub3,
} from '../../../math'
import {
  built,
  type Chain,
  type ChainFinding,
  chainFindings,
  helixCurve,
  helixSize,
  joinedEnds,
  ordered,
  rounded,
  type Stop,
  TOUCH,
} from '../../../path'
import { liveSegs } from '../../../profile'
import { type Curve3, end3, onFrame, start3, way3 } from '../../../surface'
import { exactBody } from '../../exact'
import { pickExactEdges } from '../../pick'
import { type DatumContext, datumAxis, planeFrame } from '../datum'
import { type DrawnPlace, heldPlaces } from './holds'
import type { PathInputs, StopInput } from './inputs'

/** A chain before its kinks are rounded. */
export interface Drawn extends Chain {
  closed: boolean
  stops?: P3[]
  /** Which of them the path passes by, from 0. */
  aside?: number[]
  /** What was measured as it was made. */
  words?: string
}

/** Through typed places, each from the one before where it says so, moved as little as can be where holds ask for it. */
export function throughStops(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const stops: Stop[] = []
  const drawn: DrawnPlace[] = []
  for (const s of i.stops) {
    const at = stopAt(s, stops[stops.length - 1]?.at, ctx)
    if (!at.ok) return at
    const round = s.round === undefined ? undefined : ctx.read(s.round, 'length')
    stops.push({ at: at.value, by: s.by, round, number: stops.length + 1 })
    drawn.push({ at: at.value, fixed: fixedOf(s, drawn.length > 0) })
  }
  const closed = i.closed === 'yes'
  const held = i.holds.length > 0 ? heldPlaces(drawn, i.holds, closed, ctx) : null
  if (held && !held.ok) return held
  const placed = stops.map((s, k) => ({ ...s, at: held?.value.places[k] ?? s.at }))
  const aside = [...i.stops.keys()].filter((k) => i.stops[k]!.aside)
  const passed = placed.filter((_, k) => !aside.includes(k))
  const made = built(passed, closed, ctx.read(i.round, 'length'))
  if (!made.ok) return made
  const words = held
    ? `${i.holds.length} held, ${held.value.free === 0 ? 'nothing free' : `free in ${held.value.free} ${held.value.free === 1 ? 'way' : 'ways'}`}`
    : undefined
  return good({
    ...made.value,
    closed,
    stops: placed.map((s) => s.at),
    ...(aside.length > 0 ? { aside } : {}),
    ...(words ? { words } : {}),
  })
}

/** Which coordinates of a place holds do not move: those of points, and those told as expressions. */
function fixedOf(s: StopInput, after: boolean): DrawnPlace['fixed'] {
  if ('point' in s) return ['stays', 'stays', 'stays']
  return ([s.x, s.y, s.z] as const).map((v) =>
    typeof v === 'number' ? null : s.rel && after ? 'from before' : 'stays',
  )
}

function stopAt(s: StopInput, before: P3 | undefined, ctx: DatumContext): Outcome<P3> {
  if ('point' in s) {
    const point = ctx.point(s.point)
    return point
      ? good(point.at)
      : bad('no-point', `The datum point "${s.point}" does not exist at this point of the route.`)
  }
  const at: P3 = [ctx.read(s.x, 'length'), ctx.read(s.y, 'length'), ctx.read(s.z, 'length')]
  return good(s.rel && before ? add3(before, at) : at)
}

/** Along what is drawn on a plane. */
export function alongProfile(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const profile = ctx.profile(i.profile ?? '')
  if (!profile) return bad('no-profile', 'Choose the profile whose pieces it follows.')
  const segs = liveSegs(profile.shape, '')
  if (segs.length === 0)
    return bad('empty-profile', 'The profile has nothing drawn in it that could be followed.')
  const curves = segs.map((s) => onFrame(s.curve, profile.frame))
  return inOrder(
    curves,
    segs.map((s) => s.name),
    i,
    ctx,
  )
}

/** Along edges of a body, those that run on in them too where asked. */
export function alongEdges(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const on = exactBody(i.body ?? '', ctx)
  if (!on.ok) return on
  const { part } = on.value
  if (i.edges.length === 0) return bad('no-edges', 'Pick the edges it runs along.')
  const picked = pickExactEdges(part, i.edges, ctx)
  if (!picked.ok) return picked
  ctx.warnings.push(...picked.value.warnings)
  const curveOf = (e: number) => edgeCurve(part, e)
  const chosen = new Set(picked.value.items)
  if (i.grow === 'smooth') {
    const others = part.edges.flatMap((e, k) => (e.bend === 'smooth' || chosen.has(k) ? [] : [k]))
    const curves = new Map([...chosen, ...others].map((e) => [e, curveOf(e)]))
    for (const e of chosen) {
      const from = curves.get(e)
      for (const o of others) {
        const to = curves.get(o)
        // A set takes what is added while it is run through.
        if (from && to && runsOn(from, to)) chosen.add(o)
      }
    }
  }
  const kept = [...chosen].flatMap((e) => {
    const curve = curveOf(e)
    return curve ? [{ e, curve }] : []
  })
  return inOrder(
    kept.map((k) => k.curve),
    kept.map((_, k) => `edge${k + 1}`),
    i,
    ctx,
  )
}

/** Directions at a shared end that are nearer than this run on, as the cosine (0.5 deg). */
const ON = Math.cos(0.0087)

function runsOn(a: Curve3, b: Curve3): boolean {
  const ends = (c: Curve3) => [
    { at: start3(c), away: way3(c, 0) },
    { at: end3(c), away: way3(c, 1).map((x) => -x) as unknown as P3 },
  ]
  return ends(a).some((p) =>
    ends(b).some((q) => norm3(sub3(p.at, q.at)) < TOUCH && -dot3(p.away, q.away) > ON),
  )
}

/** About an axis, z where none is chosen: a helix, a flat spiral, or one on a cone. */
export function roundHelix(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const frame = helixFrame(i, ctx)
  if (!frame.ok) return frame
  const of = (key: 'pitch' | 'height') => ctx.read(i[key], 'length')
  const turns = () => ctx.read(i.turns, 'number')
  const size = helixSize(
    i.by === 'pitch-turns'
      ? { pitch: of('pitch'), turns: turns() }
      : i.by === 'pitch-height'
        ? { pitch: of('pitch'), height: of('height') }
        : { turns: turns(), height: of('height') },
  )
  if (!size.ok) return size
  if (size.value.turns > MOST_TURNS)
    return bad('too-many', `A helix takes ${MOST_TURNS} turns at most.`)
  const radius = ctx.read(i.radius, 'length')
  const last = i.last === undefined ? radius : ctx.read(i.last, 'length')
  if (!(radius >= 0 && last >= 0 && Math.max(radius, last) > TOUCH))
    return bad('not-positive', 'The radius of a helix must be more than 0.')
  if (
    Math.abs(size.value.height) < TOUCH &&
    Math.abs(radius - last) < TOUCH &&
    size.value.turns > 1
  )
    return bad('on-itself', 'With neither height nor two radii it runs on itself.')
  const curve = helixCurve({
    frame: frame.value,
    radius,
    last,
    ...size.value,
    left: i.hand === 'left',
  })
  return good({ pieces: [curve], names: ['helix'], closed: false })
}
const MOST_TURNS = 200

function helixFrame(i: PathInputs, ctx: DatumContext): Outcome<Frame> {
  const base = planeFrame(i.plane ?? 'top', ctx)
  if (!base.ok || !i.axis) return base
  const axis = datumAxis(i.axis, ctx)
  return axis.ok ? good(frameAlong(axis.value.origin, axis.value.dir)) : axis
}

/** Loose pieces in order and joined within what is asked; what stays apart is told with place and number. */
export function inOrder(
  curves: readonly Curve3[],
  names: readonly string[],
  i: PathInputs,
  ctx: DatumContext,
): Outcome<Drawn> {
  const reach = Math.max(TOUCH, ctx.read(i.join, 'length'))
  const o = ordered(curves, reach)
  if (o.forks.length > 0)
    return bad(
      'forks',
      'More than two pieces meet here; a path goes one way only. Choose its pieces so that each end meets one other.',
      o.forks.map((at) => ({ at })),
    )
  if (o.apart.length > 0) {
    const gap = nearestGap(
      o.pieces,
      o.apart.map((k) => curves[k]!),
    )
    const wide = Math.ceil(gap.size * 100 + 0.01) / 100
    return bad(
      'gap',
      `${o.apart.length === 1 ? 'One piece does' : `${o.apart.length} pieces do`} not join the others: the nearest gap is ${mm(gap.size, 3)}.`,
      [{ at: gap.at }],
      gap.size <= MOST_JOIN
        ? [{ label: `Join within ${wide} mm`, op: ctx.op, inputs: { join: wide } }]
        : [],
    )
  }
  const pieces = joinedEnds(o.pieces, o.closed, reach)
  const gaps = chainFindings(o.pieces, o.closed).filter((f) => f.code === 'gap')
  if (gaps.length > 0) ctx.warnings.push(joinedWords(gaps))
  const raw = pieces.map((curve, k) => ({
    curve,
    name: names[o.from[k]!]!,
    round: ctx.read(i.round, 'length'),
  }))
  const made = rounded(raw, o.closed)
  return made.ok ? good({ ...made.value, closed: o.closed }) : made
}
/** Gaps up to this are offered to be joined, mm. */
const MOST_JOIN = 5

const joinedWords = (gaps: readonly ChainFinding[]): Diagnosis => ({
  code: 'joined',
  message: `${gaps.length === 1 ? 'A gap was' : `${gaps.length} gaps were`} joined: ${gaps.map((g) => mm(g.size, 4)).join(', ')}.`,
  places: gaps.map((g) => ({ at: g.at })),
  fixes: [],
})

function nearestGap(chain: readonly Curve3[], apart: readonly Curve3[]) {
  let best = { size: Number.POSITIVE_INFINITY, at: [0, 0, 0] as P3 }
  const tips = [start3(chain[0]!), end3(chain[chain.length - 1]!)]
  for (const c of apart)
    for (const p of [start3(c), end3(c)])
      for (const q of tips) {
        const size = norm3(sub3(p, q))
        if (size < best.size) best = { size, at: q }
      }
  return best
}
