import { type ExactPart, edgeCurve, formJob } from '../../../exact'
import { bad, good, mm, norm3, type Outcome, type P3, placeAt, sub3 } from '../../../math'
import { inMaterial, noHit, type TriMesh, treeOf } from '../../../mesh'
import { place3 } from '../../../surface'
import { exactShape, loose } from '../../exact'
import type { OpContext, Tool } from '../../state'
import { grownPrism } from './about'
import { roomInTube } from './hollow'

/** How much thinner than asked a wall may measure, mm. */
const THIN = 2e-3
/** What share of the wall has to be left of it where it is thinnest. */
const LEAST = 0.5
/** Places on the inside, and along its ridges, from which the wall is measured, about. */
const LOOKS = 600
/** Into how many steps each ridge is parted. */
const ALONG = 40

/**
 * A wall in a tube that was cut since: the room behind the tube's own wall, less what cut it grown by the wall. Null where the body
 * is no such thing. What is made is told by the wall as measured from its inside: where it is less than asked, and how much.
 */
export function hollowSqueezed(
  body: string,
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  ctx: OpContext,
): Outcome<WithWall> | null {
  const cuts = cutsOf(body, part, ctx)
  if (!cuts) return null
  if (!cuts.ok) return cuts
  const { whole, tools } = cuts.value
  // The ends that are open, by their names as they were before.
  const opened = [...open].map((f) =>
    whole.faces.findIndex((o) => o.names.some((n) => part.faces[f]!.names.includes(n))),
  )
  if (opened.includes(-1)) return null
  // The op runs again after each job of the kernel: what is known by then is not worked out anew.
  const room = ctx.once('room', () => roomInTube(whole, new Set(opened), wall, ctx))
  if (!room?.ok) return room
  const about: ExactPart[] = []
  for (const [k, tool] of tools.entries()) {
    const straight = ctx.once(`about ${k}`, () => grownPrism(tool, wall, ctx))
    if (straight?.ok) {
      about.push(straight.value)
      continue
    }
    const made = ctx.kernel({
      verb: 'shell',
      args: { op: ctx.op, open: [], wall, side: 'out' },
      on: [tool.key],
    })
    if (!made.ok) return made
    about.push(made.value[0]!)
  }
  const cut = ctx.kernel({
    verb: 'combine',
    args: { op: ctx.op, how: 'cut' },
    on: [room.value.key, ...about.map((g) => g.key)],
  })
  if (!cut.ok) return cut
  const pieces = loose(cut.value[0]!, ctx)
  if (!pieces.ok) return pieces
  // What lies in a tool is no room: the layer about that parts it from the rest.
  const rest = ctx.once('rest', () =>
    pieces.value.filter((p) => !tools.some((t) => liesIn(p.mesh, t.mesh))),
  )
  if (rest.length === 0) return bad('no-room', `No room is left for a wall of ${mm(wall, 2)}.`)
  const made = ctx.kernel({
    verb: 'combine',
    args: { op: ctx.op, how: 'cut' },
    on: [part.key, ...rest.map((p) => p.key)],
  })
  if (!made.ok) return made
  const now = made.value[0]!
  const taken = rest.reduce((sum, p) => sum + p.measure.volume, 0)
  const off = part.measure.volume - taken - now.measure.volume
  if (Math.abs(off) > 1e-6 * part.measure.volume)
    return bad('not-within', 'The room behind the wall does not lie all in the body.')
  return measured(now, wall, ctx)
}

/** What a tube was before it was cut, and what cut it: told by the names of the faces that are left of that. */
function cutsOf(
  body: string,
  part: ExactPart,
  ctx: OpContext,
): Outcome<{ whole: ExactPart; tools: ExactPart[] }> | null {
  const makers = new Set(part.faces.flatMap((f) => f.names.map((n) => n.split(':')[0]!)))
  const cuts = [...makers].flatMap((op) => {
    const tool = ctx.tool(op)
    return tool?.how === 'cut' && tool.body === body && tool.before ? [{ op, tool }] : []
  })
  // The first of them worked on a body that none of the others had cut.
  const first = cuts.find(({ tool }) => !cuts.some(({ op }) => madeBy(op, tool.before!)))
  if (!first) return null
  const whole = exactShape(first.tool.before!, ctx)
  if (!whole.ok) return whole
  const tools: ExactPart[] = []
  for (const shape of cuts.flatMap((c) => c.tool.shapes)) {
    const tool = exactShape(shape, ctx)
    if (!tool.ok) return tool
    // Each is grown by itself.
    const apart = tool.value.measure.solids > 1 ? loose(tool.value, ctx) : good([tool.value])
    if (!apart.ok) return apart
    tools.push(...apart.value)
  }
  return good({ whole: whole.value, tools })
}

