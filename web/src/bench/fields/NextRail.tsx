import { fixed, freshId, rounded } from '@ivory/core/math'
import { insertOp, type Op } from '@ivory/core/workpiece'
import { edit, useSession } from '../../session/session'
import { Button } from '../../ui/controls'

/** Where a skin bends most between its sections, and a rail that would lead it through there. */
export function NextRail({ op }: { op: Op }) {
  const next = useSession((s) => s.settled?.reports.find((r) => r.id === op.id)?.shown?.next)
  const rails = (op.inputs.rails as string[] | undefined) ?? []
  if (!next || op.inputs.centre || rails.length >= 8) return null
  const point = () => useSession.setState({ pointed: next.at })
  return (
    <p className="flex flex-wrap items-baseline gap-1 text-soft" data-testid="next-rail">
      <button type="button" className="text-left underline" onPointerEnter={point} onFocus={point}>
        Bends most between its sections
      </button>
      with a radius of {fixed(next.radius, 2)} mm.
      <Button className="py-0! text-sm" onClick={() => leadThrough(op, next.places)}>
        Draw a rail there
      </Button>
    </p>
  )
}

/** A path through places of all sections before the loft, and the loft led along it. */
function leadThrough(op: Op, places: readonly (readonly [number, number, number])[]): void {
  edit((d) => {
    const id = freshId([...d.route.map((o) => o.id), 'front', 'side', 'top'], 'path')
    const at = d.route.findIndex((o) => o.id === op.id)
    const count = d.route.filter((o) => o.kind === 'path').length + 1
    const stops = places.map(([x, y, z]) => ({
      x: rounded(x, 9),
      y: rounded(y, 9),
      z: rounded(z, 9),
      by: 'spline' as const,
    }))
    d.route = insertOp(d.route, at - 1, {
      id,
      kind: 'path',
      name: `Rail ${count}`,
      inputs: { how: 'stops', stops },
    })
    const loft = d.route.find((o) => o.id === op.id)!
    loft.inputs.rails = [...((loft.inputs.rails as string[] | undefined) ?? []), id]
  })
}
