import { freshId } from '@ivory/core/math'
import { type Field, opSpec, withDefaults } from '@ivory/core/ops'
import { insertOp, type Op } from '@ivory/core/workpiece'
import { memo, useMemo } from 'react'
import { useStagePace } from '../../session/pace'
import { edit, useSelectedOp, useSession } from '../../session/session'
import { Button, CommitInput } from '../../ui/controls'
import { DrawingFields } from '../drawing/DrawingFields'
import { FieldInput } from '../fields/FieldInput'
import { Diagnoses } from './Diagnoses'
import { Range } from './Range'
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
        <CommitInput
          aria-label="Note on the op"
          className="mt-1 w-full text-sm"
          placeholder="A note on it"
          maxLength={500}
          value={op.note ?? ''}
          onCommit={(t) =>
            edit((d) => {
              const own = d.route.find((o) => o.id === op.id)
              if (!own) return
              if (t.trim()) own.note = t.trim().slice(0, 500)
              else delete own.note
            })
          }
        />
      </div>
      {report && <Diagnoses report={report} />}
      {spec.fields.map((f) => (
        // The same input may be asked for in other words where another way is chosen.
        <FieldRow key={`${f.name} ${f.label} ${f.help}`} op={op} field={f} />
      ))}
      {op.kind === 'split' && op.inputs.how === 'height' && <KeepPlane op={op} />}
    </div>
  )
}

/** Puts a datum plane before the split where it parts, for others to use too. */
function KeepPlane({ op }: { op: Op }) {
  const body = useSession((s) => s.settled?.bodies.find((b) => b.id === op.inputs.body))
  const keep = () =>
    edit((d) => {
      const index = d.route.findIndex((o) => o.id === op.id)
      const taken = [...d.route.map((o) => o.id), 'front', 'side', 'top']
      const id = freshId(taken, 'plane')
      // The body's heights count from where its drawing has 0, which may lie off the top plane.
      const off = body?.frame.origin[2] ?? 0
      const height = op.inputs.height!
      const offset = Math.abs(off) < 1e-9 ? height : `(${height}) + ${off} mm`
      const inputs = { how: 'offset', from: 'top', offset }
      const name = `Plane of ${op.name}`.slice(0, 80)
      d.route = insertOp(d.route, index - 1, { id, kind: 'plane', name, inputs })
      const split = d.route.find((o) => o.id === op.id)!
      split.inputs.how = 'plane'
      split.inputs.plane = id
      delete split.inputs.height
    })
  return (
    <Button className="self-start" onClick={keep}>
      Keep this height as a datum plane
    </Button>
  )
}

const FieldRow = memo(function FieldRow({ op, field }: { op: Op; field: Field }) {
  if (field.type === 'drawing') return <DrawingFields op={op} />
  if (field.when && !field.when(op.inputs)) return null
  return (
    <div className="grid grid-cols-[6.5rem_1fr] items-baseline gap-x-2">
      <span title={field.help}>{field.label}</span>
      <FieldInput op={op} field={field} />
      {field.type === 'value' && field.ranged && (
        <Range op={op} input={field.name} dim={field.dim} />
      )}
    </div>
  )
})
