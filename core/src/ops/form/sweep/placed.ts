import { z } from 'zod'
import { arc, line, placeCurve } from '../../../curve'
import {
  bad,
  type Diagnosis,
  dot3,
  good,
  mm,
  norm3,
  type Outcome,
  type P2,
  scale3,
  sub3,
} from '../../../math'
import type { Placed } from '../../../path'
import { type CellRef, type Region, type Seg, valueSchema } from '../../../profile'
import { way3 } from '../../../surface'
import type { Field } from '../../spec'
import type { OpContext, Path } from '../../state'
import { closedAreas } from '../areas'
import { cellRefSchema, chosenAreas } from '../chosen'
import { withProfileFixes } from '../faults'
import { turned } from './way'

/** What is carried: a drawn section, or one told by its size. */
export const sweepSectionInputs = {
  section: z.enum(['round', 'rectangle', 'profile']).default('round'),
  across: valueSchema.default(4),
  bore: valueSchema.default(0),
  wide: valueSchema.default(9),
  high: valueSchema.default(5),
  profile: z.string().optional(),
  place: z.enum(['start', 'there']).default('start'),
  areas: z.array(cellRefSchema).max(200).default([]),
  /** About the path, all along. */
  turn: valueSchema.default(0),
}
type SectionInputs = z.infer<z.ZodObject<typeof sweepSectionInputs>>

const is = (what: string) => (i: Readonly<Record<string, unknown>>) => i.section === what

export const sweepSectionFields: Field[] = [
  {
    name: 'section',
    label: 'Section',
    help: 'A round or a rectangle by its size, or a drawing.',
    type: 'choice',
    options: [
      { value: 'round', label: 'Round' },
      { value: 'rectangle', label: 'Rectangle' },
      { value: 'profile', label: 'Drawn' },
    ],
  },
  {
    name: 'across',
    label: 'Diameter',
    help: 'The path may bend as tightly as half of it.',
    type: 'value',
    dim: 'length',
    ranged: true,
    when: is('round'),
  },
  {
    name: 'bore',
    label: 'Bore',
    help: 'Diameter of the hole all along; 0 for none.',
    type: 'value',
    dim: 'length',
    when: is('round'),
  },
  {
    name: 'wide',
    label: 'Width',
    help: 'To the sides, for who looks along the path.',
    type: 'value',
    dim: 'length',
    ranged: true,
    when: is('rectangle'),
  },
  {
    name: 'high',
    label: 'Height',
    help: 'Up and down.',
    type: 'value',
    dim: 'length',
    ranged: true,
    when: is('rectangle'),
  },
  {
    name: 'profile',
    label: 'Drawing',
    help: 'What is drawn as the section.',
    type: 'profile',
    when: is('profile'),
  },
  {
    name: 'areas',
    label: 'Areas',
    help: 'Clicked on the Table; where none is chosen, all that outlines enclose.',
    type: 'areas',
    when: is('profile'),
  },
  {
    name: 'place',
    label: 'Placed',
    help: 'With the drawing’s 0, 0 on the start of the path, or where the drawing stands.',
    type: 'choice',
    options: [
      { value: 'start', label: 'square on the start of the path' },
      { value: 'there', label: 'where it is drawn' },
    ],
    when: is('profile'),
  },
]

/** How far a section that is carried from where it stands may lean against the path, as the sine. */
const SQUARE = 1e-3

interface Section {
  region: Region
  /** Where and how it stands at the start of the path. */
  start: Placed
  warnings: Diagnosis[]
}

