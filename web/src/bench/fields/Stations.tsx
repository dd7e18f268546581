import type { Op } from '@ivory/core/workpiece'
import { Plus, X } from 'lucide-react'
import { Fragment } from 'react'
import { setInputs, useSession } from '../../session/session'
import { typedValue } from '../../table/drawing/typed'
import { Button, Choice, CommitInput } from '../../ui/controls'
import { opName } from '../names'

type StationDoc = Record<'fraction' | 'width' | 'height' | 'turn', number | string> & {
  profile?: string
}
const COLUMNS = [
  { key: 'fraction', label: 'at', title: 'Share of the way, 0 to 1' },
  { key: 'width', label: 'width', title: 'As a factor' },
  { key: 'height', label: 'height', title: 'As a factor' },
  { key: 'turn', label: 'turned', title: 'About the path' },
] as const

/** Stations of a sweep: where the section is how wide, how high and how much turned, or another drawing. */
export function Stations({ op }: { op: Op }) {
  const doc = useSession((s) => s.doc)
  const unit = doc?.unit ?? 'mm'
  const drawings = useSession((s) => s.settled?.available[op.id]?.profiles) ?? []
  const stations = (op.inputs.stations as StationDoc[] | undefined) ?? []
  const put = (next: StationDoc[]) => setInputs(op.id, { stations: next })
  const last = stations.at(-1)
  return (
    <div className="flex min-w-0 flex-col items-start gap-1">
      {stations.length > 0 && (
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-soft">
              {COLUMNS.map((c) => (
                <th key={c.key} className="font-normal" title={c.title}>
                  {c.label}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {stations.map((s, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: stations are told apart by their order
              <Fragment key={i}>
                <tr>
                  {COLUMNS.map((c) => (
                    <td key={c.key}>
                      <CommitInput
                        aria-label={`Station ${i + 1} ${c.label}`}
                        className="figures w-full"
                        value={String(s[c.key])}
                        onCommit={(t) => {
                          const v = typedValue(t, unit === 'in' && c.key !== 'turn' ? 'mm' : unit)
                          if (v !== null)
                            put(stations.map((o, k) => (k === i ? { ...o, [c.key]: v } : o)))
                        }}
                      />
                    </td>
                  ))}
                  <td>
                    <button
                      type="button"
                      aria-label={`Take out station ${i + 1}`}
                      className="text-soft hover:text-out"
                      onClick={() => put(stations.filter((_, k) => k !== i))}
                    >
                      <X size={13} />
                    </button>
                  </td>
                </tr>
                {drawings.length > 0 && (
                  <tr>
                    <td colSpan={COLUMNS.length + 1} className="pb-1">
                      <Choice
                        label={`Station ${i + 1} drawn as`}
                        value={s.profile ?? ''}
                        options={[
                          { value: '', label: 'drawn as before it' },
                          ...drawings.map((id) => ({ value: id, label: opName(doc, id) })),
                        ]}
                        onChange={(profile) =>
                          put(
                            stations.map((o, k) => {
                              if (k !== i) return o
                              const { profile: _, ...rest } = o
                              return profile ? { ...rest, profile } : rest
                            }),
                          )
                        }
                      />
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </table>
      )}
      <Button
        onClick={() => put([...stations, { fraction: last ? 1 : 0, width: 1, height: 1, turn: 0 }])}
      >
        <Plus size={14} aria-hidden="true" /> Station
      </Button>
    </div>
  )
}
