import { type Field, opSpec, withDefaults } from '@ivory/core/ops'
import type { Drawing, Value } from '@ivory/core/profile'
import { type Op, sayLengths } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { MousePointerClick, X } from 'lucide-react'
import { memo, useMemo } from 'react'
import { lathe } from '../engine'
import { useStagePace } from '../session/pace'
import { edit, setInputs, useSelectedOp, useSession } from '../session/session'
import { typedValue } from '../table/typed'
import { Button, Choice, CommitInput } from '../ui/controls'
import { Diagnoses } from './Diagnoses'
import { DrawingFields } from './DrawingFields'
import { FileField } from './FileField'
import { faceName, opName } from './names'
import { renamedOp } from './rename'

/** The selected op: its inputs with their working range, and what is to be said about it. */
export function OpSheet() {
  const chosen = useStagePace(useSelectedOp())
  const spec = chosen && opSpec(chosen.kind)
  const op = useMemo(
    () => chosen && spec && { ...chosen, inputs: withDefaults(spec, chosen.inputs) },
    [chosen, spec],
  )
  const report = useSession((s) => s.settled?.reports.find((r) => r.id === s.selected))
  if (!chosen)
    return <p className="p-3 text-soft text-sm">Select an op of the route, or add one.</p>
  if (!spec || !op)
    return <p className="p-3 text-out">There is no op of the kind “{chosen.kind}”.</p>
  return (
    <div className="flex flex-col gap-3 p-3">
      <div>
        <div className="flex items-baseline gap-2">
          <span className="figures text-soft">{op.number}</span>
          <CommitInput
            aria-label="Name of the op"
            value={op.name}
            className="flex-1 border-transparent! bg-transparent! px-0! font-medium text-lg hover:border-rule!"
            onCommit={(name) => name.trim() && edit((d) => renamedOp(d, op.id, name.trim()))}
          />
        </div>
        <p className="text-soft text-sm">{spec.help}</p>
      </div>
      {report && <Diagnoses report={report} />}
      {spec.fields.map((f) => (
        <FieldRow key={f.name} op={op} field={f} />
      ))}
    </div>
  )
}

const FieldRow = memo(function FieldRow({ op, field }: { op: Op; field: Field }) {
  if (field.type === 'drawing') return <DrawingFields op={op} />
  if (field.when && !field.when(op.inputs)) return null
  if (field.name === 'body' && op.kind === 'revolve' && op.inputs.mode === 'new') return null
  return (
    <div className="grid grid-cols-[6.5rem_1fr] items-baseline gap-x-2">
      <span title={field.help}>{field.label}</span>
      <FieldInput op={op} field={field} />
      {field.type === 'value' && field.ranged && <Range op={op} input={field.name} />}
    </div>
  )
})

/** Where the things a field chooses from are listed. */
const TABLE = { profile: 'profiles', plane: 'planes', axis: 'axes', point: 'points' } as const

function FieldInput({ op, field }: { op: Op; field: Exclude<Field, { type: 'drawing' }> }) {
  const available = useSession((s) => s.settled?.available[op.id])
  const doc = useSession((s) => s.doc)
  const value = op.inputs[field.name]
  const set = (v: unknown) => setInputs(op.id, { [field.name]: v })
  if (field.type === 'value') {
    const shown =
      value === undefined
        ? ''
        : typeof value === 'number'
          ? `${value}${field.dim === 'angle' ? ' deg' : field.dim === 'length' ? ' mm' : ''}`
          : String(value)
    return (
      <CommitInput
        aria-label={field.label}
        value={shown}
        className="figures w-full"
        placeholder={field.optional ? 'same as the first' : ''}
        onCommit={(t) => set(t.trim() === '' && field.optional ? undefined : t.trim())}
      />
    )
  }
  if (field.type === 'choice') {
    return (
      <Choice label={field.label} value={String(value)} options={field.options} onChange={set} />
    )
  }
  if (field.type === 'place') return <PlaceInput op={op} field={field} />
  if (field.type === 'piece') {
    const profile = doc?.route.find((o) => o.id === op.inputs.profile)
    const pieces = (profile?.inputs.drawing as Drawing | undefined)?.entities ?? []
    const options = pieces.map((e) => ({ value: e.id, label: e.id }))
    return (
      <Choice label={field.label} value={String(value ?? '')} options={options} onChange={set} />
    )
  }
  if (field.type === 'file') return <FileField op={op} name={field.name} accept=".step,.stp" />
  if (field.type === 'faces' || field.type === 'edges') return <Refs op={op} field={field} />
  const options =
    field.type === 'body'
      ? (available?.bodies ?? []).map((b) => ({ value: b.id, label: b.name }))
      : (available?.[TABLE[field.type]] ?? []).map((id) => ({ value: id, label: opName(doc, id) }))
  if ((field.type === 'axis' || field.type === 'point') && field.none) {
    if (options.length === 0 && !value) return <span className="text-soft">{field.none}</span>
    options.unshift({ value: '', label: field.none })
    return (
      <Choice
        label={field.label}
        value={String(value ?? '')}
        options={options}
        onChange={(v) => set(v || undefined)}
      />
    )
  }
  return <Choice label={field.label} value={String(value ?? '')} options={options} onChange={set} />
}

