import { z } from 'zod'
import { bad, good, type Outcome } from '../../../math'
import { valueSchema } from '../../../profile'
import { edgeRefSchema, faceRefSchema } from '../../../refs'
import type { Corner, TurnedBody } from '../../../turned'
import type { Field } from '../../spec'
import type { OpContext } from '../../state'

/** Which edges are treated. */
export const edgesInputs = {
  body: z.string(),
  /** Each may have a size of its own, and another at its other end. */
  edges: z
    .array(edgeRefSchema.extend({ size: valueSchema.optional(), until: valueSchema.optional() }))
    .max(500),
  /** Faces all of whose edges are meant. */
  round: z.array(faceRefSchema).max(100).default([]),
  alike: z.enum(['no', 'yes']).default('no'),
}
const schema = z.object(edgesInputs)
export type Which = z.infer<typeof schema>
export type OwnEdge = Which['edges'][number]

/** The fields of `edgesInputs`; `own` names what an edge may have for itself. */
export const edgesFields = (own: { name: 'size' | 'until'; label: string }[]): Field[] => [
  { name: 'body', label: 'Body', help: 'The body to work on.', type: 'body' },
  {
    name: 'edges',
    label: 'Edges',
    help: 'Picked on the model or the section; each may have a size of its own.',
    type: 'edges',
    own,
  },
  {
    name: 'round',
    label: 'Round faces',
    help: 'Faces all of whose edges are meant, however many they come to have.',
    type: 'faces',
  },
  {
    name: 'alike',
    label: 'Likewise',
    help: 'Edges at the same place of every copy in a pattern, slot or lobe, however many there come to be.',
    type: 'choice',
    options: [
      { value: 'no', label: 'Only these' },
      { value: 'yes', label: 'The same edge of every copy' },
    ],
    when: (i) => (i.edges as unknown[] | undefined)?.length !== 0,
  },
]

/** How much is taken off an edge, mm: along both faces, or along the second, or up to its other end. */
export interface Amount {
  size: number
  end?: number
}

/** What is done to an edge: to a corner of a section as it stands then, or by the exact kernel. */
export interface Treatment {
  word: 'round' | 'bevel'
  corner(b: TurnedBody, corner: Corner, name: string, amount: Amount): Outcome<TurnedBody>
  /** For edges without a size of their own. */
  amount: Amount
  /** Of an edge with a size of its own. */
  own(size: number, until: number | undefined): Amount
}

/** What an edge has for itself, read; null where it has nothing. */
export function ownAmount(ref: OwnEdge, t: Treatment, ctx: OpContext): Outcome<Amount | null> {
  if (ref.size === undefined && ref.until === undefined) return good(null)
  const size = ref.size === undefined ? t.amount.size : ctx.read(ref.size, 'length')
  const until = ref.until === undefined ? undefined : ctx.read(ref.until, 'length')
  if (!(size > 0) || (until !== undefined && !(until > 0)))
    return bad('not-positive', `An edge’s own ${t.word} must be more than 0.`)
  return good(t.own(size, until))
}
