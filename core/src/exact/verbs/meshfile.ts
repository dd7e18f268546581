import { bad, good } from '../../math'
import {
  edgeWords,
  facesBySharpEdges,
  joined,
  type MeshFormat,
  measureMesh,
  readMeshes,
} from '../../mesh'
import type { Verb } from './verb'

export interface MeshFileArgs {
  op: string
  file: string
  format: MeshFormat
}

/** Triangles that turn by more than this against their neighbours start a new face, rad. */
const SHARP = 0.6

/** The closed meshes of a file, together; faces are parted at sharp edges and named by number. */
export const meshFileVerb: Verb<MeshFileArgs> = {
  version: 1,
  run(bench, _, { op, file, format }) {
    const bytes = bench.file(file)
    if (!bytes.ok) return bytes
    const read = readMeshes(format, bytes.value)
    if (!read.ok) return read
    const faced = read.value.map((m) => facesBySharpEdges(m, SHARP))
    const counts = faced.map((m) => m.faceOf.reduce((most, f) => Math.max(most, f + 1), 0))
    const mesh = joined(faced, counts)
    const { closed, volume, edges } = measureMesh(mesh)
    if (!closed)
      return bad(
        'not-closed',
        `The mesh is not watertight: ${edgeWords(edges)}. Bodies are closed; mend it where it was made.`,
        edges.places.map((at) => ({ at })),
      )
    if (!(volume > 0)) return bad('inside-out', 'The mesh is inside out: its volume is below 0.')
    const faces = counts.reduce((a, b) => a + b, 0)
    return good([{ mesh, names: Array.from({ length: faces }, (_, i) => [`${op}:f${i + 1}`]) }])
  },
}
