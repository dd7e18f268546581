import { arrayMove, useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import type { OpReport } from '@ivory/core/rebuild'
import type { Op } from '@ivory/core/workpiece'
import { renumber, usedBy, usersOf } from '@ivory/core/workpiece'
import clsx from 'clsx'
import { CircleSlash, Copy, CornerLeftDown, GripVertical, Import, Trash2 } from 'lucide-react'
import { memo, useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { duplicateOp, removeOp, rollTo, toggleSuppressed } from '../../session/commands'
import { useLiked } from '../../session/own'
import { edit, openOp, useSession } from '../../session/session'
import { IconButton } from '../../ui/controls'
import { Sortable } from '../../ui/Sortable'
import { Links } from './Links'

type RowOp = Pick<Op, 'id' | 'number' | 'name' | 'suppressed' | 'note'>

/** The rows of the route: equal while only inputs change, so a drag does not redraw the panel. */
function useRouteRows(): RowOp[] {
  const key = useSession((s) =>
    JSON.stringify(
      (s.doc?.route ?? []).map(({ id, number, name, suppressed, note }) => ({
        id,
        number,
        name,
        suppressed,
        note,
      })),
    ),
  )
  return useMemo(() => JSON.parse(key) as RowOp[], [key])
}

export function RoutePanel({ onTake }: { onTake(): void }) {
  const route = useRouteRows()
  const rolledTo = useSession((s) => s.doc?.rolledTo)
  const selected = useSession((s) => s.selected)
  const ids = useMemo(() => route.map((o) => o.id), [route])
  const end = route.findIndex((o) => o.id === rolledTo)
  const ties = useTies(selected)
  const moveRow = (from: number, to: number) =>
    edit((d) => {
      const moved = arrayMove(d.route, from, to)
      const numbers = moved.map((o) => o.number)
      const rising = numbers.every((n, i) => i === 0 || n > numbers[i - 1]!)
      d.route = rising ? moved : renumber(moved as Op[])
    })
  return (
    <nav aria-label="Route" className="flex h-full flex-col overflow-hidden">
      <div className="flex items-center justify-between border-rule border-b pr-1 pl-3">
        <h2 className="py-1.5 font-medium">Route</h2>
        <IconButton label="Take over ops" hint="Shift I" onClick={onTake}>
          <Import size={14} />
        </IconButton>
      </div>
      <Links />
      {route.length === 0 ? (
        <p className="px-3 py-3 text-soft text-sm">
          The route is empty. Begin with a profile (I, then P): it opens on the table below. Each op
          you add stands here with what it did.
        </p>
      ) : (
        <Sortable ids={ids} onMove={moveRow}>
          <ol className="flex-1 overflow-y-auto">
            {route.map((op, i) => (
              <Row
                key={op.id}
                op={op}
                active={op.id === selected}
                beyond={end >= 0 && i > end}
                isEnd={i === end}
                tie={ties[op.id] ?? ''}
              />
            ))}
          </ol>
        </Sortable>
      )}
    </nav>
  )
}

/** What ops have to do with the selected one: those it uses, and those that use it. */
function useTies(selected: string | null): Readonly<Record<string, string>> {
  // While something is dragged, what was before stands: the panel is not drawn again then.
  const route = useSession((s) => (s.dragFrom ?? s.doc)?.route)
  return useMemo(() => {
    const { doc } = useSession.getState()
    if (!doc || !selected || !route) return {}
    return Object.fromEntries([
      ...usersOf(doc, selected).map((id) => [id, 'uses it'] as const),
      ...usedBy(doc, selected).map((id) => [id, 'used'] as const),
    ])
  }, [route, selected])
}

export const STATE: Record<string, { word: string; className: string; mark: string }> = {
  ok: { word: 'holds', className: 'bg-holds', mark: '' },
  warn: { word: 'see note', className: 'bg-marginal', mark: '!' },
  fail: { word: 'fails', className: 'bg-out', mark: '×' },
  skipped: { word: 'left out', className: 'bg-rule', mark: '' },
  waits: { word: 'at work', className: 'bg-brass', mark: '…' },
}

/** State and line of an op: a row is drawn again only when one of them is another. */
const useReport = (id: string) =>
  useSession(
    useShallow((s): [OpReport['status'], string] => {
      const r = s.settled?.reports.find((x) => x.id === id)
      const line = r?.status === 'fail' ? r.diagnoses[0]?.message : r?.consequence
      return [r?.status ?? 'skipped', line ?? '']
    }),
  )

const Row = memo(function Row({
  op,
  active,
  beyond,
  isEnd,
  tie,
}: {
  op: RowOp
  active: boolean
  beyond: boolean
  isEnd: boolean
  /** What it has to do with the selected op. */
  tie: string
}) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: op.id })
  const [status, line] = useReport(op.id)
  const state = STATE[status]!
  const liked = useLiked()
  // Made, or worked on, the face under the pointer.
  const making = useSession((s) => s.makers.ops.includes(op.id))
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      onPointerEnter={() => useSession.setState({ litOp: op.id })}
      onPointerLeave={() => useSession.setState({ litOp: null })}
      data-made={making || undefined}
      className={clsx(
        'group relative border-rule/60 border-b bg-paper',
        active && 'bg-brass-wash',
        making && 'shadow-[inset_3px_0_0_#7a5310]',
        (beyond || op.suppressed) && 'text-soft',
        isEnd && 'border-b-2 border-b-brass',
      )}
    >
      <div className="flex items-start">
        <span
          {...attributes}
          {...listeners}
          aria-label={`Move op ${op.number}`}
          className="mt-2 cursor-grab text-rule hover:text-soft"
        >
          <GripVertical size={14} />
        </span>
        <button
          type="button"
          aria-current={active ? 'step' : undefined}
          onClick={() => openOp(op.id)}
          className="grid min-w-0 flex-1 grid-cols-[2.2rem_1fr_auto] items-baseline gap-x-1 py-1.5 pr-2 text-left"
        >
          <span className="figures text-soft">{op.number}</span>
          <span className="flex min-w-0 items-baseline gap-1.5">
            <span className={clsx('truncate', op.suppressed && 'line-through')}>{op.name}</span>
            {op.note && (
              <span title={op.note} className="text-marginal text-sm">
                note<span className="sr-only">: {op.note}</span>
              </span>
            )}
            {tie && <span className="whitespace-nowrap text-brass text-sm">{tie}</span>}
          </span>
          <span
            title={beyond ? 'not run' : state.word}
            className={clsx(
              'grid size-3.5 place-items-center self-center rounded-full font-bold text-[10px] text-sheet leading-none',
              beyond ? 'bg-rule' : state.className,
            )}
          >
            {beyond ? '' : state.mark}
            <span className="sr-only">{beyond ? 'not run' : state.word}</span>
          </span>
          <span
            className={clsx(
              'col-span-2 col-start-2 truncate text-sm',
              status === 'fail' ? 'text-out' : 'text-soft',
            )}
          >
            {beyond ? 'not run' : liked(line)}
          </span>
        </button>
      </div>
      <div
        className={clsx(
          'absolute right-1 bottom-0.5 hidden bg-inherit group-focus-within:flex group-hover:flex',
        )}
      >
        <IconButton
          label="Show the route up to here"
          hint="B"
          className="size-6!"
          onClick={() => rollTo(op.id)}
        >
          <CornerLeftDown size={13} />
        </IconButton>
        <IconButton
          label={op.suppressed ? 'Put it back' : 'Leave it out'}
          hint="X"
          className="size-6!"
          onClick={() => toggleSuppressed(op.id)}
        >
          <CircleSlash size={13} />
        </IconButton>
        <IconButton
          label="Duplicate the op"
          hint="Shift D"
          className="size-6!"
          onClick={() => duplicateOp(op.id)}
        >
          <Copy size={13} />
        </IconButton>
        <IconButton label="Delete the op" className="size-6!" onClick={() => removeOp(op.id)}>
          <Trash2 size={13} />
        </IconButton>
      </div>
    </li>
  )
})
