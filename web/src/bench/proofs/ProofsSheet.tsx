import { useQueryClient } from '@tanstack/react-query'
import { Trash2, X } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import { PROOFS, useKeptProofs } from '../../session/ghost'
import { backTo, openProofs, proofNow, useProofs } from '../../session/proofs'
import { undo, useSession } from '../../session/session'
import { dropProof, keepProof, type Proof } from '../../storage/proofs'
import { Button, IconButton, TextInput } from '../../ui/controls'
import { Comparison } from './Comparison'

const report = (e: unknown) => toast.error(e instanceof Error ? e.message : String(e))

/** The drawer of proofs: keeps the workpiece as it is now, compares, goes back. */
export function ProofsSheet() {
  const { data: proofs = [], error } = useKeptProofs()
  const queries = useQueryClient()
  const refresh = () => queries.invalidateQueries({ queryKey: [PROOFS] })
  const [name, setName] = useState('')
  const compared = useProofs((s) => s.compared)
  const waits = useSession((s) => (s.settled?.waits ?? 1) > 0)
  const chosen = proofs.find((p) => p.id === compared?.id)
  const keep = () =>
    proofNow(name)
      .then((made) => {
        if (!made) toast.error('Wait until the kernel is done: a proof keeps what was measured.')
        setName('')
        return refresh()
      })
      .catch(report)
  return (
    <section className="flex flex-col gap-3 p-3" aria-label="Proofs">
      <header className="flex items-center justify-between">
        <h2 className="font-medium text-lg">Proofs</h2>
        <IconButton label="Close the drawer" hint="9" onClick={() => openProofs(false)}>
          <X size={16} />
        </IconButton>
      </header>
      <form
        className="flex gap-1.5"
        onSubmit={(e) => {
          e.preventDefault()
          void keep()
        }}
      >
        <TextInput
          aria-label="Name of the proof"
          className="min-w-0 flex-1"
          placeholder="What is it a proof of?"
          maxLength={120}
          value={name}
          onText={setName}
        />
        <Button type="submit" tone="main" disabled={waits}>
          Keep as it is
        </Button>
      </form>
      {error && <p className="text-out text-sm">{error.message}</p>}
      {proofs.length === 0 && (
        <p className="text-soft text-sm">
          None is kept yet. A proof holds the whole workpiece as it is now, with its picture and
          what its gauges read, to be compared with later and gone back to.
        </p>
      )}
      <ul className="flex flex-col gap-2">
        {proofs.map((p) => (
          <Row key={p.id} proof={p} proofs={proofs} refresh={refresh} />
        ))}
      </ul>
      {chosen && (
        <Comparison
          was={chosen}
          other={proofs.find((p) => p.id === compared?.with)}
          key={`${chosen.id} ${compared?.with}`}
        />
      )}
    </section>
  )
}

function Row({
  proof,
  proofs,
  refresh,
}: {
  proof: Proof
  proofs: Proof[]
  refresh(): Promise<void>
}) {
  const compared = useProofs((s) => s.compared)
  const open = compared?.id === proof.id
  const others = proofs.filter((p) => p.id !== proof.id)
  const out = proof.readings.filter((r) => r.verdict === 'out').length
  return (
    <li className={`border ${open ? 'border-brass' : 'border-rule'} bg-sheet`} data-testid="proof">
      <div className="flex gap-2">
        {proof.picture && (
          <img src={proof.picture} alt="" className="h-16 w-24 shrink-0 object-cover" />
        )}
        <div className="min-w-0 flex-1 py-1 pr-1">
          <p className="truncate font-medium" title={proof.name}>
            {proof.name}
          </p>
          <p className="text-soft text-sm">
            {new Date(proof.made).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })}
            {out > 0 && <span className="text-out"> · {out} out</span>}
            {proof.released && ' · released'}
          </p>
          <div className="mt-1 flex flex-wrap gap-1">
            <Button
              className="px-1.5! py-0! text-sm"
              aria-pressed={open}
              onClick={() =>
                useProofs.setState(
                  open
                    ? { compared: null, beside: null }
                    : { compared: { id: proof.id, with: null } },
                )
              }
            >
              {open ? 'Put back' : 'Compare'}
            </Button>
            <Button
              className="px-1.5! py-0! text-sm"
              onClick={() => {
                try {
                  backTo(proof)
                  toast(`The workpiece is as in “${proof.name}”.`, {
                    action: { label: 'Undo', onClick: undo },
                  })
                } catch (e) {
                  report(e)
                }
              }}
            >
              Go back to it
            </Button>
            <IconButton
              label={`Drop the proof ${proof.name}`}
              className="ml-auto size-6!"
              onClick={() =>
                void dropProof(proof.id)
                  .then(refresh)
                  .then(() =>
                    toast(`The proof “${proof.name}” was dropped.`, {
                      action: {
                        label: 'Keep it',
                        onClick: () => void keepProof(proof).then(refresh).catch(report),
                      },
                    }),
                  )
                  .catch(report)
              }
            >
              <Trash2 size={13} />
            </IconButton>
          </div>
        </div>
      </div>
      {open && others.length > 0 && (
        <label className="flex items-center gap-2 border-rule border-t px-2 py-1 text-sm">
          with
          <select
            aria-label="Compare with"
            className="min-w-0 flex-1 rounded-sm border border-rule bg-sheet px-1"
            value={compared?.with ?? ''}
            onChange={(e) =>
              useProofs.setState({ compared: { id: proof.id, with: e.target.value || null } })
            }
          >
            <option value="">now</option>
            {others.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
      )}
    </li>
  )
}
