import { good, type P3 } from '../../math'
import { rightVolume } from '../accept'
import { namesFrom } from '../names'
import type { Outline } from '../outline'
import { together } from './together'
import { keepMade, type Verb } from './verb'

export interface TurnedArgs {
  sections: Outline[]
  origin: P3
  axis: P3
  /** rad */
  angle: number
  /** Names of the flat ends of a part of a turn. */
  ends: [string, string]
  /** What it has to measure, mm3. */
  volume: number
}

/** A turned body as a solid. */
export const turnedVerb: Verb<TurnedArgs> = {
  version: 1,
  run(bench, _, { sections, origin, axis, angle, ends, volume }) {
    const parts = sections.map(({ outline, names }) => {
      const made = keepMade(bench, bench.kernel.turn(outline, origin, axis, angle))
      return { shape: made.shape, names: namesFrom(made.origins, [], '', { swept: names, ends }) }
    })
    const whole = together(bench, parts)
    const wrong = rightVolume(bench.kernel, whole, volume, 'The turned body')
    return wrong ?? good([whole])
  },
}
