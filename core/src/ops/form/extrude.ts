import { z } from 'zod'
import type { How } from '../../kernel'
import { bad, type Diagnosis, type Frame, good, type Outcome } from '../../math'
import { liveSegs, openChains, type Region, touchesItself } from '../../profile'
import { faceRefSchema } from '../../refs'
import { exactBody, unsound } from '../exact'
import { defineOp } from '../spec'
import { type OpContext, type OpResult, type Profile, volumeWords } from '../state'
import { closedAreas } from './areas'
import { carriedOut, carryingInputs } from './carry'
import { cellRefSchema, chosenAreas } from './chosen'
import { facesArea } from './faces'
import { withProfileFixes } from './faults'
import { onto, ontoFields, ontoInputs } from './onto'
import { thinFields, thinInputs, thinned, thinnedLines } from './thin'

const inputs = z.object({
  what: z.enum(['profile', 'faces']).default('profile'),
  profile: z.string().default(''),
  areas: z.array(cellRefSchema).max(200).default([]),
  on: z.string().optional(),
  faces: z.array(faceRefSchema).max(50).default([]),
  ...ontoInputs,
  ...thinInputs,
  ...carryingInputs,
})
type Inputs = z.infer<typeof inputs>
const picked = (i: Readonly<Record<string, unknown>>) => i.what === 'faces'
const drawn = (i: Readonly<Record<string, unknown>>) => !picked(i)

