import { z } from 'zod'
import { bad, good, mm, type Outcome } from '../../math'
import {
  type BandNames,
  bandAlong,
  CUT,
  combine,
  JOIN,
  liveSegs,
  loopsOf,
  MEET,
  openChains,
  type Region,
  type Seg,
  type Shape,
  valueSchema,
} from '../../profile'
import type { Field } from '../spec'
import type { OpContext } from '../state'
import { areaSum } from './prism'

/** Whether areas stand for themselves or for a wall along their outlines, and where that lies. */
export const thinInputs = {
  thin: z.enum(['no', 'inside', 'middle', 'outside']).default('no'),
  width: valueSchema.default(2),
}
type Thin = z.infer<z.ZodObject<typeof thinInputs>>

export const thinFields: Field[] = [
  {
    name: 'thin',
    label: 'Filled',
    help: 'All the area, or an even wall along its outlines; lines that end are walls about their middle.',
    type: 'choice',
    options: [
      { value: 'no', label: 'All of the area' },
      { value: 'inside', label: 'A wall inside the outline' },
      { value: 'middle', label: 'A wall about the line' },
      { value: 'outside', label: 'A wall outside the outline' },
    ],
  },
  {
    name: 'width',
    label: 'Wall',
    help: 'Its width.',
    type: 'value',
    dim: 'length',
    when: (i) => i.thin !== 'no',
  },
]

const namesOf = (op: string): BandNames => ({
  left: (n) => `${op}:wall(${n})`,
  right: (n) => `${op}:back(${n})`,
  end: (n) => `${op}:tip(${n})`,
})

/** All that lies within `half` mm of outlines and lines. */
function bandAbout(
  chains: readonly (readonly Seg[])[],
  half: number,
  op: string,
): Outcome<Region[]> {
  let band: Region[] = []
  for (const chain of chains) {
    const along = bandAlong(chain, half, namesOf(op))
    if (!along.ok) return along
    band = combine(band, along.value, JOIN)
  }
  return good(band)
}

const NO_WALL = bad('not-positive', 'The wall must be more than 0.')

/** The wall along the outlines of closed areas. */
export function thinned(
  areas: readonly Region[],
  { thin, width }: Thin,
  ctx: OpContext,
): Outcome<Region[]> {
  const wide = ctx.read(width, 'length')
  if (!(wide > 0)) return NO_WALL
  const band = bandAbout(loopsOf(areas), thin === 'middle' ? wide / 2 : wide, ctx.op)
  if (!band.ok || thin === 'middle') return band
  const wall = combine(band.value, areas, thin === 'inside' ? MEET : CUT)
  if (thin === 'inside' && areaSum(wall) > areaSum(areas) * (1 - 1e-9))
    return bad('no-hollow', `A wall of ${mm(wide)} leaves no hollow inside the outline.`)
  return good(wall)
}

/** The wall about the lines of a profile that end somewhere. */
export function thinnedLines(
  shape: Shape,
  { thin, width }: Thin,
  ctx: OpContext,
): Outcome<Region[]> {
  if (thin !== 'middle')
    return bad(
      'open-profile',
      'Lines that end have no inside: the wall goes about their middle.',
      [],
      [{ label: 'A wall about the line', op: ctx.op, inputs: { thin: 'middle' } }],
    )
  const wide = ctx.read(width, 'length')
  return wide > 0 ? bandAbout(openChains(liveSegs(shape, `${ctx.op}:`)), wide / 2, ctx.op) : NO_WALL
}
