import { type ExactPart, faceName } from '../../../exact'
import {
  add3,
  bad,
  cornersAt,
  cross3,
  dot3,
  type Frame,
  good,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
} from '../../../math'
import type { FaceRef } from '../../../refs'
import { frameOf } from '../../draw/datum'
import { exactBody, exactOf } from '../../exact'
import { pickExactFaces } from '../../pick'
import type { Body, OpContext, OpMade } from '../../state'
import { numbered } from './parts'

/**
 * Along faces picked on a body: flat ones part on all of their plane, others as they are, all at once. What
 * lies behind them (on the side of their material) comes first.
 */
export function alongFaces(
  body: Body,
  holderId: string,
  refs: readonly FaceRef[],
  ctx: OpContext,
): Outcome<OpMade> {
  const part = exactOf(body, ctx)
  if (!part.ok) return part
  const holder = exactBody(holderId, ctx)
  if (!holder.ok) return holder
  if (refs.length === 0) return bad('no-faces', 'Pick the faces it is parted along.')
  const picked = pickExactFaces(holder.value.part, refs, ctx, 'faces')
  if (!picked.ok) return picked
  const from = holder.value.part
  const flat = (i: number) => from.faces[i]!.kind === 'plane'
  const planes = picked.value.items.filter(flat).map((i) => frameOf(from.faces[i]!))
  // A round wall is made of several faces of one name: they go together.
  const names = picked.value.items.filter((i) => !flat(i)).map((i) => faceName(from, i))
  const skins = from.faces.flatMap((f, i) => (names.some((n) => f.names.includes(n)) ? [i] : []))
  const made = ctx.kernel({
    verb: 'part',
    args: { op: ctx.op, planes, ...(skins.length > 0 ? { faces: skins } : {}) },
    on: [part.value.key, ...(skins.length > 0 ? [from.key] : [])],
  })
  if (!made.ok)
    return made.diagnosis.code === 'misses' && skins.length === 0
      ? bad('misses', `The planes of the faces do not go through ${body.name}.`)
      : made
  const ranked = made.value.map((p) => ({ p, rank: sideOf(p, planes, from, skins, ctx.op) }))
  ranked.sort((a, b) => (a.rank < b.rank ? -1 : a.rank > b.rank ? 1 : 0))
  const result = numbered(
    body,
    ranked.map((r) => r.p),
    ctx.op,
  )
  return good({ ...result, warnings: [...picked.value.warnings, ...result.warnings] })
}

/** 0 behind each plane and skin, 1 in front, in their order. */
function sideOf(
  p: ExactPart,
  planes: readonly Frame[],
  holder: ExactPart,
  skins: readonly number[],
  op: string,
): string {
  const byPlane = planes.map((f) => (dot3(sub3(p.measure.centroid, f.origin), f.z) > 0 ? 1 : 0))
  const bySkin = skins.map((i) => {
    const names = holder.faces[i]!.names.map((n) => `${op}:by(${n})`)
    const own = p.faces.find((f) => f.names.some((n) => names.includes(n)))
    // What lies behind looks out of the material as the skin itself does.
    return own && dot3(own.normal, normalNear(holder, i, own.middle)) < 0 ? 1 : 0
  })
  return [...byPlane, ...bySkin].join('')
}

/** Which way a face looks at the place of its triangles nearest to another. */
function normalNear({ shown }: ExactPart, face: number, p: P3): P3 {
  let [best, normal]: [number, P3] = [Number.POSITIVE_INFINITY, [0, 0, 1]]
  for (let t = 0; t < shown.faceOf.length; t++) {
    if (shown.faceOf[t] !== face) continue
    const [a, b, c] = cornersAt(shown, t)
    const middle = scale3(add3(add3(a, b), c), 1 / 3)
    const d = norm3(sub3(p, middle))
    if (d < best) [best, normal] = [d, cross3(sub3(b, a), sub3(c, a))]
  }
  return normal
}
