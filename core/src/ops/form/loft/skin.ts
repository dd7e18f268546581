import { munkres } from 'munkres'
import {
  bad,
  type Diagnosis,
  dot3,
  good,
  mm,
  type Outcome,
  type P3,
  rounded,
  sub3,
} from '../../../math'
import {
  creasesIn,
  foldIn,
  type Matched,
  matched,
  type Patch,
  type Ring,
  ringOf,
  type Section,
  type Side,
  sectionSteps,
  sidesOf,
  skinned,
  twistIn,
  within,
} from '../../../surface'
import type { OpContext } from '../../state'
import { endOf, type FlatEnd, type NamedPatch, offPlane } from '../quilted'
import type { Closed } from '../walled'
import { alongCentre, type Centre, centreOf, movedRing, putBack } from './centre'
import { closedSkin } from './closing'
import { endHolds, meetings, middleOf } from './ends'
import { type LoftInputs, railed } from './inputs'
import { alongRails } from './rails'
import type { LoftSection } from './section'
import { nextRail, threadsOf } from './shown'

/** All that bounds the body, worked out before the kernel is asked. */
export function shapedSkin(
  sections: readonly LoftSection[],
  input: LoftInputs,
  ctx: OpContext,
): Outcome<Closed & { warnings: Diagnosis[] }> {
  const warnings: Diagnosis[] = []
  const ring = input.ring === 'yes'
  const rings = sections.map((s) => (s.kind === 'loops' ? s.loops.map(ringOf) : null))
  const middles = sections.map((s, i): P3 => (s.kind === 'tip' ? s.at : rings[i]![0]!.centre))
  const centre =
    input.centre && input.run !== 'ruled' && !ring
      ? centreOf(input.centre, middles, ctx)
      : good(null)
  if (!centre.ok) return centre
  const loops = loopsMatched(sections, rings, centre.value)
  if (!loops.ok) return loops
  ctx.shows({ holes: loops.value.length - 1 })
  const patches: NamedPatch[][] = []
  let words = ''
  for (const row of loops.value) {
    const made = skinOf(row, patches.length === 0, sections, centre.value, input, ctx)
    if (!made.ok) return made
    patches.push(made.value.patches)
    warnings.push(...made.value.warnings)
    words += made.value.words
  }
  if (input.mode === 'sheet') {
    if (patches.length > 1)
      return bad('holes', 'A sheet runs through outlines without holes; these have some.')
    return good({ patches: patches.flat(), flats: [], warnings, words })
  }
  const all = patches.flat().flatMap(parted)
  if (!isClosed(sections)) {
    const made = closedSkin(patches.flat(), all, input, ctx)
    return made.ok ? good({ ...made.value, warnings, words: words + made.value.words }) : made
  }
  const ends: FlatEnd[] = []
  for (const last of ring ? [] : [false, true]) {
    if (sections.at(last ? -1 : 0)!.kind === 'tip') continue
    const loops = patches.map((l) => l.map((p) => p.patch))
    const end = endOf(loops, last, [`${ctx.op}:${last ? 'end' : 'start'}`])
    const off = offPlane(
      end.loops[0]!,
      end.loops.flat(2).flatMap((r) => r.poles),
    )
    if (off > FLAT_END)
      return bad(
        'not-flat',
        `Section ${last ? sections.length : 1} is off a plane by ${mm(off, 3)}: no flat face closes the body there.`,
        [{ at: end.loops[0]![0]!.poles[0]! }],
      )
    ends.push(end)
  }
  const halves = ring && input.run !== 'ruled' ? halvedRing(all) : all
  return good({ patches: halves, flats: ends, warnings, words })
}

/** How far what bounds a flat end may lie off its plane, mm. */
const FLAT_END = 1e-5

/** Whether sections close round; all do, or none (matching refuses others). */
const isClosed = (sections: readonly LoftSection[]): boolean =>
  sections.some((s) => s.kind === 'loops' && s.loops[0]!.closed)

