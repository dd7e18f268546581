import type { PlanarFace, SplineFace } from '../../kernel'
import { good } from '../../math'
import { rightVolume } from '../accept'
import { keepMade, type Verb } from './verb'

export interface QuiltArgs {
  patches: (SplineFace & { names: string[] })[]
  /** Flat faces that close what the patches leave open. */
  flats: { outline: PlanarFace; names: string[] }[]
  /** What it encloses by the surfaces themselves, mm3. */
  volume: number
}

/** Faces of our own surfaces, sewn to a solid that has to enclose what they enclose. */
export const quiltVerb: Verb<QuiltArgs> = {
  version: 1,
  run(bench, _, { patches, flats, volume }) {
    const made = keepMade(
      bench,
      bench.kernel.quilt(
        patches,
        flats.map((f) => f.outline),
      ),
    )
    const given = [...patches, ...flats].map((f) => f.names)
    const names = made.origins.map((from) =>
      from.flatMap((o) => (o.from === 'piece' ? given[o.piece]! : [])),
    )
    const wrong = rightVolume(bench.kernel, made, volume, 'The body')
    return wrong ?? good([{ shape: made.shape, names }])
  },
}
