import { type P3, placeAt } from '../../math'
import type { FacedMesh } from '../faced'
import type { MeshSolids } from '../solids'
import { onlyOf, turnedOver } from './mend'
import { type Shell, shellsOf } from './shells'

/** What two pieces share that is less than this share of the smaller one is nothing: triangles that touch. */
const NOTHING = 1e-6

/** Pieces of a mesh that take up the same room: one in the other, or one through the other. */
export interface Overlap {
  how: 'inside' | 'through'
  /** mm3 that would be counted twice, and a place there. */
  volume: number
  at: P3
  /** The smaller of both. */
  less: Piece
}

/** A piece with the rooms in it. */
interface Piece {
  skin: Shell
  rooms: Shell[]
}

/** Where pieces of a mesh whose skins face out take up the same room: each two whose boxes meet are met. */
export function overlapsOf(mesh: FacedMesh, solids: MeshSolids): Overlap[] {
  const pieces = piecesOf(mesh)
  return pieces.flatMap((a, i) =>
    pieces.slice(i + 1).flatMap((b): Overlap[] => {
      if (!meet(a.skin, b.skin)) return []
      const volume = solids.shared(meshOf(mesh, a), meshOf(mesh, b))
      const less = a.skin.volume < b.skin.volume ? a : b
      if (!(volume > NOTHING * less.skin.volume)) return []
      const all = volume > (1 - NOTHING) * volumeOf(less)
      return [{ how: all ? 'inside' : 'through', volume, at: placeOf(mesh, less.skin), less }]
    }),
  )
}

/** The pieces of a mesh as one body, what they share counted once. */
export const joinedPieces = (mesh: FacedMesh, solids: MeshSolids): FacedMesh =>
  solids.combine(
    'join',
    piecesOf(mesh).map((p) => meshOf(mesh, p)),
  ).mesh

/** The mesh with pieces that lie in others turned over: rooms in them. */
export function withRooms(mesh: FacedMesh, overlaps: readonly Overlap[]): FacedMesh {
  const inner = new Set(overlaps.flatMap((o) => (o.how === 'inside' ? [o.less] : [])))
  return turnedOver(
    mesh,
    [...inner].flatMap((p) => [p.skin, ...p.rooms].flatMap((s) => s.triangles)),
  )
}

/** The pieces of a mesh: what faces out, each with the rooms that lie in it next. */
function piecesOf(mesh: FacedMesh): Piece[] {
  const shells = shellsOf(mesh)
  const next = shells.map((s) =>
    s.within.reduce(
      (best, j) => (best < 0 || shells[j]!.within.length > shells[best]!.within.length ? j : best),
      -1,
    ),
  )
  return shells.flatMap((skin, i) =>
    skin.volume > 0
      ? [{ skin, rooms: shells.filter((s, k) => s.volume < 0 && next[k] === i) }]
      : [],
  )
}

const volumeOf = ({ skin, rooms }: Piece) => rooms.reduce((v, r) => v + r.volume, skin.volume)

const meet = (a: Shell, b: Shell): boolean =>
  [0, 1, 2].every((k) => a.min[k]! < b.max[k]! && b.min[k]! < a.max[k]!)

const meshOf = (mesh: FacedMesh, { skin, rooms }: Piece): FacedMesh =>
  onlyOf(
    mesh,
    [skin, ...rooms].flatMap((s) => s.triangles),
  )

const placeOf = (mesh: FacedMesh, s: Shell): P3 =>
  placeAt(mesh.positions, mesh.triangles[3 * s.triangles[0]!]!)
