import { z } from 'zod'
import { type ExactPart, edgeCurve, formJob } from '../../../exact'
import type { RibbonSpot } from '../../../kernel'
import { bad, type Diagnosis, good, mm, norm3, type Outcome, type P3, sub3 } from '../../../math'
import { chainFindings, ordered } from '../../../path'
import { liveSegs, openChains, type Region, type Seg, valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { besideOf, end3, type Loop, onFrame, place3, start3 } from '../../../surface'
import { exactBody } from '../../exact'
import { pickExactFaces } from '../../pick'
import type { OpContext } from '../../state'
import { closedAreas } from '../areas'
import { cellRefSchema, chosenAreas } from '../chosen'
import { withProfileFixes } from '../faults'

/** What a loft runs through: areas of a drawing or its one open line, a path, a flat or free face, a place. */
const tip = {
  end: z.enum(['pointed', 'domed']).default('pointed'),
  /** How strongly a dome is drawn out; 1 is about a ball. */
  weight: valueSchema.default(1),
}
export const loftSectionSchema = z.union([
  /** One end of a path, as a place. */
  z.object({ path: z.string().min(1), only: z.enum(['start', 'end']), ...tip }),
  z.object({
    profile: z.string().min(1),
    areas: z.array(cellRefSchema).max(50).default([]),
    /** Corners its matching is turned on by; shares of a turn where it has none. */
    shift: z.number().min(-1000).max(1000).default(0),
    /** Which of its holes each hole of the section before goes on in, by their numbers as they are matched where none is told. */
    holes: z.array(z.number().int().min(1).max(200)).max(200).default([]),
  }),
  z.object({
    path: z.string().min(1),
    shift: z.number().min(-1000).max(1000).default(0),
  }),
  z.object({
    body: z.string().min(1),
    face: faceRefSchema,
    shift: z.number().min(-1000).max(1000).default(0),
  }),
  z.object({ point: z.string().min(1), ...tip }),
])
export type LoftSectionInput = z.infer<typeof loftSectionSchema>

/** A section as loops in space, the outer first; or a place. */
export type LoftSection =
  | { kind: 'loops'; loops: Loop[]; shift: number; holes?: number[]; warnings: Diagnosis[] }
  | { kind: 'tip'; at: P3; domed: boolean; weight: number }

/** `meets`: what lies beside the section is read too, for a skin that runs on from there. */
export function loftSection(
  given: LoftSectionInput,
  number: number,
  meets: boolean,
  ctx: OpContext,
): Outcome<LoftSection> {
  if ('point' in given || 'only' in given) {
    const at = tipAt(given, ctx)
    if (!at)
      return bad(
        'no-point',
        `Section ${number}: its ${'point' in given ? 'datum point' : 'path'} does not exist here.`,
      )
    const weight = ctx.read(given.weight, 'number')
    if (!(weight > 0))
      return bad('not-positive', `Section ${number}: its weight must be more than 0.`)
    return good({ kind: 'tip', at, domed: given.end === 'domed', weight })
  }
  const { shift } = given
  if ('body' in given) {
    const on = exactBody(given.body, ctx)
    if (!on.ok) return on
    const picked = pickExactFaces(on.value.part, [given.face], ctx, 'sections')
    if (!picked.ok) return picked
    const loops = faceLoops(on.value.part, picked.value.items[0]!, meets, ctx)
    if (loops && !loops.ok) return loops
    if (!loops)
      return bad('no-loop', `Section ${number}: the edges of this face are no closed chain.`, [
        { at: on.value.part.faces[picked.value.items[0]!]!.middle },
      ])
    return good({ kind: 'loops', loops: loops.value, shift, warnings: picked.value.warnings })
  }
  if ('path' in given) {
    const path = ctx.path(given.path)
    if (!path) return bad('no-path', `Section ${number}: its path does not exist here.`)
    const gap = chainFindings(path.pieces, path.closed).find((f) => f.code === 'gap')
    if (gap)
      return bad('gap', `Section ${number}: its path has a gap of ${mm(gap.size, 3)} here.`, [
        { at: gap.at },
      ])
    const loop = { curves: path.pieces, names: path.names, closed: path.closed }
    return good({ kind: 'loops', loops: [loop], shift, warnings: [] })
  }
  const profile = ctx.profile(given.profile)
  if (!profile) return bad('no-profile', `Section ${number}: its drawing does not exist here.`)
  const drawn = regionsFor(given, ctx)
  if (!drawn.ok) return withProfileFixes(drawn.diagnosis, profile, given.profile)
  const { regions, warnings } = drawn.value
  const [region] = regions
  const put = (segs: readonly Seg[], closed: boolean): Loop => ({
    curves: segs.map((s) => onFrame(s.curve, profile.frame)),
    names: segs.map((s) => s.name),
    closed,
  })
  if (!region) {
    const chains = openChains(liveSegs(profile.shape, `${ctx.op}:`))
    if (chains.length === 1)
      return good({ kind: 'loops', loops: [put(chains[0]!, false)], shift, warnings })
    return bad(
      'open-profile',
      `Section ${number} encloses nothing, and is no single line: it has ${chains.length} that go on by themselves.`,
      chains.map((c) => ({ at: place3(put(c, false).curves[0]!, 0) })),
    )
  }
  if (regions.length > 1)
    return bad(
      'several',
      `Section ${number} has ${regions.length} areas apart from each other; choose one of them.`,
    )
  const loops = [region.outer, ...region.holes].map((l) => put(l, true))
  const { holes } = given
  const each = new Set(holes)
  if (holes.length > 0 && (each.size !== region.holes.length || Math.max(...holes) > each.size))
    return bad(
      'holes',
      `Section ${number}: its ${region.holes.length} holes are matched by the numbers 1 to ${region.holes.length}, each once.`,
    )
  return good({ kind: 'loops', loops, shift, holes, warnings })
}

function tipAt(given: Extract<LoftSectionInput, { weight: unknown }>, ctx: OpContext): P3 | null {
  if ('point' in given) return ctx.point(given.point)?.at ?? null
  const pieces = ctx.path(given.path)?.pieces
  if (!pieces) return null
  return given.only === 'start' ? start3(pieces[0]!) : end3(pieces[pieces.length - 1]!)
}

function regionsFor(
  given: Extract<LoftSectionInput, { profile: string }>,
  ctx: OpContext,
): Outcome<{ regions: Region[]; warnings: Diagnosis[] }> {
  const { shape } = ctx.profile(given.profile)!
  if (given.areas.length > 0) {
    const chosen = chosenAreas(shape, given.areas, `${ctx.op}:`, ctx.op)
    return chosen.ok
      ? good({ regions: chosen.value.areas, warnings: chosen.value.warnings })
      : chosen
  }
  const areas = closedAreas(shape, `${ctx.op}:`)
  return areas.ok ? good({ regions: areas.value, warnings: [] }) : areas
}

/** The edges round a face as closed chains, the longest first; null where they do not close. */
function faceLoops(
  part: ExactPart,
  face: number,
  meets: boolean,
  ctx: OpContext,
): Outcome<Loop[]> | null {
  let left = part.edges.flatMap((e, edge) => {
    if (!e.faces.includes(face) || e.faces.length !== 2) return []
    const curve = edgeCurve(part, edge)
    const other = e.faces.find((f) => f !== face) ?? face
    const name = `${ctx.op}:on(${part.faces[other]!.names[0] ?? '?'})`
    return curve ? [{ curve, length: e.length, name, edge, other }] : []
  })
  const read = meets ? ribbons(part, left, ctx) : null
  if (read && !read.ok) return read
  const loops: (Loop & { length: number })[] = []
  while (left.length > 0) {
    const o = ordered(left.map((l) => l.curve))
    if (!o.closed) return null
    const chain = o.from.map((k) => left[k]!)
    const beside = chain.map(({ edge }, k) => {
      const spots = read?.value.get(edge)
      if (!spots) return null
      const piece = o.pieces[k]!
      // The kernel's own parameter may run the other way.
      const off = (i: number) => norm3(sub3(spots[i]!.at, place3(piece, 0.25)))
      const quarter = Math.round((spots.length - 1) / 4)
      const ahead = off(quarter) <= off(spots.length - 1 - quarter)
      return besideOf(ahead ? spots : [...spots].reverse(), piece)
    })
    loops.push({
      curves: o.pieces,
      names: chain.map((l) => l.name),
      closed: true,
      ...(read ? { beside } : {}),
      length: chain.reduce((sum, l) => sum + l.length, 0),
    })
    left = o.apart.map((k) => left[k]!)
  }
  return good(loops.sort((a, b) => b.length - a.length))
}

/** The faces beside edges along them, by the number of the edge; one of triangles has none. */
function ribbons(
  part: ExactPart,
  edges: readonly { edge: number; other: number }[],
  ctx: OpContext,
): Outcome<Map<number, RibbonSpot[]>> {
  if (part.kind !== 'exact') return good(new Map())
  const args = { seams: false, ribbons: edges.map((e) => e.edge) }
  const made = ctx.kernel(formJob(part.key, args))
  if (!made.ok) return made
  const read = made.value[0]!.form!.ribbons
  return good(
    new Map(
      edges.flatMap(({ edge, other }) => {
        const own = read[edge]?.find((r) => r.face === other)
        return own ? [[edge, own.spots] as const] : []
      }),
    ),
  )
}
