import { freshId, type P3, placeAt, rounded } from '@ivory/core/math'
import type { DisplayMesh } from '@ivory/core/turned'
import type { NoteDoc } from '@ivory/core/workpiece'
import { edit, useSession } from './session'

/** The next face or edge that is clicked on the Stage takes a note; or none does. */
export const noteNext = (on: boolean): void =>
  useSession.setState({ noting: on, picking: null, measuring: null })

/** What was clicked takes a note, whose text is then asked for. */
export function takeNote(body: string, faces: string[], at: P3): void {
  edit((d) => {
    const id = freshId(
      d.notes.map((n) => n.id),
      'note',
    )
    d.notes.push({
      id,
      body,
      faces,
      at: at.map((x) => rounded(x, 3)) as [number, number, number],
      text: '',
    })
  })
  noteNext(false)
}

/** Where a note is on a body as it is now: the place of its face or edge nearest to where it was put; null where that is gone. */
export function placeOfNote({ faces, at }: NoteDoc, mesh: DisplayMesh): P3 | null {
  let [best, least]: [P3 | null, number] = [null, Number.POSITIVE_INFINITY]
  const take = (p: P3) => {
    const d = Math.hypot(p[0] - at[0], p[1] - at[1], p[2] - at[2])
    if (d < least) [best, least] = [p, d]
  }
  const [one, other] = faces
  if (other === undefined) {
    for (let t = 0; t < mesh.faceOf.length; t++) {
      if (mesh.faces[mesh.faceOf[t]!] !== one) continue
      const corners = [0, 1, 2].map((k) => placeAt(mesh.positions, mesh.triangles[3 * t + k]!))
      for (const c of corners) take(c)
      take([0, 1, 2].map((k) => corners.reduce((s, c) => s + c[k]! / 3, 0)) as unknown as P3)
    }
  } else
    for (let i = 0; i < mesh.edgeOf.length; i++) {
      const names = mesh.edges[mesh.edgeOf[i]!]!.names
      if (!names.includes(one!) || !names.includes(other)) continue
      for (const k of [0, 1]) take(placeAt(mesh.lines, 2 * i + k))
    }
  return best
}