/** `first` is how it stands at the start of the path unturned. */
export function sectionOfSweep(
  i: SectionInputs,
  path: Path,
  first: Placed,
  ctx: OpContext,
): Outcome<Section> {
  const turn = ctx.read(i.turn, 'angle')
  const start = turned(first, turn)
  if (i.section === 'round') {
    const [d, bore] = [ctx.read(i.across, 'length'), ctx.read(i.bore, 'length')]
    if (!(d > 0)) return bad('not-positive', 'The diameter must be more than 0.')
    if (!(bore >= 0 && bore < d))
      return bad('not-positive', 'The bore must be less than the diameter, and not less than 0.')
    const circle = (radius: number, name: string, sweep: number): Seg[] => [
      { curve: arc([0, 0], radius, 0, sweep), name: `${ctx.op}:${name}` },
    ]
    const region = {
      outer: circle(d / 2, 'outside', 2 * Math.PI),
      holes: bore > 0 ? [circle(bore / 2, 'bore', -2 * Math.PI)] : [],
    }
    return good({ region, start, warnings: [] })
  }
  if (i.section === 'rectangle') {
    const [w, h] = [ctx.read(i.wide, 'length') / 2, ctx.read(i.high, 'length') / 2]
    if (!(w > 0 && h > 0)) return bad('not-positive', 'Width and height must be more than 0.')
    const corners: P2[] = [
      [-w, -h],
      [w, -h],
      [w, h],
      [-w, h],
    ]
    const names = ['bottom', 'right', 'top', 'left']
    const outer = corners.map(
      (a, k): Seg => ({
        curve: line(a, corners[(k + 1) % 4]!),
        name: `${ctx.op}:${names[k]}`,
      }),
    )
    return good({ region: { outer, holes: [] }, start, warnings: [] })
  }
  return drawnSection(i, path, start, turn, ctx)
}

/** The one area of a drawing that is carried. */
export function drawnRegion(
  id: string,
  chosen: readonly CellRef[],
  ctx: OpContext,
): Outcome<{ region: Region; warnings: Diagnosis[] }> {
  const profile = ctx.profile(id)
  if (!profile) return bad('no-profile', 'Choose the drawing of the section.')
  const warnings: Diagnosis[] = []
  let regions: Region[]
  if (chosen.length > 0) {
    const found = chosenAreas(profile.shape, chosen, `${ctx.op}:`, ctx.op)
    if (!found.ok) return found
    regions = found.value.areas
    warnings.push(...found.value.warnings)
  } else {
    const areas = closedAreas(profile.shape, `${ctx.op}:`)
    if (!areas.ok) return withProfileFixes(areas.diagnosis, profile, id)
    regions = areas.value
  }
  const [region, second] = regions
  if (!region) return bad('open-profile', 'The section encloses nothing: it is open.')
  if (second)
    return bad(
      'several',
      `The section has ${regions.length} areas apart from each other; choose one of them.`,
    )
  return good({ region, warnings })
}

function drawnSection(
  i: SectionInputs,
  path: Path,
  start: Placed,
  turn: number,
  ctx: OpContext,
): Outcome<Section> {
  const drawn = drawnRegion(i.profile ?? '', i.areas, ctx)
  if (!drawn.ok) return drawn
  const { region, warnings } = drawn.value
  const profile = ctx.profile(i.profile!)!
  if (i.place === 'start') return good({ region, start, warnings })
  const { frame } = profile
  const t = way3(path.pieces[0]!, 0)
  const off = dot3(sub3(start.at, frame.origin), frame.z)
  if (Math.abs(off) > 1e-3)
    return bad(
      'off-start',
      `The path starts ${mm(Math.abs(off), 2)} off the plane of the section.`,
      [{ at: start.at }],
    )
  const sine = norm3(sub3(t, scale3(frame.z, dot3(t, frame.z))))
  if (sine > SQUARE)
    return bad(
      'not-square',
      `The section leans ${((Math.asin(Math.min(1, sine)) * 180) / Math.PI).toFixed(1)}° against the path where it starts; it has to stand square to it.`,
      [{ at: start.at }],
    )
  // As it is drawn, counted from where the path starts.
  const d = sub3(start.at, frame.origin)
  const origin: P2 = [dot3(d, frame.x), dot3(d, frame.y)]
  const moved = (loop: readonly Seg[]) =>
    loop.map((s) => ({
      ...s,
      curve: placeCurve(s.curve, { origin: [-origin[0], -origin[1]], x: [1, 0], y: [0, 1] }),
    }))
  const there = { at: start.at, x: frame.x, y: frame.y }
  return good({
    region: { outer: moved(region.outer), holes: region.holes.map(moved) },
    start: turned(there, turn),
    warnings,
  })
}
