import { type ExactPart, sizeOf } from '../../../exact'
import { type Diagnosis, good, norm3, type Outcome, type Place, sub3 } from '../../../math'
import { wallField } from '../../../mesh'
import { exactShape } from '../../exact'
import type { OpContext, RoundedEdge, Tool } from '../../state'
import { roundedAgain } from '../edges/orders'
import { lastOf } from '../past'
import type { WithWall } from './squeezed'

/** How far what stands round a room may be off what it was before, mm, and its areas and volumes as shares. */
const OFF = 1e-6
/** A detail may be larger than the wall by this share and still be left out of the room. */
const AS_LARGE = 1e-9

export type Hollowing = (part: ExactPart, open: ReadonlySet<number>) => Outcome<WithWall>

/** A step of what a body came through: what it rounds, adds or takes, and whether a wall leaves that out of the room. */
type Step = { op: string; leaves: boolean } & (
  | { edges: readonly RoundedEdge[] }
  | { how: 'join' | 'cut'; shapes: readonly ExactPart[] }
)

/**
 * A wall under details smaller than it: a round of an outer edge by no more than the wall, or what was joined and is nowhere thicker
 * than two walls. A ball of the wall's radius does not tell the body with them from the body without (opening by a ball, then eroding
 * by it, is eroding by it: Serra, Image analysis and mathematical morphology, 1982), so the room is made in the body as it was without
 * them and they are made again about it. Null where the body has none of these last, or where what comes out is not the body with a
 * room in it, as measured.
 */
export function hollowLeavingOut(
  body: string,
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  ctx: OpContext,
  hollow: Hollowing,
): Outcome<WithWall & { full: Diagnosis[] }> | null {
  const past = pastOf(body, part, wall, ctx)
  if (!past) return null
  let now = past.base
  const about: Step[] = []
  for (const step of past.steps) {
    const made = step.leaves ? null : again(now, step, ctx)
    if (made) now = made
    // What fills the foot of something that is left out comes after it, and makes no wall thinner.
    else if (step.leaves || ('edges' in step && step.edges.every((e) => e.bend === 'in')))
      about.push(step)
    else return null
  }
  const opened = openedOn(now, part, open)
  if (!opened) return null
  const made = hollow(now, opened)
  if (!made.ok) return null
  const room = now.measure.volume - made.value.part.measure.volume
  const full = past.steps.flatMap(staysFull)
  // What was joined may reach on into the room: then only what stands outside is joined again.
  for (const outside of [null, now]) {
    const out = allAgain(made.value.part, about, outside, ctx)
    if (out && sameWithRoom(part, out, open, room))
      return good({ part: out, thinnest: made.value.thinnest, full })
  }
  return null
}

/** Steps done again about a body with its room; of what is joined only that outside of another body, where one is told. */
function allAgain(
  hollow: ExactPart,
  steps: readonly Step[],
  outside: ExactPart | null,
  ctx: OpContext,
): ExactPart | null {
  let out: ExactPart | null = hollow
  for (const step of steps) {
    const own: Step | null = outside && 'shapes' in step ? cutBy(step, outside, ctx) : step
    out = out && own && again(out, own, ctx)
  }
  return out
}

function cutBy(
  step: Step & { shapes: readonly ExactPart[] },
  body: ExactPart,
  ctx: OpContext,
): Step | null {
  const shapes: ExactPart[] = []
  for (const shape of step.shapes) {
    const args = { op: step.op, how: 'cut' as const }
    const made = ctx.kernel({ verb: 'combine', args, on: [shape.key, body.key] })
    if (!made.ok) return null
    shapes.push(made.value[0]!)
  }
  return { ...step, shapes }
}

const staysFull = (step: Step): Diagnosis[] =>
  step.leaves && 'shapes' in step
    ? [
        {
          code: 'stays-full',
          message: 'What stands on the body here is nowhere thicker than two walls: it stays full.',
          places: step.shapes.map((s): Place => ({ at: s.measure.centroid })),
          fixes: [],
        },
      ]
    : []

/** The ops a body came through last, from the first whose detail is left out on, and what it was before that one. */
function pastOf(
  body: string,
  part: ExactPart,
  wall: number,
  ctx: OpContext,
): { base: ExactPart; steps: Step[] } | null {
  const chain: { base: ExactPart; steps: Step[] }[] = []
  for (let now = part; ; ) {
    const last = lastOf(body, now, ctx)
    const base = last && exactShape(last.tool.before, ctx)
    if (!base?.ok) break
    const steps = stepsOf(last!.op, last!.tool, wall, ctx)
    if (!steps) break
    chain.unshift({ base: base.value, steps })
    now = base.value
  }
  const first = chain.findIndex(({ steps }) => steps.some((s) => s.leaves))
  return first === -1
    ? null
    : { base: chain[first]!.base, steps: chain.slice(first).flatMap((c) => c.steps) }
}

function stepsOf(op: string, tool: Tool, wall: number, ctx: OpContext): Step[] | null {
  if (tool.how === 'round') {
    const small = (e: RoundedEdge) =>
      e.bend === 'out' && Math.max(e.size, e.end ?? 0) <= wall * (1 + AS_LARGE)
    return [true, false].flatMap((leaves): Step[] => {
      const edges = tool.edges.filter((e) => small(e) === leaves)
      return edges.length === 0 ? [] : [{ op, leaves, edges }]
    })
  }
  const shapes: ExactPart[] = []
  for (const shape of tool.shapes) {
    const made = exactShape(shape, ctx)
    if (!made.ok) return null
    shapes.push(made.value)
  }
  const thin = (s: ExactPart) => (wallField(s.mesh)?.max.wall ?? 0) <= 2 * wall * (1 + AS_LARGE)
  return [{ op, leaves: tool.how === 'join' && shapes.every(thin), how: tool.how, shapes }]
}

/** A step done again; null where it cannot be done just so. */
function again(part: ExactPart, step: Step, ctx: OpContext): ExactPart | null {
  if ('shapes' in step) {
    const on = [part.key, ...step.shapes.map((s) => s.key)]
    const made = ctx.kernel({ verb: 'combine', args: { op: step.op, how: step.how }, on })
    return made.ok ? made.value[0]! : null
  }
  return roundedAgain(ctx, step.op, part, step.edges)
}

/** The open faces of a body as they were before; null where one was not there. */
function openedOn(
  before: ExactPart,
  part: ExactPart,
  open: ReadonlySet<number>,
): ReadonlySet<number> | null {
  const found = [...open].map((f) =>
    before.faces.findIndex((o) => o.names.some((n) => part.faces[f]!.names.includes(n))),
  )
  return found.includes(-1) ? null : new Set(found)
}

/** Whether a body is another with a room of that volume in it: all its corners, and each face that is not open, are there as they were. */
function sameWithRoom(
  part: ExactPart,
  out: ExactPart,
  open: ReadonlySet<number>,
  room: number,
): boolean {
  const share = (a: number, b: number, of: number) => Math.abs(a - b) <= OFF * of
  const size = sizeOf(part)
  return (
    share(out.measure.volume, part.measure.volume - room, part.measure.volume) &&
    part.faces.every(
      (f, i) =>
        open.has(i) ||
        out.faces.some(
          (o) => share(o.area, f.area, f.area) && o.names.some((n) => f.names.includes(n)),
        ),
    ) &&
    part.vertices.every(({ at }) => out.vertices.some((v) => norm3(sub3(v.at, at)) <= OFF * size))
  )
}
