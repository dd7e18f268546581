import { mm } from '@ivory/core/math'
import type { CageEdit } from '@ivory/core/ops'
import { type Op, sayLengths } from '@ivory/core/workpiece'
import { Eye, EyeOff, X } from 'lucide-react'
import {
  cageEditsOf,
  openEdit,
  pickOnly,
  putEdits,
  useCage,
  wordsOn,
} from '../../../session/caging'
import { useLaid } from '../../../session/laid'
import { opOf, useSession } from '../../../session/session'
import { Choice, CommitInput } from '../../../ui/controls'
import { opName } from '../../names'
import { EDIT_KINDS, type EditField, labelOf } from './kinds'
import { RowsTable } from './RowsTable'

type Loose = CageEdit & Record<string, unknown>

/** The edits of a cage in their order: each can be opened, left out and taken away. */
export function EditList({ op }: { op: Op }) {
  const open = useSession((s) => s.caging.open)
  const kept = useSession((s) => opOf(s.doc, op.id))
  const edits = cageEditsOf(kept)
  if (edits.length === 0) return null
  const change = (id: string, to: object) =>
    putEdits(op.id, (all) => all.map((e) => (e?.id === id ? ({ ...e, ...to } as CageEdit) : e)))
  return (
    <ol aria-label="Edits of the cage" className="flex flex-col">
      {edits.map((e, i) => (
        <li key={e.id} data-testid={`cage-edit-${e.id}`} className="border-rule/60 border-b py-0.5">
          <div className="flex items-center gap-1">
            <span className="figures w-5 text-right text-soft text-sm">{i + 1}</span>
            <button
              type="button"
              aria-expanded={open === e.id}
              className={`min-w-0 flex-1 truncate text-left hover:text-brass ${e.off ? 'text-soft line-through' : ''}`}
              onClick={() => {
                openEdit(open === e.id ? null : e.id)
                if (open !== e.id) pickOnly(wordsOn(e))
              }}
            >
              {labelOf(e.kind)} <span className="text-soft text-sm">{wordsOf(e)}</span>
            </button>
            <button
              type="button"
              aria-label={e.off ? `Put edit ${i + 1} back` : `Leave edit ${i + 1} out`}
              className="text-soft hover:text-ink"
              onClick={() => change(e.id, { off: e.off ? undefined : true })}
            >
              {e.off ? <EyeOff size={14} /> : <Eye size={14} />}
            </button>
            <button
              type="button"
              aria-label={`Take edit ${i + 1} away`}
              className="text-soft hover:text-out"
              onClick={() => putEdits(op.id, (all) => all.filter((k) => k?.id !== e.id))}
            >
              <X size={14} />
            </button>
          </div>
          {open === e.id && <Fields op={op} edit={e} change={(to) => change(e.id, to)} />}
        </li>
      ))}
    </ol>
  )
}

function wordsOf(e: CageEdit): string {
  if (e.kind === 'rows')
    return Array.isArray(e.rows) ? `${e.rows.length} ${e.rows.length === 1 ? 'row' : 'rows'}` : ''
  const on = wordsOn(e)
  return on.length <= 2 ? on.join(', ') : `${on[0]} and ${on.length - 1} more`
}

function Fields({ op, edit, change }: { op: Op; edit: CageEdit; change(to: object): void }) {
  const cage = useCage()?.cage
  if (edit.kind === 'rows')
    return <RowsTable op={op} rows={cage?.rows ?? []} edit={edit} change={change} />
  const fields = EDIT_KINDS[edit.kind]?.fields ?? []
  return (
    <div className="flex flex-wrap gap-x-3 gap-y-1 py-1 pl-6">
      {fields.map((f) => (
        <EditInput key={f.name} op={op} field={f} value={(edit as Loose)[f.name]} change={change} />
      ))}
      {edit.kind === 'lay' && <LaidWords />}
    </div>
  )
}

/** How many places were measured, and how far they are off: what the dots on the Stage say. */
function LaidWords() {
  const laid = useLaid()
  const unit = useSession((s) => s.doc?.unit) ?? 'mm'
  if (!laid) return null
  const { well, near, beyond, within } = laid
  const shown = (x: number) => sayLengths(mm(x, 3), unit)
  return (
    <p className="w-full text-sm" data-testid="laid-places">
      Of {well.length + near.length + beyond.length} places measured {well.length} lie within{' '}
      {shown(within / 2)} (small), {near.length} within {shown(within)} (larger), {beyond.length}{' '}
      beyond (largest).
    </p>
  )
}

function EditInput({
  op,
  field: f,
  value,
  change,
}: {
  op: Op
  field: EditField
  value: unknown
  change(to: object): void
}) {
  const there = useSession((s) => s.settled?.available[op.id])
  const doc = useSession((s) => s.doc)
  const options =
    f.as === 'choice'
      ? f.options
      : f.as === 'body'
        ? (there?.bodies ?? []).map((b) => ({ value: b.id, label: b.name }))
        : f.as === 'path'
          ? (there?.paths ?? []).map((id) => ({ value: id, label: opName(doc, id) }))
          : null
  if (options)
    return (
      <span className="flex items-baseline gap-1 text-sm">
        <span className="text-soft">{f.label}</span>
        <Choice
          label={`Edit ${f.label}`}
          value={String(value)}
          options={options}
          onChange={(v) => change({ [f.name]: v })}
        />
      </span>
    )
  return (
    <label className="flex items-baseline gap-1 text-sm">
      <span className="text-soft">{f.label}</span>
      <CommitInput
        aria-label={`Edit ${f.label}`}
        className="figures w-16"
        value={value === undefined ? '' : String(value)}
        onCommit={(text) => {
          const t = text.trim()
          const n = Number(t)
          if (t === '') {
            if ('optional' in f && f.optional) change({ [f.name]: undefined })
            return
          }
          if (f.as === 'count') {
            if (Number.isInteger(n) && n >= f.least) change({ [f.name]: n })
            return
          }
          change({ [f.name]: Number.isFinite(n) && f.as !== 'angle' ? n : degrees(t, f.as) })
        }}
      />
    </label>
  )
}

/** A bare number that stands for an angle is in degrees. */
const degrees = (t: string, as: string): string =>
  as === 'angle' && Number.isFinite(Number(t)) ? `${Number(t)} deg` : t
