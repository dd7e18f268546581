import { lengthOf } from '../../../curve'
import type { ExactPart } from '../../../exact'
import { bad, type Diagnosis, fixed, good, type Outcome } from '../../../math'
import { areaOf, length3, pointOn, shownSkin } from '../../../surface'
import { defineOp } from '../../spec'
import { type OpContext, type OpResult, RoughEnough } from '../../state'
import { placed } from '../onto'
import { quilted } from '../quilted'
import { type LoftInputs, loftFields, loftInputs } from './inputs'
import { type LoftSection, type LoftSectionInput, loftSection } from './section'
import { shapedSkin, unfit } from './skin'

export const loftOp = defineOp<LoftInputs>({
  kind: 'loft',
  version: 2,
  label: 'Loft',
  help: 'A body whose skin runs through sections, one after the other.',
  stage: 'form',
  inputs: loftInputs,
  fields: loftFields,
  start: ({ body, profiles = [] }) => ({
    sections: profiles.map((profile) => ({ profile, areas: [], shift: 0, holes: [] })),
    mode: 'new',
    ...(body ? { body } : {}),
    rails: [],
    give: 0,
    gives: 'rails',
    skin: 'flat',
    wall: 3,
    run: 'smooth',
    ring: 'no',
    begins: 'free',
    beginPull: 1,
    ends: 'free',
    endPull: 1,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    if (input.mode === 'sheet') return loftedSheet(input, ctx)
    const body = loftedPart(input, ctx)
    if (!body.ok) return body
    const { part, warnings, words } = body.value
    const first = `${input.sections.length} sections, `
    return placed(part, input, ctx, { warnings, words, first })
  },
  slow: () => true,
  // Pulls are factors; a wall is no thicker than half of what its sections span.
  cap: (input, { sections }, ctx) => (input === 'wall' ? spanOf(sections, ctx) / 2 || null : 10),
})

/** How far the widest open section reaches, mm; 0 while there is none. */
function spanOf(sections: readonly LoftSectionInput[], ctx: OpContext): number {
  const lengths = sections.map((s) => {
    const curves =
      'profile' in s
        ? (ctx.profile(s.profile)?.shape.drawn ?? []).map((d) => lengthOf(d.curve))
        : 'path' in s
          ? (ctx.path(s.path)?.pieces ?? []).map((c) => length3(c))
          : []
    return curves.reduce((a, b) => a + b, 0)
  })
  return Math.max(0, ...lengths)
}

/** Everything that bounds what is lofted. */
function lofted(input: LoftInputs, ctx: OpContext) {
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
  const shaped = ctx.once('skin', () => shapedSkin(sections, input, ctx))
  if (!shaped.ok) return shaped
  const round = sections.some((s) => s.kind === 'loops' && s.loops[0]!.closed)
  return good({ ...shaped.value, warnings: [...warnings, ...shaped.value.warnings], round })
}

function loftedSheet(input: LoftInputs, ctx: OpContext): Outcome<OpResult> {
  const made = lofted(input, ctx)
  if (!made.ok) return made
  const { patches, warnings, words, round } = made.value
  if (ctx.rough) {
    ctx.shows({ skin: shownSkin(patches.map((p) => p.patch)) })
    throw new RoughEnough()
  }
  const area = patches.reduce((sum, p) => sum + areaOf(p.patch), 0)
  return good({
    sheets: { [ctx.op]: { patches, closed: round } },
    warnings,
    consequence: `${input.sections.length} sections, ${words}a sheet of ${fixed(area / 100, 2)} cm²`,
  })
}

function loftedPart(
  input: LoftInputs,
  ctx: OpContext,
): Outcome<{ part: ExactPart; warnings: Diagnosis[]; words: string }> {
  const shaped = lofted(input, ctx)
  if (!shaped.ok) return shaped
  const { patches, flats, words, wall, warnings } = shaped.value
  const made = quilted(patches, flats, ctx, wall)
  if (made.ok) return good({ part: made.value, warnings, words })
  if (made.diagnosis.places.length > 0) return made
  // The kernel tells no place: that of the skin.
  const at = pointOn(patches[0]!.patch, 0.5, 0.5)
  return made.diagnosis.message === 'The body is inside out.'
    ? bad('crosses-itself', 'The skin runs back through itself between its ends.', [{ at }])
    : bad(made.diagnosis.code, made.diagnosis.message, [{ at }])
}
