import type { Op } from '@ivory/core/workpiece'
import { X } from 'lucide-react'
import { setInputs, useSession } from '../../session/session'
import { type HoldDoc, holdsOf, newHold, stopsOf } from '../../session/tracing'
import { typedValue } from '../../table/drawing/typed'
import { Button, Choice, CommitInput } from '../../ui/controls'
import { faceName, opName } from '../names'

const KINDS = [
  { value: 'along', label: 'runs along' },
  { value: 'apart', label: 'is apart from' },
  { value: 'plane', label: 'lies in' },
  { value: 'equal', label: 'as long as' },
  { value: 'parallel', label: 'parallel to' },
  { value: 'angle', label: 'at an angle to' },
  { value: 'square', label: 'square to a face' },
]
const AXES = ['x', 'y', 'z'].map((value) => ({ value, label: value }))

/** What holds between the places of a path: one row each, made and let go one by one. */
export function Holds({ op }: { op: Op }) {
  const doc = useSession((s) => s.doc)
  const available = useSession((s) => s.settled?.available[op.id])
  const picking = useSession((s) => s.picking?.op === op.id && s.picking.input === 'holds')
  const unit = doc?.unit ?? 'mm'
  const holds = holdsOf(op)
  const count = stopsOf(op).length
  const put = (next: HoldDoc[]) => setInputs(op.id, { holds: next })
  const amend = (i: number, change: object) =>
    put(holds.map((h, k) => (k === i ? ({ ...h, ...change } as HoldDoc) : h)))
  const add = (kind: string) => {
    if (kind === 'square') {
      const body = available?.bodies.at(-1)?.id
      if (body)
        useSession.setState({
          picking: {
            op: op.id,
            input: 'holds',
            what: 'faces',
            body,
            as: { kind: 'square', place: count },
          },
        })
      return
    }
    put([...holds, newHold(kind, count)])
  }
  const places = Array.from({ length: count }, (_, k) => ({
    value: String(k + 1),
    label: String(k + 1),
  }))
  const named = (kind: 'axes' | 'planes') =>
    (available?.[kind] ?? []).map((id) => ({ value: id, label: opName(doc, id) }))
  return (
    <div className="flex min-w-0 flex-col gap-1">
      <ol className="flex flex-col gap-1">
        {holds.map((h, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: holds are told apart by their order
          <li key={i} data-testid="path-hold" className="flex flex-wrap items-center gap-1">
            <span className="text-soft">
              {h.kind === 'apart' || h.kind === 'plane' ? '' : 'to'}
            </span>
            <Choice
              label={`Place of hold ${i + 1}`}
              value={String(h.place)}
              options={places}
              onChange={(v) => amend(i, { place: Number(v) })}
            />
            <span>{KINDS.find((k) => k.value === h.kind)!.label}</span>
            {'other' in h && (
              <Choice
                label={`Other place of hold ${i + 1}`}
                value={String(h.other)}
                options={places}
                onChange={(v) => amend(i, { other: Number(v) })}
              />
            )}
            {h.kind === 'along' && (
              <Choice
                label={`Axis of hold ${i + 1}`}
                value={h.axis}
                options={[...AXES, ...named('axes')]}
                onChange={(axis) => amend(i, { axis })}
              />
            )}
            {h.kind === 'plane' && (
              <Choice
                label={`Plane of hold ${i + 1}`}
                value={h.plane}
                options={named('planes')}
                onChange={(plane) => amend(i, { plane })}
              />
            )}
            {h.kind === 'square' && (
              <span className="min-w-0 flex-1 truncate text-soft">
                {faceName(doc!, h.face.face)}
              </span>
            )}
            {h.kind === 'apart' && (
              <Choice
                label={`Way of hold ${i + 1}`}
                value={h.along ?? 'any'}
                options={[{ value: 'any', label: 'straight' }, ...AXES]}
                onChange={(along) => amend(i, { along })}
              />
            )}
            {'value' in h && (
              <CommitInput
                aria-label={`Value of hold ${i + 1}`}
                className="figures w-16"
                value={String(h.value)}
                onCommit={(t) => {
                  const value = h.kind === 'angle' ? t.trim() : typedValue(t, unit)
                  if (value !== null && value !== '') amend(i, { value })
                }}
              />
            )}
            <button
              type="button"
              aria-label={`Let go of hold ${i + 1}`}
              className="ml-auto text-soft hover:text-out"
              onClick={() => put(holds.filter((_, k) => k !== i))}
            >
              <X size={13} />
            </button>
          </li>
        ))}
      </ol>
      {picking ? (
        <Button
          className="border-brass! bg-brass-wash!"
          onClick={() => useSession.setState({ picking: null })}
        >
          Pick a face on the Stage, or leave it
        </Button>
      ) : (
        <Choice
          label="Add a hold"
          value=""
          options={[
            { value: '', label: 'hold…' },
            ...KINDS.filter((k) => k.value !== 'square' || available?.bodies.length),
          ]}
          onChange={(v) => v && add(v)}
        />
      )}
    </div>
  )
}