/** Whether a shape has a face of an op. */
const madeBy = (op: string, shape: NonNullable<Tool['before']>): boolean =>
  shape.kind !== 'turned' && shape.faces.some((f) => f.names.some((n) => n.startsWith(`${op}:`)))

/** Whether a body that is wholly in another or wholly beside it is in it: by the corner that is farthest off that one's skin. */
function liesIn({ positions }: TriMesh, other: TriMesh): boolean {
  const tree = treeOf(other)
  const hit = noHit()
  let best = { d: -1, at: placeAt(positions, 0) }
  const step = Math.max(3, 3 * Math.floor(positions.length / 3 / 200))
  for (let i = 0; i < positions.length; i += step) {
    const at = placeAt(positions, i / 3)
    if (tree.nearest(...at, Number.POSITIVE_INFINITY, -1, hit) && hit.d > best.d)
      best = { d: hit.d, at }
  }
  return inMaterial(other, tree, ...best.at)
}

/** A body with its wall, and where that is thinnest; less than what was asked where an edge outside is rounded by more than it. */
export interface WithWall {
  part: ExactPart
  thinnest: { wall: number; at: P3 } | null
}

/**
 * The wall from places all over the inside, and along the lines where its faces meet, to the nearest of the outside: over a ridge that
 * turns by f and is rounded by r more than the wall t it is r - (r - t) / cos(f / 2). Refused where it is no wall any more.
 */
function measured(part: ExactPart, wall: number, ctx: OpContext): Outcome<WithWall> {
  const inside = part.faces.map((f) => f.names.some((n) => n.startsWith(`${ctx.op}:`)))
  // Flat ends reach from the outside to the inside: they are no wall's side.
  const outside = part.faces.flatMap((f, i) => {
    const beside = part.edges.some(
      (e) => e.faces.includes(i) && e.faces.some((o) => inside[o] && o !== i),
    )
    return inside[i] || beside || f.area <= 0 ? [] : [i]
  })
  const ridges = ridgesOf(part, inside)
  const every = Math.max(1, Math.ceil(ridges.length / LOOKS))
  const from = [...nodesOf(part, inside), ...ridges.filter((_, i) => i % every === 0)]
  if (from.length === 0 || outside.length === 0)
    return bad('not-measured', 'No inside was made whose wall could be measured.')
  const first = thinnestOf(part, outside, from, ctx)
  if (!first.ok) return first
  let thinnest = first.value
  const at = ridges.indexOf(thinnest.at)
  if (every > 1 && at >= 0) {
    // Between the places along the ridge that were looked at.
    const near = thinnestOf(part, outside, ridges.slice(Math.max(0, at - every), at + every), ctx)
    if (!near.ok) return near
    thinnest = near.value
  }
  if (thinnest.wall >= wall - THIN) return good({ part, thinnest: null })
  return thinnest.wall >= LEAST * wall
    ? good({ part, thinnest })
    : bad(
        'thin-wall',
        `The wall would measure ${mm(thinnest.wall, 3)} here, less than the ${mm(wall, 2)} asked: an edge outside is rounded by more than the wall.`,
        [{ at: thinnest.at }],
      )
}

/** Some of the corners of the triangles inside. */
function nodesOf({ shown: { positions, triangles, faceOf } }: ExactPart, inside: boolean[]): P3[] {
  const out: P3[] = []
  const step = Math.max(1, Math.floor(triangles.length / 3 / LOOKS))
  for (let t = 0; t < triangles.length / 3; t += step)
    if (inside[faceOf[t]!]) out.push(placeAt(positions, triangles[3 * t]!))
  return out
}

/** Places along the edges at which faces of the inside meet in an angle, edge by edge. */
const ridgesOf = (part: ExactPart, inside: boolean[]): P3[] =>
  part.edges.flatMap(({ faces, bend }, e) => {
    const curve = bend === 'smooth' || !faces.every((f) => inside[f]) ? null : edgeCurve(part, e)
    return curve ? Array.from({ length: ALONG + 1 }, (_, k) => place3(curve, k / ALONG)) : []
  })

/** The nearest of some faces from any of some places. */
function thinnestOf(
  part: ExactPart,
  faces: number[],
  from: P3[],
  ctx: OpContext,
): Outcome<{ wall: number; at: P3 }> {
  const read = ctx.kernel(formJob(part.key, { seams: false, ribbons: [], feet: { faces, from } }))
  if (!read.ok) return read
  let thinnest = { wall: Number.POSITIVE_INFINITY, at: from[0]! }
  for (const [k, foot] of read.value[0]!.form!.feet.entries()) {
    const d = foot ? norm3(sub3(foot.at, from[k]!)) : Number.POSITIVE_INFINITY
    if (d < thinnest.wall) thinnest = { wall: d, at: from[k]! }
  }
  return good(thinnest)
}
