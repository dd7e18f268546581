import { axisOp } from './axis'
import { chamferOp } from './chamfer'
import { filletOp } from './fillet'
import { importOp } from './import'
import { planeOp } from './plane'
import { pointOp } from './point'
import { profileOp } from './profile'
import { revolveOp } from './revolve'
import { shellOp } from './shell'
import type { OpSpec } from './spec'
import { splitOp } from './split'

/** Every operation there is, by kind. */
export const OPS: Readonly<Record<string, OpSpec>> = {
  plane: planeOp as OpSpec,
  profile: profileOp as OpSpec,
  revolve: revolveOp as OpSpec,
  fillet: filletOp as OpSpec,
  chamfer: chamferOp as OpSpec,
  shell: shellOp as OpSpec,
  split: splitOp as OpSpec,
  import: importOp as OpSpec,
  axis: axisOp as OpSpec,
  point: pointOp as OpSpec,
}
/** Inputs with what is left out at its default; as they are where they do not fit the op. */
export function withDefaults(
  spec: OpSpec,
  inputs: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const checked = spec.inputs.safeParse(inputs)
  return checked.success ? { ...(checked.data as object), ...inputs } : { ...inputs }
}
export const opSpec = (kind: string): OpSpec | undefined =>
  Object.hasOwn(OPS, kind) ? OPS[kind] : undefined
