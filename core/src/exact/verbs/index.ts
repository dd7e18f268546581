import { apartVerb } from './apart'
import { type CombineArgs, combineVerb } from './combine'
import { type DimplesArgs, dimplesVerb } from './dimples'
import { type DraftArgs, draftVerb } from './draft'
import { type FormArgs, formVerb } from './form'
import { type GrowArgs, growVerb } from './grow'
import { type LimitArgs, limitVerb } from './limit'
import { type MeshFileArgs, meshFileVerb } from './meshfile'
import { type MoveArgs, moveVerb } from './move'
import { type PartArgs, partVerb } from './part'
import { type PatternArgs, patternVerb } from './pattern'
import { type PipeArgs, pipeVerb } from './pipe'
import { type PrismArgs, prismVerb } from './prism'
import { type QuiltArgs, quiltVerb } from './quilt'
import { type RoundingArgs, roundingVerb } from './rounding'
import { type SectorArgs, sectorVerb } from './sector'
import { type ShellArgs, shellVerb } from './shell'
import { type StepArgs, stepVerb } from './step'
import { type TurnedArgs, turnedVerb } from './turned'
import type { Verb } from './verb'

export type { Sheet } from './part'
export type { Bench, Named, NamedMesh } from './verb'

/** What each verb is told. */
export interface VerbArgs {
  turned: TurnedArgs
  prism: PrismArgs
  pipe: PipeArgs
  quilt: QuiltArgs
  combine: CombineArgs
  apart: Record<string, never>
  part: PartArgs
  move: MoveArgs
  pattern: PatternArgs
  rounding: RoundingArgs
  shell: ShellArgs
  draft: DraftArgs
  grow: GrowArgs
  sector: SectorArgs
  dimples: DimplesArgs
  form: FormArgs
  step: StepArgs
  meshfile: MeshFileArgs
  limit: LimitArgs
}

/** Everything the exact kernel is asked to do. */
export const VERBS: { readonly [V in keyof VerbArgs]: Verb<VerbArgs[V]> } = {
  turned: turnedVerb,
  prism: prismVerb,
  pipe: pipeVerb,
  quilt: quiltVerb,
  combine: combineVerb,
  apart: apartVerb,
  part: partVerb,
  move: moveVerb,
  pattern: patternVerb,
  rounding: roundingVerb,
  shell: shellVerb,
  draft: draftVerb,
  grow: growVerb,
  sector: sectorVerb,
  dimples: dimplesVerb,
  form: formVerb,
  step: stepVerb,
  meshfile: meshFileVerb,
  limit: limitVerb,
}
