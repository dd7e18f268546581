import { axisOp } from './draw/axis'
import { pathOp } from './draw/path/path'
import { planeOp } from './draw/plane'
import { pointOp } from './draw/point'
import { profileOp } from './draw/profile'
import { textOp } from './draw/text'
import { cageOp } from './form/cage/cage'
import { coverOp } from './form/cover'
import { extrudeOp } from './form/extrude'
import { importOp } from './form/import'
import { loftOp } from './form/loft/loft'
import { revolveOp } from './form/revolve'
import { sweepOp } from './form/sweep/sweep'
import { thickenOp } from './form/thicken'
import { cavityOp } from './refine/cavity/cavity'
import { combineOp } from './refine/combine'
import { dimplesOp } from './refine/dimples'
import { chamferOp } from './refine/edges/chamfer'
import { filletOp } from './refine/edges/fillet'
import { draftOp } from './refine/faces/draft'
import { offsetOp } from './refine/faces/offset'
import { patternOp } from './refine/pattern/pattern'
import { alignOp } from './refine/place/align'
import { mirrorOp } from './refine/place/mirror'
import { moveOp } from './refine/place/move'
import { shellOp } from './refine/shell/shell'
import { splitOp } from './refine/split/split'
import { stepOp } from './refine/step/step'
import type { OpSpec } from './spec'

/** Every operation there is, by kind. */
export const OPS: Readonly<Record<string, OpSpec>> = {
  plane: planeOp as OpSpec,
  profile: profileOp as OpSpec,
  text: textOp as OpSpec,
  path: pathOp as OpSpec,
  revolve: revolveOp as OpSpec,
  extrude: extrudeOp as OpSpec,
  sweep: sweepOp as OpSpec,
  loft: loftOp as OpSpec,
  cage: cageOp as OpSpec,
  cover: coverOp as OpSpec,
  thicken: thickenOp as OpSpec,
  combine: combineOp as OpSpec,
  fillet: filletOp as OpSpec,
  chamfer: chamferOp as OpSpec,
  shell: shellOp as OpSpec,
  cavity: cavityOp as OpSpec,
  split: splitOp as OpSpec,
  step: stepOp as OpSpec,
  draft: draftOp as OpSpec,
  offset: offsetOp as OpSpec,
  dimples: dimplesOp as OpSpec,
  pattern: patternOp as OpSpec,
  mirror: mirrorOp as OpSpec,
  move: moveOp as OpSpec,
  align: alignOp as OpSpec,
  import: importOp as OpSpec,
  axis: axisOp as OpSpec,
  point: pointOp as OpSpec,
}
/** Inputs with what is left out at its default, and what does not fit the op (the op then fails and says so) as a new one has it. */
export function withDefaults(
  spec: OpSpec,
  inputs: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const checked = spec.inputs.safeParse(inputs)
  if (checked.success) return { ...(checked.data as object), ...inputs }
  const unfit = new Set(checked.error.issues.map((i) => String(i.path[0])))
  const fits = Object.entries(inputs).filter(([k]) => !unfit.has(k))
  return { ...(spec.start({}) as object), ...Object.fromEntries(fits) }
}
export const opSpec = (kind: string): OpSpec | undefined =>
  Object.hasOwn(OPS, kind) ? OPS[kind] : undefined
