import type { EdgeWork } from '../../kernel'
import { bad, good } from '../../math'
import { soundVolume } from '../accept'
import { namesFrom } from '../names'
import { keepMade, type Verb } from './verb'

export interface RoundingArgs {
  op: string
  kind: 'fillet' | 'chamfer'
  work: EdgeWork[]
}

/** Edges rounded or bevelled. */
export const roundingVerb: Verb<RoundingArgs> = {
  version: 1,
  run(bench, on, { op, kind, work }) {
    const { kernel } = bench
    const [given] = on
    const word = kind === 'fillet' ? 'round' : 'bevel'
    const made = keepMade(bench, kernel[kind](given!.shape, work))
    const names = namesFrom(made.origins, [given!.names], op, { edge: word, face: word })
    const before = kernel.measure(given!.shape)
    const after = soundVolume(kernel, made.shape, `With this ${word} the body`)
    if (!after.ok) return after
    if (kernel.measure(made.shape).solids !== before.solids)
      return bad('not-right', `The kernel’s ${word} takes the body apart, so it is not used.`)
    if (Math.abs(after.value - before.volume) < 1e-12 * before.volume)
      return bad('no-change', `The kernel’s ${word} changes nothing.`)
    return good([{ shape: made.shape, names }])
  },
}
