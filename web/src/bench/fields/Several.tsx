import type { Field } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import { setInputs, useSession } from '../../session/session'
import { opName } from '../names'

const NONE = {
  bodies: 'There is no other body yet.',
  profiles: 'There is no profile yet.',
  paths: 'There is no path yet.',
  planes: 'There is no other plane.',
  ops: 'No op has added to this body or taken from it.',
} as const

/** Several bodies, profiles, planes or ops: ticked in a list of those that are there. */
export function Several({
  op,
  field,
}: {
  op: Op
  field: Field & { type: 'bodies' | 'profiles' | 'paths' | 'planes' | 'ops' }
}) {
  const available = useSession((s) => s.settled?.available[op.id])
  const doc = useSession((s) => s.doc)
  const chosen = (op.inputs[field.name] as string[] | undefined) ?? []
  // What the op has in its single field is not offered again.
  const others =
    field.type === 'bodies'
      ? (available?.bodies ?? []).filter((b) => b.id !== op.inputs.body)
      : (field.type === 'ops'
          ? (available?.ops ?? []).filter((o) => o.body === op.inputs.body).map((o) => o.id)
          : (available?.[field.type] ?? []).filter(
              (id) => field.type !== 'planes' || id !== op.inputs.plane,
            )
        ).map((id) => ({ id, name: opName(doc, id) }))
  /** Ops are done again in the order of the route, other things as they were ticked. */
  const inOrder = (ids: string[]) =>
    field.type === 'ops' ? others.map((o) => o.id).filter((id) => ids.includes(id)) : ids
  if (others.length === 0) return <span className="text-soft">{NONE[field.type]}</span>
  return (
    <fieldset className="flex flex-col">
      <legend className="sr-only">{field.label}</legend>
      {others.map((b) => (
        <label key={b.id} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={chosen.includes(b.id)}
            onChange={(e) =>
              setInputs(op.id, {
                [field.name]: e.target.checked
                  ? inOrder([...chosen, b.id])
                  : chosen.filter((id) => id !== b.id),
              })
            }
          />
          {b.name}
        </label>
      ))}
    </fieldset>
  )
}
