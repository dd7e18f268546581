import { cross3, dot3, good, type Motion } from '../../math'
import { movedMesh } from '../../mesh'
import { rightVolume } from '../accept'
import { namesFrom, putAbout } from '../names'
import { keepMade, type Verb } from './verb'

export interface MoveArgs {
  motion: Motion
  /** Put about each face's name, `o4:mirror(turn:side)`; null where the faces keep their names. */
  word: string | null
}

/** The body elsewhere, turned, mirrored or scaled. */
export const moveVerb: Verb<MoveArgs> = {
  version: 1,
  run(bench, on, { motion, word }) {
    const [given] = on
    const made = keepMade(bench, bench.kernel.moved(given!.shape, motion))
    const names = namesFrom(made.origins, [given!.names], '')
    const [a, b, c] = motion.m
    const factor = Math.abs(dot3(a, cross3(b, c)))
    const wrong = rightVolume(
      bench.kernel,
      made,
      bench.kernel.measure(given!.shape).volume * factor,
      'The moved body',
    )
    if (wrong) return wrong
    return good([{ shape: made.shape, names: word ? putAbout(word, names) : names }])
  },
  onMeshes: (_, [given], { motion, word }) =>
    good([
      {
        mesh: movedMesh(given!.mesh, motion),
        names: word ? putAbout(word, given!.names) : given!.names,
      },
    ]),
}
