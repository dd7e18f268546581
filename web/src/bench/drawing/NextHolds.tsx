import {
  applicable,
  DIMENSIONS,
  type Drawing,
  RELATIONS,
  type Relation,
  withHolds,
} from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import type { ProfileView } from '../../engine'
import { setInputs, useSession } from '../../session/session'
import { looseFrom, typedAs, withDimension } from '../../table/drawing/holding'
import { Button } from '../../ui/controls'

/** The relations and dimensions that fit what is chosen on the table. */
export function NextHolds({
  op,
  drawing,
  profile,
}: {
  op: Op
  drawing: Drawing
  profile: ProfileView
}) {
  const drawn = useSession((s) => s.drawn)
  if (drawn.points.length + drawn.entities.length === 0)
    return (
      <p className="text-soft text-sm">
        Choose points and pieces (Shift for several) to hold them.
      </p>
    )
  const refs = { points: drawn.points, entities: drawn.entities }
  const there =
    refs.points.every((p) => p in drawing.points) &&
    refs.entities.every((e) => drawing.entities.some((x) => x.id === e))
  if (!there) return null
  const loose = looseFrom(drawing, profile)
  if (!loose) return null
  const fits = applicable(loose, refs)
  const toAxis =
    refs.points.length > 0 && refs.entities.length === 0
      ? applicable(loose, { ...refs, entities: ['axis'] }).relations.filter(
          (k) => k === 'on' || k === 'symmetric',
        )
      : []
  const hold = (kind: Relation['kind'], r = refs) =>
    setInputs(op.id, { drawing: withHolds(drawing, [{ kind, ...r }]) })
  const base = refs.points.length === 1 && refs.entities.length === 0
  return (
    <fieldset className="border border-rule px-2 pb-1.5">
      <legend className="px-1 text-sm">Hold {[...refs.points, ...refs.entities].join(', ')}</legend>
      <div className="flex flex-wrap gap-1">
        {fits.relations.map((kind) => (
          <Button key={kind} className="py-0! text-sm" onClick={() => hold(kind)}>
            {RELATIONS[kind].label}
          </Button>
        ))}
        {toAxis.map((kind) => (
          <Button
            key={`axis-${kind}`}
            className="py-0! text-sm"
            onClick={() => hold(kind, { ...refs, entities: ['axis'] })}
          >
            {kind === 'on' ? 'On the axis' : `${RELATIONS[kind].label} in the axis`}
          </Button>
        ))}
        {base && (
          <Button
            className="py-0! text-sm"
            onClick={() => hold('level', { points: [refs.points[0]!, 'origin'], entities: [] })}
          >
            On the base line
          </Button>
        )}
        {fits.dimensions.map(({ kind, measure }) => (
          <Button
            key={kind}
            className="border-brass! py-0! text-sm"
            onClick={() =>
              setInputs(op.id, { drawing: withDimension(drawing, kind, refs, measure).drawing })
            }
          >
            {DIMENSIONS[kind].label} <span className="figures">{typedAs(kind, measure)}</span>
          </Button>
        ))}
        {base && <FromBase op={op} drawing={drawing} profile={profile} point={refs.points[0]!} />}
      </div>
    </fieldset>
  )
}

/** The height of a point over the base line, as a dimension from the origin. */
function FromBase({
  op,
  drawing,
  profile,
  point,
}: {
  op: Op
  drawing: Drawing
  profile: ProfileView
  point: string
}) {
  const height = Math.abs(profile.points[point]?.[1] ?? 0)
  const refs = { points: ['origin', point], entities: [] }
  return (
    <Button
      className="border-brass! py-0! text-sm"
      onClick={() =>
        setInputs(op.id, { drawing: withDimension(drawing, 'upright', refs, height).drawing })
      }
    >
      Height <span className="figures">{typedAs('upright', height)}</span>
    </Button>
  )
}
