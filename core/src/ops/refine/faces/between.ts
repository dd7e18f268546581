import { arc } from '../../../curve'
import { type ExactPart, faceName, leanAlong } from '../../../exact'
import { add3, bad, dot3, frameAlong, mm, type Outcome, type P3, scale3, sub3 } from '../../../math'
import type { Region } from '../../../profile'
import { frameOf } from '../../draw/datum'
import { only, prismOf } from '../../form/prism'
import type { OpContext } from '../../state'

/** Faces beside it that lean more than this run on in it, or nearly: they cannot be followed. */
const STEEPEST = (80 * Math.PI) / 180

/** What lies between a face and where it is to go, out of the material by `by` mm, into it where that is less than 0. */
export function between(
  p: ExactPart,
  face: number,
  by: number,
  ctx: OpContext,
): Outcome<ExactPart> {
  const { kind, middle, round } = p.faces[face]!
  if (kind === 'plane') return besideFlat(p, face, by, ctx)
  if (kind === 'cylinder' && round) return besideRound(p, face, by, ctx)
  return bad('not-moved', 'Only flat faces, and round ones all round, can be moved.', [
    { at: middle },
  ])
}

function besideFlat(p: ExactPart, face: number, by: number, ctx: OpContext): Outcome<ExactPart> {
  const plane = frameOf(p.faces[face]!)
  const leans = new Map<number, number>()
  for (const [e, edge] of p.edges.entries()) {
    if (!edge.faces.includes(face)) continue
    const other = edge.faces.find((f) => f !== face)
    if (other === undefined) continue
    const looks = leanAlong(p, e, other, plane.z)
    // In a pocket what is between touches the faces beside it: it looks the other way there.
    const lean = looks !== null && edge.bend === 'in' ? -looks : looks
    const known = leans.get(other)
    if (lean === null || (known !== undefined && Math.abs(known - lean) > 1e-5))
      return bad(
        'uneven',
        `The face beside it, ${faceName(p, other)}, meets it at an angle that changes along the edge: it cannot be followed.`,
        [{ at: edge.middle }],
      )
    if (Math.abs(lean) > STEEPEST)
      return bad(
        'runs-on',
        `The face beside it, ${faceName(p, other)}, runs on in it smoothly: move the face before its edges are rounded.`,
        [{ at: edge.middle }],
      )
    leans.set(other, known ?? lean)
  }
  const args = {
    op: ctx.op,
    face,
    plane,
    by,
    leans: [...leans].map(([f, lean]) => ({ face: f, lean })),
  }
  const made = only(ctx.kernel({ verb: 'grow', args, on: [p.key] }))
  if (made.ok) return made
  return bad(
    'not-moved',
    `It cannot move so far: the faces beside it do not close about it there. ${made.diagnosis.message}`,
    [{ at: p.faces[face]!.middle }],
  )
}

/** A ring between the radius of a round face and the one it is to have, as long as the face. */
function besideRound(p: ExactPart, face: number, by: number, ctx: OpContext): Outcome<ExactPart> {
  const { middle, normal, round } = p.faces[face]!
  const { dir, radius } = round!
  // A whole round face may be in several, of one name and axis.
  const own = p.faces.flatMap((f, i) =>
    f.round && isSame(f.round, round!) && f.names.includes(faceName(p, face)) ? [i] : [],
  )
  const foot = (x: P3) => dot3(sub3(x, round!.origin), dir)
  const heights: number[] = []
  let around = 0
  for (const e of p.edges) {
    if (!e.faces.some((f) => own.includes(f)) || e.faces.every((f) => own.includes(f))) continue
    const other = p.faces[e.faces.find((f) => !own.includes(f)) ?? face]!
    const square = e.circle && other.flat && Math.abs(dot3(other.flat.dir, dir)) > 1 - 1e-9
    if (!square)
      return bad('not-square', 'Its ends are not flat and square to it: they cannot be followed.', [
        { at: e.middle },
      ])
    const h = foot(e.circle!.origin)
    if (!heights.some((x) => Math.abs(x - h) < 1e-6)) heights.push(h)
    around += e.length
  }
  const whole = Math.abs(around - heights.length * 2 * Math.PI * radius) < 1e-6 * radius
  if (heights.length !== 2 || !whole)
    return bad('not-round', 'The face does not go all round between two flat ends.', [
      { at: middle },
    ])
  const out = dot3(sub3(middle, add3(round!.origin, scale3(dir, foot(middle)))), normal) > 0
  const next = out ? radius + by : radius - by
  if (!(next > 1e-6))
    return bad('consumed', `Its radius is ${mm(radius)}: it cannot move inwards by more.`, [
      { at: middle },
    ])
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  const plane = frameAlong(add3(round!.origin, scale3(dir, low)), dir)
  const ring = (r: number, sweep: number) => [
    { curve: arc([0, 0], r, 0, sweep), name: faceName(p, face) },
  ]
  const region: Region = {
    outer: ring(Math.max(radius, next), 2 * Math.PI),
    holes: [ring(Math.min(radius, next), -2 * Math.PI)],
  }
  return prismOf(plane, [region], 0, high - low, ctx)
}

type Round = NonNullable<ExactPart['faces'][number]['round']>
const isSame = (a: Round, b: Round): boolean => {
  const off = sub3(b.origin, a.origin)
  const aside = sub3(off, scale3(a.dir, dot3(off, a.dir)))
  return (
    Math.abs(a.radius - b.radius) < 1e-9 &&
    Math.abs(dot3(a.dir, b.dir)) > 1 - 1e-12 &&
    Math.hypot(...aside) < 1e-6
  )
}
