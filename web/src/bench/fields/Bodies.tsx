import type { Op } from '@ivory/core/workpiece'
import { setInputs, useSession } from '../../session/session'

/** Bodies that act on another: ticked in a list of those that are there. */
export function Bodies({ op, name, label }: { op: Op; name: string; label: string }) {
  const available = useSession((s) => s.settled?.available[op.id]?.bodies) ?? []
  const chosen = (op.inputs[name] as string[] | undefined) ?? []
  const others = available.filter((b) => b.id !== op.inputs.body)
  if (others.length === 0) return <span className="text-soft">There is no other body yet.</span>
  return (
    <fieldset className="flex flex-col">
      <legend className="sr-only">{label}</legend>
      {others.map((b) => (
        <label key={b.id} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={chosen.includes(b.id)}
            onChange={(e) =>
              setInputs(op.id, {
                [name]: e.target.checked ? [...chosen, b.id] : chosen.filter((id) => id !== b.id),
              })
            }
          />
          {b.name}
        </label>
      ))}
    </fieldset>
  )
}
