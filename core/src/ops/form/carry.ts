import { z } from 'zod'
import { boundsOf } from '../../curve'
import { type ExactPart, type Outline, outlineOf, wiresOf } from '../../exact'
import { add3, bad, dot3, type Frame, good, type Outcome, scale3, sub3, toSpace } from '../../math'
import { type Region, regionArea, segsOf, valueSchema } from '../../profile'
import type { OpContext, Profile } from '../state'

/** How far and which way areas are carried out of their plane. */
export const carryingInputs = {
  to: z.enum(['length', 'through', 'plane']).default('length'),
  side: z.enum(['along', 'against', 'alike', 'two']).default('along'),
  length: valueSchema.default(10),
  second: valueSchema.default(10),
  plane: z.string().optional(),
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
  profile: Profile,
  areas: readonly Region[],
  target: ExactPart | null,
  ctx: OpContext,
): Outcome<ExactPart> {
  const offset = ctx.read(input.offset, 'length')
  const angle = ctx.read(input.draft, 'angle')
  const { frame } = profile
  if (input.to === 'plane') return upToPlane(input.plane ?? '', frame, offset, areas, ctx)
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
  return single(
    ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how: 'join' },
      on: [first!.key, second.key],
    }),
  )
}

const single = (made: Outcome<ExactPart[]>): Outcome<ExactPart> =>
  made.ok ? good(made.value[0]!) : made

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

/** How far a body reaches along a plane's normal, from the plane, mm. */
export function reachOf({ measure: { bounds } }: ExactPart, f: Frame): [number, number] {
  const heights: number[] = []
  for (const x of [bounds.min[0], bounds.max[0]])
    for (const y of [bounds.min[1], bounds.max[1]])
      for (const z of [bounds.min[2], bounds.max[2]])
        heights.push(dot3(sub3([x, y, z], f.origin), f.z))
  return [Math.min(...heights), Math.max(...heights)]
}

/** The areas' outlines at a height over the plane. */
const outlines = (f: Frame, areas: readonly Region[], height: number): Outline[] =>
  areas.map((r) => outlineOf(r, (c) => wiresOf(c, (p) => toSpace(f, p[0], p[1], height))))

const areaSum = (areas: readonly Region[]): number =>
  areas.reduce((sum, r) => sum + regionArea(r), 0)

/** Areas carried from one height over their plane to another, mm. */
export const prismOf = (
  f: Frame,
  areas: readonly Region[],
  from: number,
  to: number,
  ctx: OpContext,
): Outcome<ExactPart> =>
  single(
    ctx.kernel({
      verb: 'prism',
      args: {
        op: ctx.op,
        regions: outlines(f, areas, from),
        way: scale3(f.z, to - from),
        volume: areaSum(areas) * (to - from),
      },
      on: [],
    }),
  )

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

/** From the profile's plane to another, which may be oblique. */
function upToPlane(
  id: string,
  f: Frame,
  offset: number,
  areas: readonly Region[],
  ctx: OpContext,
): Outcome<ExactPart> {
  const plane = ctx.plane(id)
  if (!plane) return bad('no-plane', 'Choose the plane to go up to.')
  const to = plane.frame
  const slope = dot3(f.z, to.z)
  if (Math.abs(slope) < 1e-6) return bad('alongside', 'The extrusion runs alongside that plane.')
  const heights = cornersOf(areas).map(
    ([u, v]) => dot3(sub3(to.origin, toSpace(f, u, v)), to.z) / slope,
  )
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  if (low < offset && high > offset)
    return bad('through-profile', 'That plane goes through the profile itself.')
  if (high - low < 1e-9) {
    if (Math.abs(low - offset) < 1e-9)
      return bad('not-positive', 'That plane is the one the extrusion starts from.')
    return prismOf(f, areas, Math.min(low, offset), Math.max(low, offset), ctx)
  }
  const ahead = low >= offset
  const spare = high - low + 1
  const long = prismOf(f, areas, ahead ? offset : low - spare, ahead ? high + spare : offset, ctx)
  if (!long.ok) return long
  const parts = ctx.kernel({
    verb: 'part',
    args: { op: ctx.op, planes: [to] },
    on: [long.value.key],
  })
  if (!parts.ok) return parts
  // The parts behind the plane come first.
  const behind = dot3(sub3(add3(f.origin, scale3(f.z, offset)), to.origin), to.z) < 0
  const [first] = parts.value
  return good(behind ? first! : parts.value[parts.value.length - 1]!)
}

/** Corners of the box about the areas, in the drawing. */
function cornersOf(areas: readonly Region[]): [number, number][] {
  const boxes = segsOf(areas).map((s) => boundsOf(s.curve))
  const at = (k: 0 | 1) => [
    Math.min(...boxes.map((b) => b.min[k])),
    Math.max(...boxes.map((b) => b.max[k])),
  ]
  return at(0).flatMap((u) => at(1).map((v): [number, number] => [u, v]))
}
