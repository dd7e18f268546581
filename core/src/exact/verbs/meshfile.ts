import { bad, good, type Outcome } from '../../math'
import {
  edgeWords,
  facesBySharpEdges,
  joined,
  measureMesh,
  readObj,
  readStl,
  readThreeMf,
  type TriMesh,
} from '../../mesh'
import type { Verb } from './verb'

export interface MeshFileArgs {
  op: string
  file: string
  format: 'stl' | 'obj' | '3mf'
}

/** Triangles that turn by more than this against their neighbours start a new face, rad. */
const SHARP = 0.6

/** The closed meshes of a file, together; faces are parted at sharp edges and named by number. */
export const meshFileVerb: Verb<MeshFileArgs> = {
  version: 1,
  run(bench, _, { op, file, format }) {
    const bytes = bench.file(file)
    if (!bytes.ok) return bytes
    const read = meshesIn(bytes.value, format)
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

function meshesIn(bytes: Uint8Array, format: MeshFileArgs['format']): Outcome<TriMesh[]> {
  if (format === 'obj') return readObj(new TextDecoder().decode(bytes))
  if (format === '3mf') return readThreeMf(bytes)
  const mesh = readStl(bytes)
  return mesh.ok ? good([mesh.value]) : mesh
}