/** A datum point, or three coordinates, each a number or an expression. */
function PlaceInput({ op, field }: { op: Op; field: Field }) {
  const at = (op.inputs[field.name] as Record<string, Value> | undefined) ?? { x: 0, y: 0, z: 0 }
  const doc = useSession((s) => s.doc)
  const unit = doc?.unit ?? 'mm'
  const points = useSession((s) => s.settled?.available[op.id]?.points) ?? []
  const choice = (
    <Choice
      label={`${field.label}: how it is given`}
      value={String(at.point ?? '')}
      options={[
        { value: '', label: 'typed' },
        ...points.map((id) => ({ value: id, label: opName(doc, id) })),
      ]}
      onChange={(id) =>
        setInputs(op.id, { [field.name]: id ? { point: id } : { x: 0, y: 0, z: 0 } })
      }
    />
  )
  if ('point' in at) return choice
  return (
    <span className="flex flex-wrap gap-1">
      {points.length > 0 && choice}
      {(['x', 'y', 'z'] as const).map((k) => (
        <CommitInput
          key={k}
          aria-label={`${field.label} ${k}`}
          className="figures w-14 flex-1"
          value={String(at[k])}
          onCommit={(t) => {
            const v = typedValue(t, unit)
            if (v !== null) setInputs(op.id, { [field.name]: { ...at, [k]: v } })
          }}
        />
      ))}
    </span>
  )
}

function Refs({ op, field }: { op: Op; field: Field & { type: 'faces' | 'edges' } }) {
  const doc = useSession((s) => s.doc)!
  const picking = useSession((s) => s.picking)
  const on = picking?.op === op.id && picking.input === field.name
  const refs =
    (op.inputs[field.name] as ({ face: string } | { edge: [string, string] })[] | undefined) ?? []
  const word = (r: (typeof refs)[number]) =>
    'face' in r
      ? faceName(doc, r.face)
      : `${faceName(doc, r.edge[0])} / ${faceName(doc, r.edge[1])}`
  return (
    <div className="flex min-w-0 flex-col items-start gap-1">
      <Button
        aria-pressed={on}
        className={on ? 'border-brass! bg-brass-wash!' : ''}
        onClick={() =>
          useSession.setState({
            picking: on ? null : { op: op.id, input: field.name, what: field.type },
          })
        }
      >
        <MousePointerClick size={14} aria-hidden="true" />
        {on ? 'Done picking' : `Pick ${field.type}`}
      </Button>
      <ul className="w-full">
        {refs.map((r, i) => (
          <li
            key={JSON.stringify(r)}
            className="flex items-baseline gap-1 border-rule/60 border-b text-sm"
          >
            <span className="min-w-0 flex-1 break-words">{word(r)}</span>
            <button
              type="button"
              aria-label={`Take out ${word(r)}`}
              className="text-soft hover:text-out"
              onClick={() => setInputs(op.id, { [field.name]: refs.filter((_, k) => k !== i) })}
            >
              <X size={13} />
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

/** The span of values that hold, before anything is tried, and what stops it. */
function Range({ op, input }: { op: Op; input: string }) {
  const doc = useSession((s) => s.doc)!
  const dragging = useSession((s) => s.dragFrom !== null)
  const at = doc.route.findIndex((o) => o.id === op.id)
  const { [input]: _own, ...others } = op.inputs
  const query = useQuery({
    queryKey: [
      'range',
      doc.id,
      op.id,
      input,
      JSON.stringify([doc.figures, doc.route.slice(0, at), others]),
    ],
    queryFn: () => lathe.call('range', { doc, op: op.id, input }),
    enabled: !dragging,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  })
  const r = query.data
  if (!r)
    return (
      <p className="col-span-2 text-soft text-sm">
        {query.isFetching
          ? 'Working out the range…'
          : 'The range shows once its inputs are chosen.'}
      </p>
    )
  // Rounded down, so that the shown value itself holds.
  const most = Math.floor(r.max * 1000) / 1000
  return (
    <div
      className="col-span-2 mt-1 border-brass border-l-2 bg-sheet px-2 py-1 text-sm"
      data-testid="range"
    >
      <div className="flex items-center gap-2">
        <span className="whitespace-nowrap">
          holds up to{' '}
          <span className="figures font-medium">{sayLengths(`${most} mm`, doc.unit)}</span>
        </span>
        <span className="relative h-1.5 flex-1 rounded-full bg-shade" aria-hidden="true">
          <span
            className="absolute inset-y-0 left-0 rounded-full bg-holds"
            style={{ width: `${Math.min(100, (100 * r.max) / Math.max(r.max * 1.35, 1e-9))}%` }}
          />
        </span>
        <Button
          className="px-1.5! py-0! text-sm"
          disabled={most <= 0}
          onClick={() => setInputs(op.id, { [input]: most })}
        >
          Use the largest
        </Button>
      </div>
      {r.blocker && (
        <p className="text-soft">{sayLengths(faceSentence(r.blocker.message, doc), doc.unit)}</p>
      )}
      {!r.blocker && <p className="text-soft">Nothing blocks it up to the size of the section.</p>}
    </div>
  )
}

/** Puts names for people in the place of provenance names in a sentence. */
const faceSentence = (text: string, doc: Parameters<typeof faceName>[0]): string =>
  text.replace(/\b[A-Za-z][\w-]*:[^\s]+(?= is used up|\.)/g, (name) => faceName(doc, name))
