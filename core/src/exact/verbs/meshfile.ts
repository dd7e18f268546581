import { bad, good, type Outcome } from '../../math'
import {
  edgeWords,
  evenSkin,
  type FacedMesh,
  facesBySharpEdges,
  joined,
  joinedPieces,
  type MeshFormat,
  measureMesh,
  outwardSkins,
  overlapsOf,
  readMeshes,
  selfCrossing,
  withRooms,
} from '../../mesh'
import type { Bench, Verb } from './verb'

export interface MeshFileArgs {
  op: string
  file: string
  format: MeshFormat
  /** What becomes of pieces that take up the same room: refused with their places, joined, or rooms where they lie in others. */
  shared: 'told' | 'join' | 'room'
}

/** Triangles that turn by more than this against their neighbours start a new face, rad. */
const SHARP = 0.6
/** Triangles that go no deeper through each other than this are as near as their numbers are written, mm. */
const DEEP = 1e-3

/**
 * The closed meshes of a file, together; faces are parted at sharp edges and named by number. What was turned over or left out for
 * that is told with it, and where a skin goes through itself.
 */
export const meshFileVerb: Verb<MeshFileArgs> = {
  version: 3,
  run(bench, _, { op, file, format, shared }) {
    const bytes = bench.file(file)
    if (!bytes.ok) return bytes
    const read = readMeshes(format, bytes.value)
    if (!read.ok) return read
    const even = read.value.map(evenSkin)
    const out = outwardSkins(inFaces(even.map((m) => m.mesh)))
    const { closed, volume, edges } = measureMesh(out.mesh)
    if (!closed)
      return bad(
        'not-closed',
        `The mesh is not watertight: ${edgeWords(edges)}. Bodies are closed; mend it where it was made.`,
        edges.places.map((at) => ({ at })),
      )
    if (!(volume > 0)) return bad('inside-out', 'The mesh is inside out: its volume is below 0.')
    const once = sharedOnce(bench, out.mesh, shared)
    if (!once.ok) return once
    const mesh = once.value
    const faces = mesh.faceOf.reduce((most, f) => Math.max(most, f + 1), 0)
    const sum = (of: 'turned' | 'twice') => even.reduce((n, m) => n + m[of], out[of])
    return good([
      {
        mesh,
        names: Array.from({ length: faces }, (_, i) => [`${op}:f${i + 1}`]),
        mended: {
          turned: sum('turned'),
          twice: sum('twice'),
          through: selfCrossing(mesh, DEEP),
        },
      },
    ])
  },
}

function inFaces(meshes: readonly Parameters<typeof facesBySharpEdges>[0][]): FacedMesh {
  const faced = meshes.map((m) => facesBySharpEdges(m, SHARP))
  return joined(
    faced,
    faced.map((m) => m.faceOf.reduce((most, f) => Math.max(most, f + 1), 0)),
  )
}

/** The mesh with nothing counted twice, in the way that was chosen. */
function sharedOnce(
  { meshes }: Bench,
  mesh: FacedMesh,
  shared: MeshFileArgs['shared'],
): Outcome<FacedMesh> {
  const over = overlapsOf(mesh, meshes)
  if (over.length === 0) return good(mesh)
  if (shared === 'join') return good(inFaces([joinedPieces(mesh, meshes)]))
  const rest = shared === 'room' ? withRooms(mesh, over) : mesh
  const left = shared === 'room' ? overlapsOf(rest, meshes) : over
  if (left.length === 0) return good(rest)
  const inside = left.filter((o) => o.how === 'inside').length
  const volume = left.reduce((sum, o) => sum + o.volume, 0)
  return bad(
    inside === left.length ? 'inside-others' : 'through-others',
    `${left.length === 1 ? 'Two of its pieces take up the same room' : `Pieces of it take up the same room at ${left.length} places`}: ${(volume / 1000).toFixed(2)} cm³ would be counted twice.`,
    left.map(({ at, how }) => ({
      at,
      label: how === 'inside' ? 'lies in another' : 'goes through another',
    })),
  )
}
