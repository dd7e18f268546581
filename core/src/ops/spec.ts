import type { z } from 'zod'
import type { Outcome } from '../math'
import type { Dimension } from '../workpiece'
import type { OpContext, OpMade } from './state'

/** How one input is shown and edited on the op's sheet. */
export type Field = {
  name: string
  label: string
  help: string
  /** Shown only while this holds of the inputs. */
  when?: (inputs: Readonly<Record<string, unknown>>) => boolean
} & (
  | {
      type: 'value'
      dim: Dimension
      /** What stands for it where it is left empty. */
      optional?: string
      ranged?: boolean
    }
  | { type: 'choice'; options: { value: string; label: string }[] }
  | { type: 'profile' | 'body' | 'piece' | 'place' | 'sheet' }
  | { type: 'axis' | 'point' | 'plane'; none?: string }
  | {
      type: 'faces' | 'edges' | 'vertices'
      /** What each may have for itself. */
      own?: { name: string; label: string }[]
      /** The input that names the body they are picked on; `body` where none is told. */
      of?: string
      /** As many as can be meant; one more takes the place of the last. */
      most?: number
    }
  | { type: 'bodies' | 'profiles' | 'paths' | 'planes' | 'ops' }
  | { type: 'text' }
  | { type: 'drawing' }
  | { type: 'areas' }
  | { type: 'path'; none?: string }
  | { type: 'stops' | 'holds' | 'stations' | 'sections' }
  | { type: 'file' }
  | { type: 'cage' }
)

/** Everything about one operation. */
export interface OpSpec<I = unknown> {
  kind: string
  /** Raise when results change for equal inputs: kept results are then dropped. */
  version: number
  label: string
  help: string
  stage: 'draw' | 'form' | 'refine'
  inputs: z.ZodType<I>
  fields: Field[]
  /** Inputs for a new op of this kind. */
  start(ctx: {
    profile?: string
    path?: string
    /** Drawings that nothing uses yet, in the order of the route. */
    profiles?: string[]
    body?: string
    /** Height of the middle of the body along its axis, mm. */
    middle?: number
  }): I
  evaluate(inputs: I, ctx: OpContext): Outcome<OpMade>
  /** For a ranged input, the largest value worth searching, as its plain numbers are read (mm, or deg for angles); null when it has no meaning yet. */
  cap?(input: string, inputs: I, ctx: OpContext): number | null
  /** Whether each trial takes the exact kernel: the search then makes few. */
  slow?(inputs: I, ctx: OpContext): boolean
  /** Values of a ranged input at which the geometry changes its make-up: between two of them it holds or fails as a whole. */
  marks?(input: string, inputs: I, ctx: OpContext): number[]
}

export const defineOp = <I>(spec: OpSpec<I>): OpSpec<I> => spec
