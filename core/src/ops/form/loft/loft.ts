import type { ExactPart } from '../../../exact'
import type { How } from '../../../kernel'
import {
  bad,
  type Diagnosis,
  dot3,
  good,
  norm3,
  type Outcome,
  type P3,
  rounded,
  scale3,
  sub3,
  unit3,
} from '../../../math'
import {
  betweenV,
  type EndHold,
  foldIn,
  isTip,
  type Matched,
  matched,
  meetingOff,
  type Patch,
  ringOf,
  runningOn,
  type Section,
  type Side,
  sectionSteps,
  sidesOf,
  skinned,
  twistIn,
} from '../../../surface'
import { exactBody } from '../../exact'
import { defineOp } from '../../spec'
import { type OpContext, type OpResult, volumeWords } from '../../state'
import { onto } from '../onto'
import { type FlatEnd, type NamedPatch, quilted } from '../quilted'
import { type LoftInputs, loftFields, loftInputs, railed } from './inputs'
import { alongRails } from './rails'
import { type LoftSection, loftSection } from './section'

export const loftOp = defineOp<LoftInputs>({
  kind: 'loft',
  version: 1,
  label: 'Loft',
  help: 'A body whose skin runs through sections, one after the other.',
  stage: 'form',
  inputs: loftInputs,
  fields: loftFields,
  start: ({ body, profiles = [] }) => ({
    sections: profiles.map((profile) => ({ profile, areas: [], shift: 0 })),
    mode: 'new',
    ...(body ? { body } : {}),
    rails: [],
    give: 0,
    run: 'smooth',
    ring: 'no',
    begins: 'free',
    beginPull: 1,
    ends: 'free',
    endPull: 1,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const lofted = loftedPart(input, ctx)
    if (!lofted.ok) return lofted
    const { part, warnings, words } = lofted.value
    if (input.mode === 'new')
      return good({
        bodies: { [ctx.op]: { id: ctx.op, name: '', shape: part } },
        warnings,
        consequence: `${input.sections.length} sections, ${words}${volumeWords(0, part.measure.volume)}`,
      })
    const target = exactBody(input.body ?? '', ctx)
    if (!target.ok) return target
    const made = onto(target.value.body, part, input.mode as How, ctx)
    if (!made.ok) return made
    made.value.warnings.unshift(...warnings)
    made.value.consequence = `${words}${made.value.consequence}`
    return made
  },
  slow: () => true,
  cap: () => 10,
})

function loftedPart(
  input: LoftInputs,
  ctx: OpContext,
): Outcome<{ part: ExactPart; warnings: Diagnosis[]; words: string }> {
  const warnings: Diagnosis[] = []
  const sections: LoftSection[] = []
  for (const [i, s] of input.sections.entries()) {
    const end = i === 0 ? input.begins : i === input.sections.length - 1 ? input.ends : 'free'
    const made = loftSection(s, i + 1, end === 'on' || end === 'bent', ctx)
    if (!made.ok) return made
    if (made.value.kind === 'loops') warnings.push(...made.value.warnings)
    sections.push(made.value)
  }
  const ring = input.ring === 'yes'
  const wrong = unfit(sections, ring)
  if (wrong) return wrong
  const loops = loopsMatched(sections)
  if (!loops.ok) return loops
  const patches: NamedPatch[][] = []
  let words = ''
  for (const row of loops.value) {
    const made = skinOf(row, patches.length === 0, sections, input, ctx)
    if (!made.ok) return made
    patches.push(made.value.patches)
    warnings.push(...made.value.warnings)
    words += made.value.words
  }
  const end = (last: boolean): FlatEnd[] =>
    ring || sections.at(last ? -1 : 0)!.kind === 'tip'
      ? []
      : [
          {
            loops: patches.map((l) => l.map((p) => p.patch)),
            last,
            names: [`${ctx.op}:${last ? 'end' : 'start'}`],
          },
        ]
  const all = patches.flat()
  const made = quilted(ring ? halvedRing(all) : all, [...end(false), ...end(true)], ctx)
  return made.ok ? good({ part: made.value, warnings, words }) : made
}

/** A ring comes in two halves: a face that closes on itself both ways bounds nothing for the kernel. */
const halvedRing = (patches: readonly NamedPatch[]): NamedPatch[] =>
  patches.flatMap(({ patch, names }) => [
    { patch: betweenV(patch, 0, 0.5), names },
    { patch: betweenV(patch, 0.5, 1), names },
  ])

function unfit(sections: readonly LoftSection[], ring: boolean): Outcome<never> | null {
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
  if (ring && sections.length < 3)
    return bad('too-few', 'A ring runs through three sections at least.')
  return null
}

/** The loops of all sections that belong together: outer to outer, holes by which are nearest to each other. */
function loopsMatched(sections: readonly LoftSection[]): Outcome<Section[][]> {
  const counts = sections.flatMap((s) => (s.kind === 'loops' ? [s.loops.length] : []))
  const other = counts.findIndex((c) => c !== counts[0])
  if (other > 0)
    return bad(
      'loops-differ',
      `The sections do not have as many outlines: the first has ${counts[0]}, another ${counts[other]}. Give each the same number of holes.`,
    )
  const rings = sections.map((s) => (s.kind === 'loops' ? s.loops.map(ringOf) : null))
  const rows: Section[][] = []
  for (let k = 0; k < counts[0]!; k++) {
    let near: P3 | null = null
    const row = rings.map((list) => {
      if (!list) return null
      if (k === 0) return list[0]!
      const holes = list.slice(1)
      const from: P3 = near ?? holes[k - 1]!.centre
      const best = holes.reduce((a, b) =>
        norm3(sub3(b.centre, from)) < norm3(sub3(a.centre, from)) ? b : a,
      )
      near = best.centre
      return best
    })
    const real = row.filter((r) => r !== null)
    const shifts = sections.flatMap((s) => (s.kind === 'loops' ? [k === 0 ? s.shift : 0] : []))
    const made = matched(real, shifts)
    if (!made.ok) return made
    let next = 0
    rows.push(
      sections.map((s, i): Section => {
        if (row[i]) return made.value[next++]!
        return { tip: s.kind === 'tip' ? s.at : [0, 0, 0] }
      }),
    )
  }
  return good(rows)
}

/** The skin through one row of loops, looked over before the kernel is asked. */
function skinOf(
  row: readonly Section[],
  outer: boolean,
  sections: readonly LoftSection[],
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
  const holds = endHolds(row, sides, steps, sections, input, ctx)
  if (!holds.ok) return holds
  const base = skinned(sides, { ruled: input.run === 'ruled', ring, ...holds.value })
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
  const twist = twistIn(patches, base.params)
  if (twist)
    return bad(
      'twisted',
      `Between two sections the skin is drawn in to ${rounded(100 * twist.left!, 0)} % of their area: they are turned against each other. Shift the matching of one of them.`,
      [{ at: twist.at }],
    )
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

/** Up to which a skin runs on in what lies beside it: angle (rad), and share of the curvature. */
const RUNS_ON = { angle: 1.75e-3, bend: 0.05 }

/** How the skin was measured to meet what lies beside its ends, where it was to run on. */
function meetings(
  patches: readonly Patch[],
  row: readonly Section[],
  input: LoftInputs,
): { words: string[]; warnings: Diagnosis[] } {
  const words: string[] = []
  const warnings: Diagnosis[] = []
  if (input.run === 'ruled' || input.ring === 'yes') return { words, warnings }
  for (const last of [false, true]) {
    const how = last ? input.ends : input.begins
    const own = row[last ? row.length - 1 : 0]!
    if ((how !== 'on' && how !== 'bent') || isTip(own)) continue
    const { angle, bend, at } = meetingOff(patches, own, last)
    const [deg, share] = [rounded((angle * 180) / Math.PI, 3), rounded(100 * bend, 1)]
    const told = how === 'bent' ? `${deg}° and ${share} % of curvature` : `${deg}°`
    const end = last ? 'end' : 'beginning'
    words.push(`${end} runs on within ${told}`)
    if (angle > RUNS_ON.angle || (how === 'bent' && bend > RUNS_ON.bend))
      warnings.push({
        code: 'meets-off',
        message: `At its ${end} the skin is off what lies beside it by ${told}${railed(input) ? ': the rails lead it away' : ''}.`,
        places: [{ at }],
        fixes: [],
      })
  }
  return { words, warnings }
}

/** What holds the ends of the skin: square to the section's plane, or the roundness of a dome. */
function endHolds(
  row: readonly Section[],
  sides: readonly Side[],
  steps: readonly number[],
  sections: readonly LoftSection[],
  input: LoftInputs,
  ctx: OpContext,
): Outcome<{ first: EndHold; last: EndHold }> {
  const n = row.length
  const whole = steps.reduce((a, b) => a + b, 0)
  /** How much of the whole way a step is, as v counts it. */
  const share = (step: number) => steps[step]! / whole
  const hold = (last: boolean): Outcome<EndHold> => {
    const [i, next] = last ? [n - 1, n - 2] : [0, 1]
    const s = sections[i]!
    if (s.kind === 'tip') {
      if (!s.domed || input.run === 'ruled') return good(null)
      const scale = s.weight / share(Math.min(i, next))
      return good(domed(s.at, middleOf(row[next]!), scale, sides, next, last))
    }
    const how = last ? input.ends : input.begins
    if (how === 'free' || input.run === 'ruled' || input.ring === 'yes') return good(null)
    const pull = ctx.read(last ? input.endPull : input.beginPull, 'number')
    if (!(pull > 0)) return bad('not-positive', 'The pull must be more than 0.')
    const own = row[i] as Matched
    const { ring } = own
    const to = sub3(middleOf(row[next]!), ring.centre)
    // As far as the next section is, in a unit of v for all sections together.
    const reach = (pull * norm3(to)) / share(Math.min(i, next))
    if (how !== 'square') return runningOn(own, reach, last, how === 'bent')
    const along = dot3(to, ring.normal)
    if (Math.abs(along) < 0.05 * norm3(to))
      return bad(
        'beside',
        'The next section lies beside this one, not before it: the skin cannot leave it square.',
        [{ at: ring.centre }],
      )
    const way = scale3(unit3(ring.normal), reach * Math.sign(along) * (last ? -1 : 1))
    return good({ slope: () => way })
  }
  const first = hold(false)
  if (!first.ok) return first
  const last = hold(true)
  return last.ok ? good({ first: first.value, last: last.value }) : last
}

const middleOf = (s: Section): P3 => ('tip' in s ? s.tip : s.ring.centre)

/** The skin leaves a dome's top level, away to where its neighbour section lies. */
function domed(
  top: P3,
  middle: P3,
  weight: number,
  sides: readonly Side[],
  next: number,
  last: boolean,
): EndHold {
  const axis = unit3(sub3(top, middle))
  const scale = (weight * Math.PI) / 2
  return {
    slope(u, side) {
      const out = sub3(sides[side]!.place[next]!(u), middle)
      const flat = sub3(out, scale3(axis, dot3(out, axis)))
      return scale3(flat, last ? -scale : scale)
    },
  }
}
