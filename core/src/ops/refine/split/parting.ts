import type { ExactPart, Sheet } from '../../../exact'
import { wiresOf } from '../../../exact'
import {
  bad,
  cross3,
  type Diagnosis,
  dot3,
  type Frame,
  good,
  type Outcome,
  type P3,
  scale3,
  sub3,
  toSpace,
} from '../../../math'
import { type CellRef, liveSegs, openChains, type Region } from '../../../profile'
import { exactBody, loose, reshaped, usedUp } from '../../exact'
import { closedAreas } from '../../form/areas'
import { chosenAreas } from '../../form/chosen'
import { prismOf, reachOf } from '../../form/prism'
import type { Body, OpContext, OpResult, Profile } from '../../state'

export interface PartingTools {
  profiles: readonly string[]
  /** Of the only profile: each a part of its own; all that it encloses where none is chosen. */
  areas: readonly CellRef[]
  bodies: readonly string[]
  /** Into the material behind the profiles' planes, mm; null right through. */
  deep: number | null
  /** What lies in one tool is one body, or each loose piece of it is. */
  each: boolean
  /** Whether the bodies that part stay. */
  stay: boolean
}

/** A solid that parts a body, and what its part is called. */
interface Tool {
  part: ExactPart
  name: string
}

/**
 * A body parted by what is drawn and by other bodies, all at once, without a gap: what lies in each is a
 * part of its own, in their order, the rest keeps the body's name. Open curves part the rest right through.
 */
export function partedBy(
  body: Body,
  part: ExactPart,
  tools: PartingTools,
  ctx: OpContext,
): Outcome<OpResult> {
  const solids: Tool[] = []
  const sheets: Sheet[] = []
  const warnings: Diagnosis[] = []
  for (const [i, id] of tools.profiles.entries()) {
    const profile = ctx.profile(id)
    if (!profile) return bad('no-profile', `The profile "${id}" does not exist here.`)
    const mark = `${ctx.op}:${i + 1}`
    const chosen = tools.profiles.length === 1 && tools.areas.length > 0
    const made = chosen
      ? toolsOfAreas(profile, id, mark, part, tools, ctx)
      : toolsOf(profile, id, mark, part, tools.deep, ctx)
    if (!made.ok) return made
    warnings.push(...made.value.warnings)
    solids.push(...made.value.solids)
    sheets.push(...made.value.sheets)
  }
  for (const id of tools.bodies) {
    const other = exactBody(id, ctx)
    if (!other.ok) return other
    solids.push({ part: other.value.part, name: other.value.body.name || id })
  }
  if (solids.length === 0 && sheets.length === 0)
    return bad('no-tools', 'Choose what parts it: profiles, text or other bodies.')
  const divided = solids.length > 0 ? divide(part, solids, ctx) : good({ rest: part, inside: [] })
  if (!divided.ok) return divided
  const { rest, inside } = divided.value
  const pieces = sheets.length > 0 ? cutAcross(rest, sheets, ctx) : good([rest])
  if (!pieces.ok) return pieces
  const bodies: Record<string, Omit<Body, 'key'> | null> = {}
  const [first, ...others] = pieces.value
  bodies[body.id] = reshaped(body, first!)
  for (const [k, p] of others.entries())
    bodies[`${ctx.op}-s${k + 1}`] = {
      id: `${ctx.op}-s${k + 1}`,
      name: `${body.name} side ${k + 2}`,
      shape: p,
    }
  for (const [k, p] of inside.entries()) {
    const { name, part: tool } = solids[k]!
    if (!p) {
      warnings.push({
        code: 'left-nothing',
        message: `${name} does not reach ${body.name}: it makes no part.`,
        places: [{ at: tool.measure.centroid }],
        fixes: [],
      })
      continue
    }
    const parts = tools.each && p.measure.solids > 1 ? loose(p, ctx) : good([p])
    if (!parts.ok) return parts
    for (const [j, shape] of parts.value.entries()) {
      const id = parts.value.length > 1 ? `${ctx.op}-${k + 1}-${j + 1}` : `${ctx.op}-${k + 1}`
      const more = parts.value.length > 1 ? ` ${j + 1}` : ''
      bodies[id] = { id, name: `${body.name} ${name}${more}`, shape }
    }
  }
  if (!tools.stay) Object.assign(bodies, usedUp(tools.bodies, ctx))
  const count = Object.values(bodies).filter(Boolean).length
  return good({
    bodies,
    warnings,
    consequence: `${count} parts, ${volumes(Object.values(bodies))}`,
  })
}

/** "40.1 + 0.4 cm³": volumes of the parts, the first few of them. */
function volumes(bodies: readonly (Omit<Body, 'key'> | null)[]): string {
  const list = bodies.flatMap((b) =>
    b && b.shape.kind !== 'turned' ? [b.shape.measure.volume] : [],
  )
  const words = list.slice(0, 4).map((v) => (v / 1000).toFixed(1))
  return `${words.join(' + ')}${list.length > 4 ? ' + …' : ''} cm³`
}

