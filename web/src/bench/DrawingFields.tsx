import { type Drawing, drawingSchema, type Entity } from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import { Trash2 } from 'lucide-react'
import { setInputs, useSession } from '../session/session'
import { setCoordinate } from '../table/Dimensions'
import { insertPoint, removeFrom } from '../table/edits'
import { Button, Choice, CommitInput, IconButton } from '../ui/controls'
import { HoldPanel } from './HoldPanel'
import { PictureFields } from './PictureFields'
import { ReshapePanel } from './ReshapePanel'

/** A drawing by its numbers: every point's place and every piece, for typing instead of dragging. */
export function DrawingFields({ op }: { op: Op }) {
  const profile = useSession((s) => s.settled?.profiles.find((p) => p.id === op.id))
  const drawn = useSession((s) => s.drawn)
  const drawing = op.inputs.drawing as Drawing
  const put = (next: Drawing) => setInputs(op.id, { drawing: next })
  const choose = (sel: { points?: string[]; entities?: string[] }) =>
    useSession.setState({ drawn: { points: sel.points ?? [], entities: sel.entities ?? [] } })
  const entity = drawing.entities.find((e) => drawn.entities.includes(e.id))
  return (
    <div className="flex flex-col gap-3">
      {entity && (
        <section
          aria-label="Selected piece"
          className="border-brass border-l-2 bg-sheet px-2 py-1.5"
        >
          <div className="flex items-center justify-between">
            <h3 className="font-medium">{entity.id}</h3>
            <IconButton
              label="Delete the piece"
              onClick={() => put(removeFrom(drawing, [entity.id], []))}
            >
              <Trash2 size={14} />
            </IconButton>
          </div>
          <EntityFields entity={entity} drawing={drawing} put={put} where={profile?.points ?? {}} />
        </section>
      )}
      {profile && <HoldPanel op={op} profile={profile} />}
      {profile && <ReshapePanel op={op} profile={profile} />}
      {profile && <PictureFields op={op} profile={profile} />}
      <details open={drawing.dimensions === undefined}>
        <summary className="cursor-pointer font-medium">Points</summary>
        <table className="mt-1 w-full text-sm">
          <thead>
            <tr className="text-left text-soft">
              <th className="pr-3 font-normal">point</th>
              <th className="font-normal">from axis</th>
              <th className="font-normal">height</th>
            </tr>
          </thead>
          <tbody>
            {Object.entries(drawing.points).map(([id, p]) => (
              <tr key={id} className={drawn.points.includes(id) ? 'bg-brass-wash' : ''}>
                <td>
                  <button
                    type="button"
                    className="figures hover:text-brass"
                    onClick={() => choose({ points: [id] })}
                  >
                    {id}
                  </button>
                </td>
                {(['x', 'y'] as const).map((axis) => (
                  <td key={axis} className="py-px pr-1">
                    <CommitInput
                      aria-label={`${id} ${axis === 'x' ? 'from axis' : 'height'}`}
                      value={String(p[axis])}
                      title={
                        typeof p[axis] === 'string'
                          ? `${profile?.points[id]?.[axis === 'x' ? 0 : 1]?.toFixed(3) ?? ''} mm`
                          : 'mm'
                      }
                      className="figures w-full"
                      onCommit={(t) => setCoordinate(op.id, id, axis, t)}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </details>
      <details open>
        <summary className="cursor-pointer font-medium">Pieces</summary>
        <ul className="mt-1 flex flex-wrap gap-1">
          {drawing.entities.map((e) => (
            <li key={e.id}>
              <button
                type="button"
                aria-pressed={drawn.entities.includes(e.id)}
                className="figures rounded-sm border border-rule bg-sheet px-1.5 aria-pressed:border-brass aria-pressed:bg-brass-wash"
                onClick={(ev) =>
                  choose({ entities: ev.shiftKey ? [...drawn.entities, e.id] : [e.id] })
                }
              >
                {e.id}
                {e.construction ? ' (aid)' : ''}
              </button>
            </li>
          ))}
        </ul>
      </details>
    </div>
  )
}

const HOLDS = [
  { value: 'auto', label: 'flows through' },
  { value: 'level', label: 'held level' },
  { value: 'upright', label: 'held upright' },
  { value: 'free', label: 'as dragged' },
]

function EntityFields({
  entity,
  drawing,
  put,
  where,
}: {
  entity: Entity
  drawing: Drawing
  put(d: Drawing): void
  where: Record<string, readonly [number, number]>
}) {
  const replace = (e: Entity) => {
    const next = { ...drawing, entities: drawing.entities.map((x) => (x.id === entity.id ? e : x)) }
    if (drawingSchema.safeParse(next).success) put(next)
  }
  const middle = (a: string, b: string): [number, number] => {
    const [p, q] = [where[a] ?? [0, 0], where[b] ?? [0, 0]]
    return [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]
  }
  return (
    <div className="flex flex-col gap-1.5 text-sm">
      {entity.kind !== 'axis' && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={Boolean(entity.construction)}
            onChange={(e) => {
              const { construction: _, ...rest } = entity
              replace(e.target.checked ? { ...entity, construction: true } : (rest as Entity))
            }}
          />
          construction aid only
        </label>
      )}
      {entity.kind === 'circle' && (
        <label className="flex items-center gap-2">
          radius
          <CommitInput
            className="figures w-28"
            value={String(entity.radius)}
            onCommit={(t) =>
              replace({ ...entity, radius: Number.isFinite(Number(t)) ? Number(t) : t })
            }
          />
        </label>
      )}
      {entity.kind === 'poles' && (
        <Choice
          label="Degree"
          value={String(entity.degree)}
          options={[1, 2, 3, 4, 5]
            .filter((n) => n < entity.points.length)
            .map((n) => ({ value: String(n), label: `degree ${n}` }))}
          onChange={(v) => replace({ ...entity, degree: Number(v) })}
        />
      )}
      {entity.kind === 'fit' &&
        entity.points.map((p, i) => (
          <div key={p} className="flex items-center gap-2">
            <span className="figures w-10">{p}</span>
            <Choice
              label={`Handle at ${p}`}
              value={entity.handles[i]!.hold}
              options={HOLDS}
              onChange={(hold) => {
                const h =
                  hold === 'free'
                    ? { hold, d: [10, 0] as [number, number] }
                    : { hold: hold as 'auto' }
                replace({
                  ...entity,
                  handles: entity.handles.map((x, k) => (k === i ? h : x)) as typeof entity.handles,
                })
              }}
            />
          </div>
        ))}
      {entity.kind === 'line' && (
        <Button
          className="self-start py-0!"
          onClick={() => put(insertPoint(drawing, entity.id, middle(entity.a, entity.b), 0))}
        >
          Put a point in the middle
        </Button>
      )}
      {(entity.kind === 'fit' || entity.kind === 'poles') && (
        <Button
          className="self-start py-0!"
          onClick={() =>
            put(insertPoint(drawing, entity.id, middle(entity.points[0]!, entity.points[1]!), 0))
          }
        >
          Put a point after the first
        </Button>
      )}
    </div>
  )
}