/**
 * A face of its own between each two creases: what runs straight from section to section has one at each, what follows a kinked
 * rail at the kink.
 */
const parted = (p: NamedPatch): NamedPatch[] => {
  const { knots } = p.patch.v
  const inner = creasesIn(p.patch.v)
  if (inner.length === 0) return [p]
  const creases = [knots[0]!, ...inner, knots[knots.length - 1]!]
  return creases.slice(1).map((to, i) => ({
    patch: within(p.patch, 0, 1, creases[i]!, to),
    names: p.names,
  }))
}

/** A ring comes in two halves: a face that closes on itself both ways bounds nothing for the kernel. */
const halvedRing = (patches: readonly NamedPatch[]): NamedPatch[] =>
  patches.flatMap(({ patch, names }) => [
    { patch: within(patch, 0, 1, 0, 0.5), names },
    { patch: within(patch, 0, 1, 0.5, 1), names },
  ])

export function unfit(sections: readonly LoftSection[], ring: boolean): Outcome<never> | null {
  if (sections.length < 2) return bad('too-few', 'A loft runs through two sections at least.')
  const tips = sections.flatMap((s, i) => (s.kind === 'tip' ? [i] : []))
  if (tips.length === sections.length)
    return bad('too-few', 'A loft needs a section that is more than a place.')
  const inside = tips.find((i) => i > 0 && i < sections.length - 1)
  if (inside !== undefined)
    return bad(
      'tip-inside',
      `Section ${inside + 1} is a place; only the first and the last can be one.`,
    )
  if (ring && tips.length > 0)
    return bad('tip-inside', 'A ring has no ends, so none of its sections can be a place.')
  if (ring && !isClosed(sections))
    return bad('open-ring', 'A ring runs through closed sections; these are open.')
  if (ring && sections.length < 3)
    return bad('too-few', 'A ring runs through three sections at least.')
  return null
}

/**
 * The holes of each section in the order of those of the first: from each section to the next as they lie nearest to each other in sum
 * of squares, each once, or as a section says.
 */
function holesMatched(
  sections: readonly LoftSection[],
  rings: readonly (Ring[] | null)[],
): (Ring[] | null)[] {
  let before: Ring[] | null = null
  return rings.map((list, i) => {
    if (!list) return null
    const [own, s] = [list.slice(1), sections[i]!]
    const last = before
    const apart = (a: Ring, b: Ring) => {
      const d = sub3(a.centre, b.centre)
      return dot3(d, d)
    }
    const best = last
      ? munkres(last.map((a) => own.map((b) => apart(a, b)))).map(([, to]) => own[to]!)
      : own
    const told = s.kind === 'loops' ? (s.holes ?? []) : []
    before = told.length > 0 ? told.map((k) => best[k - 1]!) : best
    return before
  })
}

/** The loops of all sections that belong together: outer to outer, holes as they are matched. */
function loopsMatched(
  sections: readonly LoftSection[],
  rings: readonly (Ring[] | null)[],
  centre: Centre | null,
): Outcome<Section[][]> {
  const counts = sections.flatMap((s) => (s.kind === 'loops' ? [s.loops.length] : []))
  const other = counts.findIndex((c) => c !== counts[0])
  if (other > 0)
    return bad(
      'loops-differ',
      `The sections do not have as many outlines: the first has ${counts[0]}, another ${counts[other]}. Give each the same number of holes.`,
    )
  const holes = holesMatched(sections, rings)
  const rows: Section[][] = []
  for (let k = 0; k < counts[0]!; k++) {
    const row = rings.map((list, i) =>
      k === 0 ? (list?.[0] ?? null) : (holes[i]?.[k - 1] ?? null),
    )
    const real = row.filter((r) => r !== null)
    const shifts = sections.flatMap((s) => (s.kind === 'loops' ? [k === 0 ? s.shift : 0] : []))
    // Along a centre line sections are matched as they would stand if that were straight.
    const bent = row.flatMap((r, i) => (r && centre ? [centre.straight[i]!] : []))
    const made = matched(centre ? real.map((r, i) => movedRing(r, bent[i]!)) : real, shifts)
    if (!made.ok) return made
    const back = ({ ring, breaks }: Matched, i: number): Matched =>
      centre ? { ring: putBack(ring, bent[i]!), breaks } : { ring, breaks }
    let next = 0
    rows.push(
      sections.map((s, i): Section => {
        if (row[i]) return back(made.value[next]!, next++)
        return { tip: s.kind === 'tip' ? s.at : [0, 0, 0] }
      }),
    )
  }
  return good(rows)
}