/** What of the body lies in each tool, earlier ones first, and what in none. */
function divide(
  body: ExactPart,
  tools: readonly Tool[],
  ctx: OpContext,
): Outcome<{ rest: ExactPart; inside: (ExactPart | null)[] }> {
  const on = tools.map((t) => t.part.key)
  const combine = (how: 'cut' | 'meet', keys: string[]) =>
    ctx.kernel({ verb: 'combine', args: { op: ctx.op, how }, on: keys })
  const cut = combine('cut', [body.key, ...on])
  if (!cut.ok)
    return cut.diagnosis.code === 'nothing-left'
      ? bad('nothing-left', 'The tools take in the whole body: nothing is parted.')
      : cut
  const inside: (ExactPart | null)[] = []
  for (const [k, key] of on.entries()) {
    const shared = combine('meet', [body.key, key])
    if (!shared.ok && shared.diagnosis.code !== 'nothing-left') return shared
    const own =
      shared.ok && k > 0 ? combine('cut', [shared.value[0]!.key, ...on.slice(0, k)]) : shared
    if (!own.ok && own.diagnosis.code !== 'nothing-left') return own
    inside.push(own.ok ? own.value[0]! : null)
  }
  const rest = cut.value[0]!
  const sum = inside.reduce((v, p) => v + (p?.measure.volume ?? 0), rest.measure.volume)
  // Triangles are kept to single precision.
  const share = [body, ...tools.map((t) => t.part)].some((p) => p.kind === 'mesh') ? 1e-5 : 1e-6
  if (Math.abs(sum / body.measure.volume - 1) > share)
    return bad('not-right', 'The parts do not make up the whole, so they are not used.')
  return good({ rest, inside })
}

interface Tools {
  solids: Tool[]
  sheets: Sheet[]
  warnings: Diagnosis[]
}

/** Chosen areas of a profile, a solid each. */
function toolsOfAreas(
  { frame, shape }: Profile,
  name: string,
  mark: string,
  body: ExactPart,
  { areas, deep }: PartingTools,
  ctx: OpContext,
): Outcome<Tools> {
  const out: Tools = { solids: [], sheets: [], warnings: [] }
  // All at once first: what is lost is told with the fix that leaves it out.
  const all = chosenAreas(shape, areas, '', ctx.op)
  if (!all.ok) return all
  out.warnings.push(...all.value.warnings)
  for (const [k, ref] of areas.entries()) {
    const one = chosenAreas(shape, [ref], `${mark}.${k + 1}.`, ctx.op)
    if (!one.ok) return one
    const made = carried(one.value.areas, frame, body, deep, ctx)
    if (!made.ok) return made
    out.solids.push({ part: made.value, name: areas.length > 1 ? `${name} ${k + 1}` : name })
  }
  return good(out)
}

/** Beyond a body that reaches from one height to another, mm. */
const spareOf = (low: number, high: number) => 0.1 * (high - low) + 1

/** Areas right through a body, or to a depth behind their plane. */
function carried(
  areas: readonly Region[],
  f: Frame,
  body: ExactPart,
  deep: number | null,
  ctx: OpContext,
): Outcome<ExactPart> {
  if (deep !== null && !(deep > 0)) return bad('not-positive', 'The depth must be more than 0.')
  const [low, high] = reachOf(body, f)
  const spare = spareOf(low, high)
  return deep === null
    ? prismOf(f, areas, low - spare, high + spare, ctx)
    : prismOf(f, areas, -deep, 0, ctx)
}

/** Closed outlines of a profile as solids, open curves as sheets right through the body. */
function toolsOf(
  profile: Profile,
  name: string,
  mark: string,
  body: ExactPart,
  deep: number | null,
  ctx: OpContext,
): Outcome<Tools> {
  const { frame: f, shape } = profile
  const areas = closedAreas(shape, `${mark}.`)
  if (!areas.ok) return areas
  const [low, high] = reachOf(body, f)
  const spare = spareOf(low, high)
  const solids: Tool[] = []
  if (areas.value.length > 0) {
    const made = carried(areas.value, f, body, deep, ctx)
    if (!made.ok) return made
    solids.push({ part: made.value, name })
  }
  const put = (z: number) => (p: readonly [number, number]) => toSpace(f, p[0], p[1], z)
  const sheets = openChains(liveSegs(shape, `${mark}.`)).map((chain): Sheet => {
    const curves = chain.map((s) => ({ s, wires: wiresOf(s.curve, put(low - spare)) }))
    return {
      chain: curves.flatMap((c) => c.wires),
      names: curves.flatMap(({ s, wires }) => wires.map(() => s.name)),
      way: scale3(f.z, high - low + 2 * spare),
    }
  })
  if (solids.length === 0 && sheets.length === 0)
    return bad('empty-profile', `There is nothing drawn in ${name}.`)
  return good({ solids, sheets, warnings: [] })
}

/** A body cut right across by sheets; the part on the left of the first curve, as it is drawn, comes first. */
function cutAcross(body: ExactPart, sheets: Sheet[], ctx: OpContext): Outcome<ExactPart[]> {
  const made = ctx.kernel({
    verb: 'part',
    args: { op: ctx.op, planes: [], sheets },
    on: [body.key],
  })
  if (!made.ok) return made
  const rank = (p: ExactPart) => sheets.map((s) => (isLeft(p, s) ? 0 : 1)).join('')
  const ranked = made.value.map((part) => ({ part, rank: rank(part) }))
  ranked.sort((a, b) => (a.rank < b.rank ? -1 : a.rank > b.rank ? 1 : 0))
  return good(ranked.map((r) => r.part))
}

/** Whether a part lies left of a sheet, seen with the sheet's way towards the eye. */
function isLeft(p: ExactPart, { chain, names, way }: Sheet): boolean {
  const face = p.faces.find((f) => f.names.some((n) => names.includes(n)))
  if (!face) return true
  const i = names.findIndex((n) => face.names.includes(n))
  const c = chain[i]!
  const [a, b]: [P3, P3] =
    c.kind === 'spline' ? [c.poles[0]!, c.poles[c.poles.length - 1]!] : [c.a, c.b]
  // The material of a part on the left looks to the right.
  return dot3(face.normal, cross3(sub3(b, a), way)) > 0
}
