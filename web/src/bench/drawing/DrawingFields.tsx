import { mm } from '@ivory/core/math'
import type { Drawing } from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import { Trash2 } from 'lucide-react'
import { drawingOf, setInputs, useSession } from '../../session/session'
import { setCoordinate } from '../../table/dimensions/Dimensions'
import { removeFrom } from '../../table/drawing/edits'
import { CommitInput, IconButton } from '../../ui/controls'
import { EntityFields } from './EntityFields'
import { HoldPanel } from './HoldPanel'
import { PictureFields } from './PictureFields'
import { ReshapePanel } from './ReshapePanel'

/** A drawing by its numbers: every point's place and every piece, for typing instead of dragging. */
export function DrawingFields({ op }: { op: Op }) {
  const profile = useSession((s) => s.settled?.profiles.find((p) => p.id === op.id))
  const drawn = useSession((s) => s.drawn)
  const drawing = drawingOf(op)
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
                          ? mm(profile?.points[id]?.[axis === 'x' ? 0 : 1] ?? Number.NaN)
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
