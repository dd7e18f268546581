import { X } from 'lucide-react'
import { useEffect, useRef } from 'react'
import { noteNext, placeOfNote } from '../../session/notes'
import { edit, useSession } from '../../session/session'
import { Button, CommitInput, IconButton } from '../../ui/controls'
import { faceName } from '../names'

/** Notes on faces and edges: what is to be seen, done or asked there. */
export function NotesPanel() {
  const doc = useSession((s) => s.doc)!
  const bodies = useSession((s) => s.settled?.bodies) ?? []
  const noting = useSession((s) => s.noting)
  const list = useRef<HTMLOListElement>(null)
  const count = useRef(doc.notes.length)
  useEffect(() => {
    // A new one waits to be written.
    if (doc.notes.length > count.current)
      list.current?.querySelector<HTMLInputElement>('li:last-child input')?.focus()
    count.current = doc.notes.length
  }, [doc.notes.length])
  return (
    <section aria-label="Notes" className="flex flex-col gap-1.5 border-rule border-t p-3">
      <div className="flex items-baseline justify-between">
        <h3 className="font-medium">Notes</h3>
        <Button
          className="px-1.5! py-0.5! text-sm"
          aria-pressed={noting}
          onClick={() => noteNext(!noting)}
        >
          {noting ? 'Click a face or edge…' : 'Note on a face or edge'}
        </Button>
      </div>
      <ol ref={list} className="flex flex-col gap-1">
        {doc.notes.map((n, k) => {
          const body = bodies.find((b) => b.id === n.body)
          const there = !body?.mesh || placeOfNote(n, body.mesh) !== null
          return (
            <li key={n.id} className="grid grid-cols-[1.4rem_1fr_auto] items-start gap-x-1">
              <span className="figures text-marginal">{k + 1}</span>
              <span className="min-w-0">
                <CommitInput
                  aria-label={`Note ${k + 1}`}
                  className="w-full"
                  maxLength={500}
                  value={n.text}
                  placeholder="What is it?"
                  onCommit={(t) =>
                    edit((d) => {
                      const note = d.notes.find((x) => x.id === n.id)
                      if (note) note.text = t.slice(0, 500)
                    })
                  }
                />
                <span className={`block truncate text-sm ${there ? 'text-soft' : 'text-out'}`}>
                  {body?.name ?? n.body}: {n.faces.map((f) => faceName(doc, f)).join(' / ')}
                  {!there && ', which is gone'}
                </span>
              </span>
              <IconButton
                label={`Take note ${k + 1} away`}
                className="size-6!"
                onClick={() =>
                  edit((d) => {
                    d.notes = d.notes.filter((x) => x.id !== n.id)
                  })
                }
              >
                <X size={13} />
              </IconButton>
            </li>
          )
        })}
      </ol>
    </section>
  )
}
