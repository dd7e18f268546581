import type { WireCurve } from '../../kernel'
import { bad, good, type Outcome, rounded } from '../../math'
import { soundVolume } from '../accept'
import { namesFrom } from '../names'
import { type Bench, keepMade, type Named, type Verb } from './verb'

export interface PipeArgs {
  op: string
  /** Where the path starts, square to it; outer loop first. */
  outline: WireCurve[][]
  /** Of the pieces of the outline, loop by loop. */
  names: string[]
  path: WireCurve[]
  /** Of the pieces of the path. */
  along: string[]
  corner: 'mitre' | 'round'
  /** What it has to measure at least and at most, mm3. */
  volume: [number, number]
}

/** Share by which the kernel's own fit of curved paths may miss the volume. */
const FIT = 1e-5

/** An outline carried along a path; holes are carried by themselves and taken out. */
export const pipeVerb: Verb<PipeArgs> = {
  version: 1,
  run(bench, _, args) {
    const [outer, ...holes] = args.outline
    let first = 0
    const carried = (loop: WireCurve[]): Named => {
      const swept = args.names.slice(first, first + loop.length)
      first += loop.length
      return pipeOf(bench, loop, swept, args)
    }
    let made = carried(outer!)
    if (holes.length > 0) {
      const tools = holes.map(carried)
      const cut = keepMade(
        bench,
        bench.kernel.boolean(
          'cut',
          made.shape,
          tools.map((t) => t.shape),
        ),
      )
      const given = [made.names, ...tools.map((t) => t.names)]
      made = { shape: cut.shape, names: namesFrom(cut.origins, given, args.op) }
    }
    const sound = soundVolume(bench.kernel, made.shape, 'The sweep')
    if (!sound.ok) return sound
    return within(sound.value, args.volume) ?? good([made])
  },
}

function pipeOf(
  bench: Bench,
  loop: WireCurve[],
  swept: string[],
  { op, path, along, corner }: PipeArgs,
): Named {
  const made = keepMade(bench, bench.kernel.pipe(loop, path, corner))
  // One piece of the path needs no word for which it is.
  const names = made.origins.map((from, i) =>
    from.flatMap((o) => {
      const [name] = namesFrom([[o]], [], op, { swept })[0] ?? []
      if (o.from !== 'piece' || along.length === 1) return [name ?? `${op}:face${i}`]
      return [`${name}@${o.along === undefined ? 'corner' : along[o.along]}`]
    }),
  )
  return { shape: made.shape, names }
}

function within(volume: number, [least, most]: [number, number]): Outcome<never> | null {
  if (volume >= least * (1 - FIT) && volume <= most * (1 + FIT)) return null
  const want = least === most ? rounded(least, 2) : `${rounded(least, 2)} to ${rounded(most, 2)}`
  return bad(
    'not-right',
    `The sweep measures ${rounded(volume, 2)} mm³ in the kernel, not ${want} mm³, so it is not used.`,
  )
}
