import type { Field } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import { MousePointerClick, X } from 'lucide-react'
import { setInputs, useSession } from '../../session/session'
import { typedValue } from '../../table/drawing/typed'
import { Button, CommitInput } from '../../ui/controls'
import { type Ref, refName } from '../names'

/** What is picked on the model, each to be taken out again. */
export function Refs({
  op,
  field,
}: {
  op: Op
  field: Field & { type: 'faces' | 'edges' | 'vertices' }
}) {
  const doc = useSession((s) => s.doc)!
  const picking = useSession((s) => s.picking)
  const on = picking?.op === op.id && picking.input === field.name
  const refs = (op.inputs[field.name] as Ref[] | undefined) ?? []
  const amend = (i: number, change: object) =>
    setInputs(op.id, { [field.name]: refs.map((r, k) => (k === i ? { ...r, ...change } : r)) })
  const word = (r: Ref) => refName(doc, r)
  const pick = `Pick ${field.type === 'vertices' ? 'a corner' : field.type}`
  return (
    <div className="flex min-w-0 flex-col items-start gap-1">
      <Button
        aria-pressed={on}
        aria-label={`${on ? 'Done picking' : pick}: ${field.label}`}
        className={on ? 'border-brass! bg-brass-wash!' : ''}
        onClick={() =>
          useSession.setState({
            picking: on ? null : { op: op.id, input: field.name, what: field.type },
          })
        }
      >
        <MousePointerClick size={14} aria-hidden="true" />
        {on ? 'Done picking' : pick}
      </Button>
      <ul className="w-full">
        {refs.map((r, i) => (
          <li
            key={JSON.stringify(r)}
            className="flex items-baseline gap-1 border-rule/60 border-b text-sm"
          >
            <span className="min-w-0 flex-1 break-words">
              {word(r)}
              {field.own && (
                <span className="flex gap-2">
                  {field.own.map((own) => (
                    <label key={own.name} className="flex items-baseline gap-1 text-soft">
                      {own.label}
                      <CommitInput
                        aria-label={`${own.label} of ${word(r)}`}
                        className="figures w-14"
                        placeholder="as below"
                        value={String((r as Record<string, unknown>)[own.name] ?? '')}
                        onCommit={(t) => {
                          const v = t.trim() === '' ? undefined : typedValue(t, doc.unit)
                          if (v !== null) amend(i, { [own.name]: v })
                        }}
                      />
                    </label>
                  ))}
                </span>
              )}
            </span>
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
