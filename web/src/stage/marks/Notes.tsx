import type { BodyView } from '../../engine'
import { placeOfNote } from '../../session/notes'
import { useSession } from '../../session/session'
import { Pin } from './Pin'

const NONE: never[] = []

/** Notes at the faces and edges they are on, by their numbers. */
export function Notes({ bodies }: { bodies: BodyView[] }) {
  const notes = useSession((s) => s.doc?.notes) ?? NONE
  return notes.map((n, k) => {
    const mesh = bodies.find((b) => b.id === n.body)?.mesh
    const at = mesh && placeOfNote(n, mesh)
    return at ? (
      <Pin key={n.id} position={[...at]}>
        <span
          title={n.text}
          data-testid="note-pin"
          className="figures pointer-events-auto block -translate-x-1/2 -translate-y-full rounded-t-full rounded-bl-full border border-marginal bg-sheet px-1.5 text-marginal shadow-sm"
        >
          {k + 1}
        </span>
      </Pin>
    ) : null
  })
}
