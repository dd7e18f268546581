import { good, type P3 } from '../../math'
import { rightVolume } from '../accept'
import { namesFrom } from '../names'
import type { Outline } from '../outline'
import { together } from './together'
import { keepMade, type Verb } from './verb'

export interface PrismArgs {
  op: string
  regions: Outline[]
  /** mm */
  way: P3
  /** What it has to measure, mm3. */
  volume: number
}

/** Flat regions along a straight way. */
export const prismVerb: Verb<PrismArgs> = {
  version: 1,
  run(bench, _, { op, regions, way, volume }) {
    const parts = regions.map(({ outline, names }) => {
      const made = keepMade(bench, bench.kernel.prism(outline, way))
      return { shape: made.shape, names: namesFrom(made.origins, [], op, { swept: names }) }
    })
    const whole = together(bench, parts)
    const wrong = rightVolume(bench.kernel, whole, volume, 'The extrusion')
    return wrong ?? good([whole])
  },
}
