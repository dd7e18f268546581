import { rounded } from '@ivory/core/math'
import { type Drawing, drawingSchema, type Entity } from '@ivory/core/profile'
import { sayIssue } from '@ivory/core/workpiece'
import { toast } from 'sonner'
import { useSession } from '../../session/session'
import { insertPoint } from '../../table/drawing/edits'
import { typedValue } from '../../table/drawing/typed'
import { Button, Choice, CommitInput } from '../../ui/controls'
import { typedNumber } from '../../ui/number'

type Fit = Extract<Entity, { kind: 'fit' }>
type Handle = Fit['handles'][number]

/** The ends and handles of a curve through points. */
function FitFields({ entity, replace }: { entity: Fit; replace(e: Entity): void }) {
  const put = (i: number, h: Handle) =>
    replace({ ...entity, handles: entity.handles.map((x, k) => (k === i ? h : x)) })
  return (
    <>
      <label className="flex items-center gap-2">
        ends
        <Choice
          label="What the curve does at its ends"
          value={entity.ends ?? 'natural'}
          options={[
            { value: 'natural', label: 'natural: run out straight' },
            { value: 'parabolic', label: 'parabolic: keep their bend' },
            { value: 'periodic', label: 'periodic: closed, no seam' },
          ]}
          onChange={(ends) => replace({ ...entity, ends: ends as Exclude<Fit['ends'], undefined> })}
        />
      </label>
      {entity.points.map((p, i) => {
        const h = entity.handles[i]!
        return (
          <div key={p} className="flex items-center gap-1">
            <span className="figures w-8">{p}</span>
            <Choice
              label={`Handle at ${p}`}
              className="flex-1"
              value={h.hold}
              options={HOLDS}
              onChange={(hold) =>
                put(i, hold === 'free' ? { hold, d: [10, 0] } : { hold: hold as 'auto' })
              }
            />
            {(h.hold === 'level' || h.hold === 'upright') && (
              <HandleNumber
                label={`Weight of the handle at ${p}`}
                value={h.weight ?? 1}
                onCommit={(weight) => put(i, { ...h, weight })}
              />
            )}
            {h.hold === 'free' &&
              ([0, 1] as const).map((k) => (
                <HandleNumber
                  key={k}
                  label={`Handle at ${p} ${k === 0 ? 'across' : 'up'}, mm`}
                  value={h.d[k]}
                  onCommit={(v) => put(i, { ...h, d: k === 0 ? [v, h.d[1]] : [h.d[0], v] })}
                />
              ))}
          </div>
        )
      })}
    </>
  )
}

function HandleNumber({
  label,
  value,
  onCommit,
}: {
  label: string
  value: number
  onCommit(v: number): void
}) {
  return (
    <CommitInput
      aria-label={label}
      title={label}
      className="figures w-14"
      value={String(rounded(value, 3))}
      onCommit={(t) => {
        const n = typedNumber(t)
        if (n !== null) onCommit(n)
      }}
    />
  )
}

const HOLDS = [
  { value: 'auto', label: 'flows through' },
  { value: 'level', label: 'held level' },
  { value: 'upright', label: 'held upright' },
  { value: 'free', label: 'as dragged' },
]

/** What can be set of one piece of a drawing. */
export function EntityFields({
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
  const unit = useSession((s) => s.doc?.unit ?? 'mm')
  const replace = (e: Entity) => {
    const next = { ...drawing, entities: drawing.entities.map((x) => (x.id === entity.id ? e : x)) }
    const checked = drawingSchema.safeParse(next)
    if (checked.success) put(next)
    else toast.error(`${entity.id} cannot be so: ${sayIssue(checked.error.issues[0]!)}.`)
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
            onCommit={(t) => {
              const radius = typedValue(t, unit)
              if (radius !== null) replace({ ...entity, radius })
            }}
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
          onChange={(v) => {
            // Knots given for another degree fit this one no more.
            const { knots: _, ...rest } = entity
            replace({ ...rest, degree: Number(v) })
          }}
        />
      )}
      {entity.kind === 'elliptic' && (
        <label className="flex items-center gap-2">
          sweep, deg
          <CommitInput
            className="figures w-20"
            value={String(entity.sweep)}
            onCommit={(t) => {
              const sweep = typedNumber(t)
              if (sweep !== null) replace({ ...entity, sweep })
            }}
          />
        </label>
      )}
      {entity.kind === 'fit' && <FitFields entity={entity} replace={replace} />}
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
