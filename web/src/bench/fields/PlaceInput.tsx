import type { Field } from '@ivory/core/ops'
import type { Value } from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import { setInputs, useSession } from '../../session/session'
import { typedValue } from '../../table/drawing/typed'
import { Choice, CommitInput } from '../../ui/controls'
import { opName } from '../names'

/** A datum point, or three coordinates, each a number or an expression. */
export function PlaceInput({ op, field }: { op: Op; field: Field }) {
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
