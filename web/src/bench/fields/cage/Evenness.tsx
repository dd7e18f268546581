import { fixed } from '@ivory/core/math'
import type { CageCure } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { lathe } from '../../../engine'
import { addEdit, type NewEdit, pickOf, pickOnly, tryFrom } from '../../../session/caging'
import { useSession } from '../../../session/session'
import { Button } from '../../../ui/controls'

/** Where the form bends unevenly and what helps: each was tried on a copy, and is put on trial by one click. */
export function Evenness({ op }: { op: Op }) {
  const doc = useSession((s) => s.doc)!
  const dragging = useSession((s) => s.dragFrom !== null)
  const [open, setOpen] = useState(false)
  const at = doc.route.findIndex((o) => o.id === op.id)
  const query = useQuery({
    queryKey: [
      'examine',
      doc.id,
      op.id,
      JSON.stringify([doc.figures, doc.route.slice(0, at), op.inputs]),
    ],
    queryFn: () => lathe.call('examine', { doc, op: op.id }),
    enabled: open && !dragging,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  })
  const found = query.data
  return (
    <details open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="cursor-pointer text-soft text-sm">Even bending</summary>
      <div className="mt-1 flex flex-col gap-1 text-sm" data-testid="cage-cures">
        {found === undefined && <p className="text-soft">Trying what could help…</p>}
        {typeof found === 'string' && <p>{found}</p>}
        {typeof found === 'object' && found.cures.length === 0 && (
          <p>Nothing that was tried makes it bend more evenly.</p>
        )}
        {typeof found === 'object' && found.cures.length > 0 && (
          <ol className={query.isFetching ? 'opacity-60' : ''}>
            {found.cures.map((c, i) => (
              <CureLine
                key={`${c.edit.kind} ${c.on.join(' ')}`}
                op={op.id}
                cure={c}
                number={i + 1}
              />
            ))}
          </ol>
        )}
      </div>
    </details>
  )
}

function CureLine({ op, cure, number }: { op: string; cure: CageCure; number: number }) {
  const pick = () => {
    const [first = ''] = cure.on
    pickOf(first.includes('~') ? 'edges' : first.startsWith('row ') ? 'rows' : 'points')
    pickOnly(cure.on)
  }
  return (
    <li className="flex items-baseline gap-2 border-rule/60 border-b py-0.5">
      <span className="min-w-0 flex-1">
        {cure.words}.{' '}
        <span className="figures text-soft" title="Of the unevenness about it, as tried on a copy">
          −{fixed(100 * cure.share, 0)} % there
        </span>
      </span>
      <Button
        tone="quiet"
        className="px-1! py-0!"
        aria-label={`Find cause ${number}`}
        onClick={pick}
      >
        find
      </Button>
      <Button
        tone="quiet"
        className="px-1! py-0!"
        aria-label={`Try cure ${number}`}
        onClick={() => {
          pick()
          tryFrom(op)
          addEdit(op, cure.edit as NewEdit)
        }}
      >
        try
      </Button>
    </li>
  )
}
