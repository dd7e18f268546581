import { neededBy, taken, type Workpiece } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { Dialog } from 'radix-ui'
import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { PROOFS } from '../../session/ghost'
import { replaceDoc, select, undo, useSession } from '../../session/session'
import { listCards, load } from '../../storage/db'
import { proofsOf } from '../../storage/proofs'
import { Button, Choice } from '../../ui/controls'

/** Ops of this workpiece once more, or of another on the shelf, with what they need to stand. */
export function TakeDialog({ open, onClose }: { open: boolean; onClose(): void }) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-20 left-1/2 z-50 flex max-h-[80vh] w-[34rem] -translate-x-1/2 flex-col gap-3 rounded-sm border border-rule bg-sheet p-4 shadow-xl"
        >
          <Dialog.Title className="font-medium text-lg">Take over ops</Dialog.Title>
          <Taking onClose={onClose} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Taking({ onClose }: { onClose(): void }) {
  const doc = useSession((s) => s.doc)!
  const selected = useSession((s) => s.selected)
  const [source, setSource] = useState(doc.id)
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set())
  const [withAll, setWithAll] = useState(true)
  const [linked, setLinked] = useState(false)
  const { data: cards = [] } = useQuery({ queryKey: ['shelf'], queryFn: listCards })
  const { data: other } = useQuery({
    queryKey: ['taken', source],
    queryFn: () => load(source),
    enabled: source !== doc.id,
    staleTime: 0,
  })
  const { data: proofs = [] } = useQuery({
    queryKey: [PROOFS, source],
    queryFn: () => proofsOf(source),
    enabled: source !== doc.id,
    staleTime: 0,
  })
  const proof = linked ? proofs[0] : undefined
  const from: Workpiece | null =
    source === doc.id
      ? doc
      : proof
        ? proof.doc
        : other && typeof other !== 'string'
          ? other.doc
          : null
  const needed = useMemo(
    () => (from && source !== doc.id && withAll ? neededBy(from, [...picked]).ops : [...picked]),
    [from, picked, source, doc.id, withAll],
  )
  const takeOver = () => {
    if (!from || needed.length === 0) return
    const at = doc.route.findIndex((o) => o.id === selected)
    // Of its own, after the last of them.
    const last = Math.max(...needed.map((id) => doc.route.findIndex((o) => o.id === id)))
    const index = source === doc.id ? last : at < 0 ? doc.route.length - 1 : at
    const made = taken(doc, from, needed, index)
    replaceDoc(() =>
      proof
        ? {
            ...made.doc,
            links: [
              ...made.doc.links,
              {
                workpiece: source,
                name: from.name,
                proof: proof.id,
                made: proof.made,
                ...made.ties,
              },
            ],
          }
        : made.doc,
    )
    select(made.ids[0] ?? null)
    onClose()
    const count = made.ids.length === 1 ? 'One op was' : `${made.ids.length} ops were`
    toast(`${count} taken over.`, { action: { label: 'Undo', onClick: undo } })
  }
  return (
    <>
      <div className="flex items-center gap-2">
        <span>From</span>
        <Choice
          label="Take from"
          className="flex-1"
          value={source}
          options={[
            { value: doc.id, label: 'this workpiece, once more' },
            ...cards.filter((c) => c.id !== doc.id).map((c) => ({ value: c.id, label: c.name })),
          ]}
          onChange={(id) => {
            setSource(id)
            setPicked(new Set())
          }}
        />
      </div>
      {typeof other === 'string' && source !== doc.id && <p className="text-out">{other}</p>}
      <ul className="min-h-24 overflow-y-auto border border-rule" aria-label="Ops to take over">
        {from?.route.map((o) => (
          <li key={o.id} className="border-rule/60 border-b">
            <label className="flex items-baseline gap-2 px-2 py-1">
              <input
                type="checkbox"
                checked={picked.has(o.id)}
                onChange={(e) => {
                  const next = new Set(picked)
                  if (e.target.checked) next.add(o.id)
                  else next.delete(o.id)
                  setPicked(next)
                }}
              />
              <span className="figures w-8 text-soft">{o.number}</span>
              {o.name}
              {needed.includes(o.id) && !picked.has(o.id) && (
                <span className="text-soft text-sm">needed by it</span>
              )}
            </label>
          </li>
        ))}
      </ul>
      {source !== doc.id && (
        <label className="flex items-center gap-1.5 text-sm">
          <input type="checkbox" checked={withAll} onChange={(e) => setWithAll(e.target.checked)} />
          with the ops they need; figures and files they use come along
        </label>
      )}
      {proofs[0] && source !== doc.id && (
        <label className="flex items-center gap-1.5 text-sm">
          <input type="checkbox" checked={linked} onChange={(e) => setLinked(e.target.checked)} />
          as in its proof “{proofs[0].name}”, and told when it has a newer one
        </label>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Close</Button>
        <Button tone="main" disabled={needed.length === 0} onClick={takeOver}>
          {needed.length === 0
            ? 'Take over'
            : needed.length === 1
              ? 'Take over 1 op'
              : `Take over ${needed.length} ops`}
        </Button>
      </div>
    </>
  )
}