/** How near sections are met while something is dragged, mm. */
const ROUGH = 5e-3

/** The skin through one row of loops as it comes, as its ends ask, or along its centre line. */
function skinThrough(
  row: readonly Section[],
  sides: readonly Side[],
  steps: readonly number[],
  sections: readonly LoftSection[],
  centre: Centre | null,
  input: LoftInputs,
  ctx: OpContext,
): Outcome<{ patches: Patch[]; params: number[] }> {
  if (centre) return good(alongCentre(centre, sides))
  const [ruled, ring] = [input.run === 'ruled', input.ring === 'yes']
  const holds = endHolds(row, sides, steps, sections, input, ctx)
  const met = ctx.rough ? { met: ROUGH } : {}
  return holds.ok ? good(skinned(sides, { ruled, ring, ...holds.value, ...met })) : holds
}

/** The skin through one row of loops, looked over before the kernel is asked. */
function skinOf(
  row: readonly Section[],
  outer: boolean,
  sections: readonly LoftSection[],
  centre: Centre | null,
  input: LoftInputs,
  ctx: OpContext,
): Outcome<{ patches: NamedPatch[]; warnings: Diagnosis[]; words: string }> {
  const sides = sidesOf(row)
  const ring = input.ring === 'yes'
  const steps = sectionSteps(sides, ring)
  const twice = 1 + steps.findIndex((s) => s < 1e-4)
  if (twice > 0)
    return bad(
      'same-place',
      `Sections ${twice} and ${(twice % row.length) + 1} lie on each other.`,
      [{ at: middleOf(row[twice % row.length]!) }],
    )
  if (outer) ctx.shows(threadsOf(row, sides))
  const smooth = input.run !== 'ruled' && !ring
  const made = skinThrough(row, sides, steps, sections, centre, input, ctx)
  if (!made.ok) return made
  const base = made.value
  // Holes keep to the sections; rails lead what is outside.
  const led =
    outer && railed(input) && !ring
      ? alongRails(base, row, sides, input, ctx)
      : good({ patches: base.patches, warnings: [], words: '' })
  if (!led.ok) return led
  const { patches, warnings, words } = led.value
  for (const p of patches) {
    const fold = foldIn(p)
    if (fold)
      return bad(
        'folds',
        'The skin folds over here: sections that follow each other cross, or are matched the wrong way round.',
        [{ at: fold.at }],
      )
  }
  // A waist that rails ask for is meant.
  const twist = isClosed(sections) ? twistIn(base.patches, base.params) : null
  if (twist)
    return bad(
      'twisted',
      `Between two sections the skin is drawn in to ${rounded(100 * twist.left!, 0)} % of their area: they are turned against each other. Shift the matching of one of them.`,
      [{ at: twist.at }],
    )
  if (outer && smooth && !centre && !ctx.rough) {
    const next = nextRail(patches, sides, base.params)
    if (next) ctx.shows({ next })
  }
  const met = meetings(patches, row, input)
  return good({
    patches: patches.map((patch, i) => ({ patch, names: sides[i]!.names })),
    warnings: [...warnings, ...met.warnings],
    words: [words, ...met.words]
      .filter(Boolean)
      .map((x) => `${x}, `)
      .join(''),
  })
}
