import type { EdgeWork } from '../../kernel'
import { bad, good } from '../../math'
import { soundVolume } from '../accept'
import { namesFrom } from '../names'
import { keepMade, type Verb } from './verb'

export interface RoundingArgs {
  op: string
  kind: 'fillet' | 'chamfer'
  work: EdgeWork[]
  /** The ops that rounds are of which are not of `op`, by the names of the faces beside the edge (`a|b`). */
  ops?: Readonly<Record<string, string>>
}

/** Edges rounded or bevelled. */
export const roundingVerb: Verb<RoundingArgs> = {
  version: 2,
  run(bench, on, { op, kind, work, ops = {} }) {
    const { kernel } = bench
    const [given] = on
    const word = kind === 'fillet' ? 'round' : 'bevel'
    const made = keepMade(bench, kernel[kind](given!.shape, work))
    const mine = `${op}:${word}(`
    const own = (name: string): string => {
      const other = name.startsWith(mine) ? ops[name.slice(mine.length, -1)] : undefined
      return other ? `${other}${name.slice(op.length)}` : name
    }
    const names = namesFrom(made.origins, [given!.names], op, { edge: word, face: word }).map(
      (of) => of.map(own),
    )
    const after = soundVolume(kernel, made.shape, `With this ${word} the body`)
    if (!after.ok) return after
    if (kernel.measure(made.shape).solids !== kernel.measure(given!.shape).solids)
      return bad('not-right', `The kernel’s ${word} takes the body apart, so it is not used.`)
    // Inner and outer edges may take and add as much: faces tell whether there is a round, not the volume.
    if (!names.some((of) => of.some((n) => n.startsWith(mine))))
      return bad('no-change', `The kernel’s ${word} changes nothing.`)
    return good([{ shape: made.shape, names }])
  },
}
