import { type P3, rounded } from '@ivory/core/math'
import { type TriMesh, wallByRays } from '@ivory/core/mesh'
import type { DisplayMesh } from '@ivory/core/turned'
import { evaluateExpression, inDimension } from '@ivory/core/workpiece'
import { useMemo } from 'react'
import { opOf, useSession } from './session'

/** Rays cast at each step of a drag. */
const RAYS = 1500

/** The triangles of a mesh whose faces an op made. */
function madeBy(mesh: DisplayMesh, op: string): TriMesh {
  const out: number[] = []
  for (let t = 0; t < mesh.faceOf.length; t++)
    if (mesh.faces[mesh.faceOf[t]!]!.startsWith(`${op}:`))
      out.push(...mesh.triangles.subarray(3 * t, 3 * t + 3))
  return { positions: mesh.positions, triangles: Uint32Array.from(out) }
}

/**
 * The least wall, by rays, between the chosen cage as it is while it is dragged and the room inside, which stays as it was until the drag
 * ends; and how thick it is to be, mm. Null where nothing is dragged or no room was fitted under it.
 */
export function useLiveWall(): { wall: number; asked: number | null; at: P3 } | null {
  const dragging = useSession((s) => s.dragFrom !== null)
  const op = useSession((s) => opOf(s.doc, s.selected))
  const body =
    op?.kind === 'cage' ? ((op.inputs.mode === 'new' ? op.id : op.inputs.body) as string) : ''
  const cavity = useSession((s) =>
    s.doc?.route.find((o) => o.kind === 'cavity' && !o.suppressed && o.inputs.body === body),
  )
  const mesh = useSession((s) => s.settled?.bodies.find((b) => b.id === body)?.mesh)
  const skin = useSession((s) => s.view?.reports.find((r) => r.id === s.selected)?.shown?.skin)
  const figures = useSession((s) => s.view?.figures)
  const unit = useSession((s) => s.doc?.unit) ?? 'mm'
  const room = useMemo(() => (mesh && cavity ? madeBy(mesh, cavity.id) : null), [mesh, cavity])
  return useMemo(() => {
    if (!dragging || !room || room.triangles.length === 0 || !skin?.normals) return null
    const found = wallByRays({ positions: skin.positions, normals: skin.normals }, room, RAYS)
    if (!found) return null
    const look = (name: string) => figures?.find((f) => f.name === name)?.quantity
    let asked: number | null = null
    try {
      const { wall } = cavity!.inputs
      asked =
        typeof wall === 'number'
          ? wall
          : inDimension(evaluateExpression(String(wall), look), 'length', unit)
    } catch {
      // What the room asks for cannot be worked out; its own line says so.
    }
    return { wall: rounded(found.wall, 2), asked, at: found.at }
  }, [dragging, room, skin, figures, cavity, unit])
}
