import { good } from '../../math'
import type { Verb } from './verb'

export interface StepArgs {
  op: string
  file: string
}

/** The solids of a STEP file, together. Their faces are named by number. */
export const stepVerb: Verb<StepArgs> = {
  version: 1,
  run(bench, _, { op, file }) {
    const bytes = bench.file(file)
    if (!bytes.ok) return bytes
    const shape = bench.keep(bench.kernel.fromStep(bytes.value))
    const faces = bench.kernel.anatomy(shape, 0.5, 0.5).faces.length
    return good([{ shape, names: Array.from({ length: faces }, (_, i) => [`${op}:f${i + 1}`]) }])
  },
}
