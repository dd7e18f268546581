import { z } from 'zod'
import type { ExactPart } from '../../exact'
import { add3, bad, type Frame, good, type Outcome, scale3 } from '../../math'
import { type Region, valueSchema } from '../../profile'
import { placeOf, placeSchema } from '../draw/datum'
import type { OpContext } from '../state'
import { only, prismOf, reachOf } from './prism'
import { upToBody, upToPlane, upToPoint } from './upto'

/** How far and which way areas are carried out of their plane. */
export const carryingInputs = {
  to: z.enum(['length', 'through', 'plane', 'body', 'point']).default('length'),
  side: z.enum(['along', 'against', 'alike', 'two']).default('along'),
  length: valueSchema.default(10),
  second: valueSchema.default(10),
  plane: z.string().optional(),
  until: z.string().optional(),
  point: placeSchema.optional(),
  offset: valueSchema.default(0),
  draft: valueSchema.default(0),
}
type Carrying = z.infer<z.ZodObject<typeof carryingInputs>>

/** From where to where it goes along the plane's normal, mm; drafted spans start at the plane. */
interface Span {
  from: number
  to: number
}

/** What is carried out, before it acts on anything. */
export function carriedOut(
  input: Carrying,
  frame: Frame,
  areas: readonly Region[],
  target: ExactPart | null,
  ctx: OpContext,
): Outcome<ExactPart> {
  const offset = ctx.read(input.offset, 'length')
  const angle = ctx.read(input.draft, 'angle')
  if (input.to === 'plane') return upToPlane(input.plane ?? '', frame, offset, areas, ctx)
  if (input.to === 'body') {
    const way = input.side === 'against' ? 'against' : 'along'
    return upToBody(input.until ?? '', way, frame, offset, areas, ctx)
  }
  if (input.to === 'point') {
    const at = placeOf(input.point ?? { x: 0, y: 0, z: 0 }, ctx)
    return at.ok ? upToPoint(at.value, frame, offset, areas, ctx) : at
  }
  const spans = spansOf(input, frame, offset, target, ctx)
  if (!spans.ok) return spans
  if (Math.abs(angle) < 1e-9) {
    const from = Math.min(...spans.value.map((s) => s.from))
    const to = Math.max(...spans.value.map((s) => s.to))
    return prismOf(frame, areas, from, to, ctx)
  }
  if (!(Math.abs(angle) < Math.PI / 2)) return bad('draft', 'The draft must be less than 90 deg.')
  const halves: ExactPart[] = []
  for (const s of spans.value) {
    const half = drafted(frame, areas, s, offset, angle, ctx)
    if (!half.ok) return half
    halves.push(half.value)
  }
  const [first, second] = halves
  if (!second) return good(first!)
  return only(
    ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how: 'join' },
      on: [first!.key, second.key],
    }),
  )
}

function spansOf(
  input: Carrying,
  frame: Frame,
  offset: number,
  target: ExactPart | null,
  ctx: OpContext,
): Outcome<Span[]> {
  let [out, behind] = [0, 0]
  if (input.to === 'through') {
    if (!target) return bad('no-body', 'Right through needs the body it goes through.')
    const [low, high] = reachOf(target, frame)
    const spare = 0.1 * (high - low) + 1
    out = high - offset + spare
    behind = offset - low + spare
    if (input.side === 'along' && !(out > spare)) return passes('behind')
    if (input.side === 'against' && !(behind > spare)) return passes('in front of')
  } else {
    out = ctx.read(input.length, 'length')
    if (!(out > 0)) return bad('not-positive', 'The length must be more than 0.')
    behind = input.side === 'two' ? ctx.read(input.second, 'length') : out
    if (!(behind > 0)) return bad('not-positive', 'The length behind must be more than 0.')
    if (input.side === 'alike') [out, behind] = [out / 2, out / 2]
  }
  const front = { from: offset, to: offset + out }
  const back = { from: offset - behind, to: offset }
  if (input.side === 'along') return good([front])
  if (input.side === 'against') return good([back])
  return good([back, front])
}

const passes = (where: string) =>
  bad('misses', `The body lies ${where} the profile; turn the way it goes round.`)

/** One side of the plane, its sides leaning in from there. */
function drafted(
  f: Frame,
  areas: readonly Region[],
  span: Span,
  offset: number,
  angle: number,
  ctx: OpContext,
): Outcome<ExactPart> {
  const straight = prismOf(f, areas, span.from, span.to, ctx)
  if (!straight.ok) return straight
  const part = straight.value
  const outward = span.to > offset
  const z = outward ? f.z : scale3(f.z, -1)
  const origin = add3(f.origin, scale3(f.z, offset))
  const ends = new Set([`${ctx.op}:start`, `${ctx.op}:end`])
  const faces = part.faces.flatMap((x, i) => (x.names.some((n) => ends.has(n)) ? [] : [i]))
  const round = part.faces.find((x) => x.kind === 'free')
  if (round)
    return bad('no-draft', 'A side swept from a free curve takes no draft; use lines and arcs.', [
      { at: round.middle },
    ])
  const made = ctx.kernel({
    verb: 'draft',
    args: { op: ctx.op, faces, plane: { ...f, origin, z }, angle },
    on: [part.key],
  })
  return made.ok
    ? good(made.value[0]!)
    : bad('no-draft', `The sides cannot lean so far: ${made.diagnosis.message}`)
}
