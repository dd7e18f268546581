import { type ExactPart, formJob } from '../../../exact'
import { bad, good, mm, norm3, type Outcome, type P3, placeAt, sub3 } from '../../../math'
import { inMaterial, noHit, type TriMesh, treeOf } from '../../../mesh'
import { exactShape, loose } from '../../exact'
import type { OpContext, Tool } from '../../state'
import { grownPrism } from './about'
import { roomInTube } from './hollow'

/** How much thinner than asked a wall may measure, mm. */
const THIN = 2e-3
/** Places on the inside from which the wall is measured, about. */
const LOOKS = 600

/**
 * A wall in a tube that was cut since: the room behind the tube's own wall, less what cut it grown by the wall. Null where the body
 * is no such thing. What is made is believed only where the wall, measured from its inside, is nowhere less than asked.
 */
export function hollowSqueezed(
  body: string,
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  ctx: OpContext,
): Outcome<ExactPart> | null {
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

/** The wall from places all over the inside to the nearest of the outside; refused where it is thinner than asked. */
function measured(part: ExactPart, wall: number, ctx: OpContext): Outcome<ExactPart> {
  const inside = part.faces.map((f) => f.names.some((n) => n.startsWith(`${ctx.op}:`)))
  // Flat ends reach from the outside to the inside: they are no wall's side.
  const outside = part.faces.flatMap((f, i) => {
    const beside = part.edges.some(
      (e) => e.faces.includes(i) && e.faces.some((o) => inside[o] && o !== i),
    )
    return inside[i] || beside || f.area <= 0 ? [] : [i]
  })
  const { positions, triangles, faceOf } = part.shown
  const from: P3[] = []
  const step = Math.max(1, Math.floor(triangles.length / 3 / LOOKS))
  for (let t = 0; t < triangles.length / 3; t += step)
    if (inside[faceOf[t]!]) from.push(placeAt(positions, triangles[3 * t]!))
  if (from.length === 0 || outside.length === 0)
    return bad('not-measured', 'No inside was made whose wall could be measured.')
  const read = ctx.kernel(
    formJob(part.key, { seams: false, ribbons: [], feet: { faces: outside, from } }),
  )
  if (!read.ok) return read
  let thinnest = { wall: Number.POSITIVE_INFINITY, at: from[0]! }
  for (const [k, foot] of read.value[0]!.form!.feet.entries()) {
    const d = foot ? norm3(sub3(foot.at, from[k]!)) : Number.POSITIVE_INFINITY
    if (d < thinnest.wall) thinnest = { wall: d, at: from[k]! }
  }
  return thinnest.wall >= wall - THIN
    ? good(part)
    : bad(
        'thin-wall',
        `The wall would measure ${mm(thinnest.wall, 3)} here, less than the ${mm(wall, 2)} asked: an edge outside is rounded by more than the wall.`,
        [{ at: thinnest.at }],
      )
}
