import { type Frame, good } from '../../math'
import { soundVolume } from '../accept'
import { namesFrom } from '../names'
import { keepMade, type Verb } from './verb'

export interface DraftArgs {
  op: string
  faces: number[]
  plane: Frame
  /** rad */
  angle: number
}

/** Faces tilted about where they meet a plane. */
export const draftVerb: Verb<DraftArgs> = {
  version: 1,
  run(bench, on, { op, faces, plane, angle }) {
    const [given] = on
    const made = keepMade(bench, bench.kernel.draft(given!.shape, faces, plane, angle))
    const sound = soundVolume(bench.kernel, made.shape, 'With its draft the body')
    if (!sound.ok) return sound
    return good([{ shape: made.shape, names: namesFrom(made.origins, [given!.names], op) }])
  },
}
