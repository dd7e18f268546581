import { type Cage, meshed } from '../../cage'
import { bad, good } from '../../math'
import { edgeWords, measureMesh } from '../../mesh'
import type { Verb } from './verb'

/** A cage as plain data: its points (mm) three numbers each, faces by name, creases and corners by their points and sharpness. */
export interface LimitArgs {
  op: string
  at: number[]
  faces: { name: string; corners: number[] }[]
  creases: [string, number][]
  peaks: [number, number][]
  /** How often it is refined. */
  level: number
}

/** The limit of a cage as a body of triangles. */
export const limitVerb: Verb<LimitArgs> = {
  version: 2,
  run(_bench, _on, { op, at, faces, creases, peaks, level }) {
    const cage: Cage = {
      layout: {
        points: Array.from({ length: at.length / 3 }, (_, p) => String(p)),
        faces,
        creases: new Map(creases),
        peaks: new Map(peaks),
        rows: [],
      },
      at: Float64Array.from(at),
    }
    const made = meshed(cage, level)
    if (!made.ok) return made
    const { mesh, names } = made.value
    const { closed, volume, edges } = measureMesh(mesh)
    if (!closed)
      return bad(
        'not-closed',
        `The triangles of the form do not close: ${edgeWords(edges)}.`,
        edges.places.map((p) => ({ at: p })),
      )
    if (!(volume > 0)) return bad('inside-out', 'The form is inside out: its faces look into it.')
    return good([{ mesh, names: names.map((n) => [`${op}:${n}`]) }])
  },
}
