import { good } from '../../math'
import type { Verb } from './verb'

export interface FormArgs {
  /** Whether all its seams are read. */
  seams: boolean
  /** Edges along which its faces are read. */
  ribbons: number[]
}

/** The body as it is, with more read from its surfaces than is told of every part. */
export const formVerb: Verb<FormArgs> = {
  version: 1,
  run({ kernel }, [x], { seams, ribbons }) {
    const { shape, names } = x!
    const read = kernel.ribbons(shape, ribbons)
    return good([
      {
        shape: kernel.same(shape),
        names,
        form: {
          seams: seams ? kernel.seams(shape) : [],
          ribbons: Object.fromEntries(ribbons.map((edge, i) => [edge, read[i]!])),
        },
      },
    ])
  },
}
