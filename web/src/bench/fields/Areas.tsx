import type { Op } from '@ivory/core/workpiece'
import { setInputs, useSession } from '../../session/session'
import { Button } from '../../ui/controls'

/** How many areas are chosen on the Table; what is turned shows its drawing there only when asked. */
export function Areas({ op, name }: { op: Op; name: string }) {
  const choosing = useSession((s) => s.choosing?.op === op.id)
  const count = (op.inputs[name] as unknown[] | undefined)?.length ?? 0
  const there = op.kind === 'extrude'
  return (
    <span className="flex flex-wrap items-baseline gap-2 text-soft">
      {count > 0
        ? `${count} chosen on the Table`
        : there
          ? 'all enclosed; click areas on the Table'
          : 'all enclosed'}
      {!there && (
        <Button
          className="py-0!"
          aria-pressed={choosing}
          onClick={() => useSession.setState({ choosing: choosing ? null : { op: op.id } })}
        >
          {choosing ? 'Done choosing' : 'Choose on the Table'}
        </Button>
      )}
      {count > 0 && (
        <Button className="py-0!" onClick={() => setInputs(op.id, { [name]: [] })}>
          All
        </Button>
      )}
    </span>
  )
}
