import type { Made, PlanarFace, SplineFace } from '../../kernel'
import { good, type Outcome } from '../../math'
import { rightVolume, wrongWall } from '../accept'
import { type Bench, keepMade, type Verb } from './verb'

export interface QuiltArgs {
  patches: (SplineFace & { names: string[] })[]
  /** Flat faces that close what the patches leave open. */
  flats: { outline: PlanarFace; names: string[] }[]
  /** What it encloses by the surfaces themselves, mm3. */
  volume: number
  /** A wall it has to have: from each of some faces, by number, patches first, to the nearest of others, mm. */
  wall?: { from: number[]; to: number[]; mm: number }
}

/** Faces of our own surfaces, sewn to a solid that has to enclose what they enclose. */
export const quiltVerb: Verb<QuiltArgs> = {
  version: 1,
  run(bench, _, { patches, flats, volume, wall }) {
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
    return wrong ?? offWall(bench, made, wall) ?? good([{ shape: made.shape, names }])
  },
}

/** Places sampled on each face for its wall. */
const SAMPLES = 8

function offWall(bench: Bench, made: Made, wall: QuiltArgs['wall']): Outcome<never> | null {
  if (!wall) return null
  const ofPieces = (pieces: number[]) =>
    made.origins.flatMap((from, i) =>
      from.some((o) => o.from === 'piece' && pieces.includes(o.piece)) ? [i] : [],
    )
  const [from, to] = [ofPieces(wall.from), ofPieces(wall.to)]
  const { shape } = made
  return wrongWall(bench.kernel, { shape, faces: from }, { shape, faces: to }, wall.mm, SAMPLES)
}