export const extrudeOp = defineOp<Inputs>({
  kind: 'extrude',
  version: 2,
  label: 'Extrude',
  help: 'Carries the closed areas of a profile, or flat faces of a body, straight out of their plane.',
  stage: 'form',
  inputs,
  fields: [
    {
      name: 'what',
      label: 'What',
      help: 'What is carried out.',
      type: 'choice',
      options: [
        { value: 'profile', label: 'Areas of a drawing' },
        { value: 'faces', label: 'Flat faces of a body' },
      ],
    },
    {
      name: 'profile',
      label: 'Profile',
      help: 'The drawing.',
      type: 'profile',
      when: drawn,
    },
    {
      name: 'areas',
      label: 'Areas',
      help: 'Clicked on the Table, each by itself; where none is chosen, all that outlines enclose, one inside another being a hole.',
      type: 'areas',
      when: drawn,
    },
    {
      name: 'on',
      label: 'Of',
      help: 'The body whose faces are carried out; it stays as it is.',
      type: 'body',
      when: picked,
    },
    {
      name: 'faces',
      label: 'Faces',
      help: 'Flat ones that lie in one plane; outwards is out of the material.',
      type: 'faces',
      of: 'on',
      when: picked,
    },
    ...thinFields,
    ...ontoFields,
    {
      name: 'to',
      label: 'How far',
      help: 'A length, right through the body it acts on, or up to something that is there.',
      type: 'choice',
      options: [
        { value: 'length', label: 'A length' },
        { value: 'through', label: 'Right through the body' },
        { value: 'plane', label: 'Up to a plane' },
        { value: 'body', label: 'Up to a body' },
        { value: 'point', label: 'Up to the level of a point' },
      ],
    },
    {
      name: 'side',
      label: 'Which way',
      help: 'Along the plane’s normal, against it, or both.',
      type: 'choice',
      options: [
        { value: 'along', label: 'Out of the plane' },
        { value: 'against', label: 'Behind the plane' },
        { value: 'alike', label: 'Half to each side' },
        { value: 'two', label: 'Each side by itself' },
      ],
      when: (i) => i.to === 'length' || i.to === 'through' || i.to === 'body',
    },
    {
      name: 'length',
      label: 'Length',
      help: 'In all, where half goes to each side.',
      type: 'value',
      dim: 'length',
      when: (i) => i.to === 'length',
    },
    {
      name: 'second',
      label: 'Behind',
      help: 'The length on the other side.',
      type: 'value',
      dim: 'length',
      when: (i) => i.to === 'length' && i.side === 'two',
    },
    {
      name: 'plane',
      label: 'Up to',
      help: 'A plane the profile does not lie on; it may be oblique.',
      type: 'plane',
      when: (i) => i.to === 'plane',
    },
    {
      name: 'until',
      label: 'Up to',
      help: 'A body that stands in the way of all of the profile.',
      type: 'body',
      when: (i) => i.to === 'body',
    },
    {
      name: 'point',
      label: 'Up to',
      help: 'A datum point, or a place.',
      type: 'place',
      when: (i) => i.to === 'point',
    },
    {
      name: 'offset',
      label: 'Starting at',
      help: 'This far out of the profile’s plane.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'draft',
      label: 'Draft',
      help: 'How much the sides lean in, away from the profile’s plane.',
      type: 'value',
      dim: 'angle',
      ranged: true,
      when: (i) => i.to === 'length' || i.to === 'through',
    },
  ],
  start: ({ profile, body }) => ({
    what: 'profile',
    profile: profile ?? '',
    areas: [],
    faces: [],
    thin: 'no',
    width: 2,
    mode: body ? 'join' : 'new',
    ...(body ? { body } : {}),
    to: 'length',
    side: 'along',
    length: 10,
    second: 10,
    offset: 0,
    draft: 0,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const areas = picked(input) ? ofFaces(input, ctx) : ofProfile(input, ctx)
    if (!areas.ok) return areas
    const target = input.mode === 'new' ? null : exactBody(input.body ?? '', ctx)
    if (target && !target.ok) return target
    const tool = carriedOut(
      input,
      areas.value.frame,
      areas.value.areas,
      target?.value.part ?? null,
      ctx,
    )
    if (!tool.ok) return tool
    if (!target) {
      const n = areas.value.areas.length
      return good({
        bodies: { [ctx.op]: { id: ctx.op, name: '', shape: tool.value } },
        warnings: [
          ...areas.value.warnings,
          ...unsound('The body', tool.value, n > 1 ? 1 : tool.value.measure.solids),
        ],
        consequence: volumeWords(0, tool.value.measure.volume),
      })
    }
    const made = onto(target.value.body, tool.value, input.mode as How, ctx)
    if (made.ok) made.value.warnings.unshift(...areas.value.warnings)
    return made
  },
  cap: (input) => (input === 'draft' ? 60 : null),
})

/** What is carried out, and the plane it lies in. */
type Carried = Outcome<{ frame: Frame; areas: Region[]; warnings: Diagnosis[] }>

function ofFaces(input: Inputs, ctx: OpContext): Carried {
  const found = facesArea(input.on ?? '', input.faces, ctx)
  if (!found.ok || input.thin === 'no') return found
  const wall = thinned(found.value.areas, input, ctx)
  return wall.ok ? good({ ...found.value, areas: wall.value }) : wall
}

function ofProfile(input: Inputs, ctx: OpContext): Carried {
  const profile = ctx.profile(input.profile)
  if (!profile)
    return bad('no-profile', 'Choose a profile to extrude; it must come earlier in the route.')
  const areas = areasOf(profile, input, ctx)
  if (!areas.ok) return withProfileFixes(areas.diagnosis, profile, input.profile)
  const touching = areas.value.areas.flatMap((r) => touchesItself([r]))
  return touching.length === 0
    ? good({ frame: profile.frame, ...areas.value })
    : withProfileFixes(
        bad(
          'touches-itself',
          'The area touches itself here: what is carried out would have no thickness there. Move the outlines apart, or let them cross.',
          touching.map((at) => ({ at })),
        ).diagnosis,
        profile,
        input.profile,
      )
}

/** What of a profile is carried out, pieces named by what they sweep. */
function areasOf(
  p: Profile,
  input: Inputs,
  ctx: OpContext,
): Outcome<{ areas: Region[]; warnings: Diagnosis[] }> {
  const filled = filledAreas(p, input, ctx.op)
  if (input.thin === 'no') return filled
  const lines =
    !filled.ok && input.areas.length === 0 && openChains(liveSegs(p.shape, '')).length > 0
  if (!filled.ok && !lines) return filled
  const wall = filled.ok
    ? thinned(filled.value.areas, input, ctx)
    : thinnedLines(p.shape, input, ctx)
  return wall.ok
    ? good({ areas: wall.value, warnings: filled.ok ? filled.value.warnings : [] })
    : wall
}

/** The closed areas of a profile. */
function filledAreas(
  p: Profile,
  { areas: chosen }: Inputs,
  op: string,
): Outcome<{ areas: Region[]; warnings: Diagnosis[] }> {
  if (p.shape.drawn.every((d) => d.construction))
    return bad('empty-profile', 'The profile has nothing drawn in it yet.')
  if (chosen.length > 0) return chosenAreas(p.shape, chosen, `${op}:`, op)
  const areas = closedAreas(p.shape, `${op}:`)
  if (!areas.ok) return areas
  if (areas.value.length > 0) return good({ areas: areas.value, warnings: [] })
  return bad('open-profile', 'The profile encloses nothing: it is open.')
}
