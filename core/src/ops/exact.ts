import { CLEAR, type ExactPart, sizeOf } from '../exact'
import type { How } from '../kernel'
import { bad, type Diagnosis, good, type Outcome, type Place, sub3 } from '../math'
import { treeOf } from '../mesh'
import { sectionBounds, type TurnedBody, turnedJob } from '../turned'
import type { Body, OpContext } from './state'

/** A body as an exact one: lifted where it is turned. Faces keep their names. */
export const exactOf = (body: Body, ctx: OpContext): Outcome<ExactPart> =>
  exactShape(body.shape, ctx)

export function exactShape(
  shape: Body['shape'],
  ctx: Pick<OpContext, 'kernel'>,
): Outcome<ExactPart> {
  if (shape.kind !== 'turned') return good(shape)
  const made = ctx.kernel(turnedJob(shape.turned))
  return made.ok ? good(made.value[0]!) : made
}

/** A body that must be there, as an exact one. */
export function exactBody(id: string, ctx: OpContext): Outcome<{ body: Body; part: ExactPart }> {
  const body = ctx.body(id)
  if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
  const part = exactOf(body, ctx)
  return part.ok ? good({ body, part: part.value }) : part
}

/** Why a body that is content cannot be worked on together with others; null where it is none. */
export const isHeld = (body: Body, ctx: OpContext): Outcome<never> | null =>
  ctx.content(body.id)
    ? bad(
        'content',
        `${body.name || 'The body'} is content: it is measured against and may cut others, but is never cut. Choose another body, or say in the tray that it is none.`,
      )
    : null

/** Bodies that an op uses up are taken away; content stays. */
export const usedUp = (ids: readonly string[], ctx: OpContext): Record<string, null> =>
  Object.fromEntries(ids.filter((id) => !ctx.content(id)).map((id) => [id, null]))

/** Why a body of triangles cannot be worked on by what needs true surfaces (`what`, a noun); null where it can. */
export const ofTriangles = (body: Body, what: string): Outcome<never> | null =>
  body.shape.kind !== 'mesh'
    ? null
    : bad(
        'needs-surfaces',
        `${body.name || 'The body'} consists of triangles; ${what} needs true surfaces. It can be combined, split, moved, patterned, measured and released as triangles.`,
      )

/** The body with another shape. */
export const reshaped = (body: Body, part: ExactPart): Omit<Body, 'key'> => ({
  id: body.id,
  name: body.name,
  shape: part,
})

/** Tells of loose parts where there are more than `expected`, and of edges where a body has no thickness. */
export function unsound(name: string, part: ExactPart, expected = 1): Diagnosis[] {
  const out: Diagnosis[] = []
  const tell = (code: string, message: string, places: Place[]) =>
    out.push({ code, message, places, fixes: [] })
  const what = name || 'The body'
  if (part.measure.solids > expected)
    tell(
      'loose-parts',
      `${what} now has ${part.measure.solids} parts that do not hang together.`,
      [],
    )
  const touching = part.edges.filter((e) => e.faces.length > 2)
  if (touching.length > 0)
    tell(
      'touches-itself',
      `${what} touches itself along ${touching.length === 1 ? 'an edge' : `${touching.length} edges`}, where it has no thickness: it is no sound solid there.`,
      touching.map((e) => ({ at: e.middle })),
    )
  return out
}

/** Tells when a combination changed nothing: what was joined lies inside, what was to be taken away touches at most. */
export function unchanged(
  name: string,
  how: How,
  before: ExactPart,
  after: ExactPart,
  tools: readonly ExactPart[],
): Diagnosis[] {
  const change = Math.abs(after.measure.volume - before.measure.volume)
  if (change > 1e-9 * before.measure.volume) return []
  const own = treeOf(before.mesh)
  const apart = tools.every((t) => !own.gap(treeOf(t.mesh), CLEAR))
  return [
    asBefore(
      name,
      how,
      apart ? `does not touch ${name}` : `touches ${name}, but does not reach into it`,
    ),
  ]
}

/** That a combination changed nothing, and why: `missed` says where what should cut lies. */
export const asBefore = (name: string, how: How, missed: string): Diagnosis => ({
  code: 'no-change',
  message: `The body is as before: ${
    {
      cut: `it ${missed}`,
      join: `it lies wholly inside ${name}`,
      meet: `${name} lies wholly inside it`,
    }[how]
  }.`,
  places: [],
  fixes: [],
})

/** The body with another half-section. */
export const withShape = (body: Body, turned: TurnedBody): Omit<Body, 'key'> => ({
  id: body.id,
  name: body.name,
  shape: { kind: 'turned', turned },
})

/** Whether a body's ops take the exact kernel. */
export const isExact = (ctx: OpContext, bodyId: string): boolean =>
  (ctx.body(bodyId)?.shape.kind ?? 'turned') !== 'turned'

/** No rounding or wall can be larger than the section itself, or half an exact body. */
export function sectionSize(ctx: OpContext, bodyId: string): number | null {
  const body = ctx.body(bodyId)
  if (!body) return null
  if (body.shape.kind !== 'turned') return sizeOf(body.shape) / 2
  const box = sectionBounds(body.shape.turned)
  return Math.max(box.max[0] - box.min[0], box.max[1] - box.min[1])
}

/** The loose solids of a part, by where they lie. */
export function loose(part: ExactPart, ctx: OpContext): Outcome<ExactPart[]> {
  const made = ctx.kernel({ verb: 'apart', args: {}, on: [part.key] })
  if (!made.ok) return made
  const near = (p: ExactPart) => p.measure.centroid
  return good(
    [...made.value].sort((a, b) => {
      const d = sub3(near(a), near(b))
      return Math.abs(d[0]) > 1e-6 ? d[0] : Math.abs(d[1]) > 1e-6 ? d[1] : d[2]
    }),
  )
}
