import { labelPanel, type SurfaceGrid } from '../../flow'
import type { BallSpot } from '../../kernel'
import { good, type P3, placeAt } from '../../math'
import type { FacePanel, Verb } from './verb'

export interface FormArgs {
  /** Whether all its seams are read. */
  seams: boolean
  /** Edges along which its faces are read. */
  ribbons: number[]
  /** Whether its free surfaces are read. */
  surfaces?: true
  /** Places to be pulled onto faces: to the nearest, or straight along a direction; with the direction out of them where asked. */
  feet?: { faces: number[]; from: P3[]; along?: P3; out?: true }
  /** Faces whose meeting with some of the other body (the same where only one is given) is read. */
  meets?: { faces: number[]; others: number[] }
  /** Triangles within so many mm of it: finer ones than show it. */
  skin?: number
  /** Whether it is read how its surfaces bend all over. */
  bent?: true
  /** Places near which the largest balls in it, or out of it, are read. */
  balls?: BallSpot[]
  /** Lines of its curved faces: of each way so many, by so many steps. */
  lines?: { count: number; steps: number }
  /** Faces on which a flat label is sought that may be stretched by a share. */
  panels?: { faces: number[]; stretch: number }
}
/** Lines of each way by which labels are sought. */
const PANEL = 33

/** The most that neighbouring triangles of a fine skin turn, rad. */
const FINE = 0.1

/** The body as it is, with more read from its surfaces than is told of every part. */
export const formVerb: Verb<FormArgs> = {
  version: 13,
  run({ kernel }, [x, other = x], args) {
    const { shape, names } = x!
    const { seams, ribbons, surfaces, feet, meets, lines, skin, bent, balls, panels } = args
    const read = kernel.ribbons(shape, ribbons)
    return good([
      {
        shape: kernel.same(shape),
        names,
        form: {
          seams: seams ? kernel.seams(shape) : [],
          feet: feet ? kernel.feet(shape, feet.faces, feet.from, feet.along, feet.out) : [],
          meets: meets ? kernel.meets(shape, meets.faces, other!.shape, meets.others) : [],
          lines: lines ? kernel.lines(shape, lines.count, lines.steps) : [],
          bent: bent ? kernel.bent(shape) : null,
          balls: balls ? kernel.balls(shape, balls) : [],
          panels: (panels?.faces ?? []).map((face) =>
            panelOf(face, kernel.grid(shape, face, PANEL), panels!.stretch),
          ),
          skin: skin ? kernel.tessellate(shape, skin, FINE) : null,
          surfaces: surfaces ? kernel.surfaces(shape) : [],
          ribbons: Object.fromEntries(ribbons.map((edge, i) => [edge, read[i]!])),
        },
      },
    ])
  },
}

/** The label on a face, and the place in its middle: of all of the face where there is none. */
function panelOf(face: number, grid: SurfaceGrid, stretch: number): FacePanel {
  const panel = labelPanel(grid, stretch)
  const { u, v } = panel?.region ?? { u: [0, grid.columns - 1], v: [0, grid.rows - 1] }
  const [i, j] = [(u[0] + u[1]) >> 1, (v[0] + v[1]) >> 1]
  return { face, at: placeAt(grid.places, j * grid.columns + i), panel }
}
