import { GAUGES } from '@ivory/core/gauges'
import { Trash2 } from 'lucide-react'
import { CHARTS } from '../../charts/kinds'
import { addGauge, measureBetween } from '../../session/measuring'
import { edit, useSession } from '../../session/session'
import { Button, Choice, CommitInput, IconButton } from '../../ui/controls'
import { typedNumber } from '../../ui/number'
import { thingName } from '../names'
import { SolveFor } from './SolveFor'

/** Which gauges stand on the bench, on which body and within which limits; and solving for a reading. */
export function GaugeSheet() {
  const doc = useSession((s) => s.doc)!
  const bodies = useSession((s) => s.settled?.bodies) ?? []
  const measuring = useSession((s) => s.measuring)
  const add = (kind: string) =>
    edit((d) => {
      const spec = GAUGES[kind]!
      const params = Object.fromEntries(spec.params.map((p) => [p.name, p.start]))
      addGauge(d, { kind, params })
    })
  return (
    <div className="flex flex-col gap-4 p-3">
      <SolveFor />
      <section aria-label="Gauges on the bench">
        <h2 className="mb-1 font-medium text-lg">Gauges on the bench</h2>
        <ul>
          {doc.gauges.map((g, i) => (
            <li key={g.id} className="border-rule/60 border-b py-1.5">
              <div className="flex items-center gap-1">
                <span className="flex-1 font-medium">{GAUGES[g.kind]?.label ?? g.kind}</span>
                {bodies.length > 1 && (
                  <Choice
                    label="Body"
                    value={g.body ?? bodies[0]!.id}
                    options={bodies.map((b) => ({ value: b.id, label: b.name }))}
                    onChange={(v) =>
                      edit((d) => {
                        d.gauges[i]!.body = v
                      })
                    }
                  />
                )}
                <IconButton
                  label="Take the gauge away"
                  onClick={() => edit((d) => void d.gauges.splice(i, 1))}
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
              <p className="text-soft text-sm">{GAUGES[g.kind]?.help}</p>
              {GAUGES[g.kind]?.picks && (
                <p className="text-sm">
                  {measuring?.gauge === g.id ? (
                    `Click the ${measuring.next === 'face' ? 'first' : 'second'} face, edge or corner on the Stage.`
                  ) : (
                    <>
                      {[g.params.face, g.params.with]
                        .map((f) => (f ? thingName(doc, String(f)) : 'none'))
                        .join(' to ')}{' '}
                      <Button
                        className="py-0!"
                        onClick={() =>
                          useSession.setState({ measuring: { gauge: g.id, next: 'face' } })
                        }
                      >
                        Pick again
                      </Button>
                    </>
                  )}
                </p>
              )}
              {GAUGES[g.kind]?.pair && bodies.length > 1 && (
                <Choice
                  label="To"
                  value={String(g.params.other ?? '')}
                  options={[
                    { value: '', label: 'to all others' },
                    ...bodies.map((b) => ({ value: b.id, label: `to ${b.name}` })),
                  ]}
                  onChange={(v) =>
                    edit((d) => {
                      d.gauges[i]!.params = v ? { other: v } : {}
                    })
                  }
                />
              )}
              <div className="mt-1 flex flex-wrap items-center gap-2 text-sm">
                {(['min', 'max'] as const).map((side) => (
                  <label key={side} className="flex items-center gap-1">
                    {side === 'min' ? 'at least' : 'at most'}
                    <CommitInput
                      className="figures w-16"
                      placeholder={String(
                        (GAUGES[g.kind]?.target &&
                          doc.brief.targets[GAUGES[g.kind]!.target!]?.[side]) ??
                          '',
                      )}
                      value={g.limits?.[side] === undefined ? '' : String(g.limits[side])}
                      onCommit={(t) =>
                        edit((d) => {
                          const gauge = d.gauges[i]!
                          const limits = { ...gauge.limits, [side]: typedNumber(t) ?? undefined }
                          if (limits[side] === undefined) delete limits[side]
                          if (Object.keys(limits).length > 0) gauge.limits = limits
                          else delete gauge.limits
                        })
                      }
                    />
                  </label>
                ))}
                <span className="text-soft">{GAUGES[g.kind]?.unit}</span>
                {GAUGES[g.kind]?.params.map((p) => (
                  <label key={p.name} className="flex items-center gap-1" title={p.help}>
                    {p.label}
                    <CommitInput
                      className="figures w-14"
                      value={String(g.params[p.name] ?? p.start)}
                      onCommit={(t) =>
                        edit((d) => {
                          d.gauges[i]!.params[p.name] = typedNumber(t) ?? p.start
                        })
                      }
                    />
                  </label>
                ))}
              </div>
            </li>
          ))}
        </ul>
        <h2 className="mt-4 mb-1 font-medium text-lg">Charts</h2>
        <div className="flex flex-wrap gap-1">
          {CHARTS.map(({ kind, label }) => (
            <Button
              key={kind}
              className="py-0! text-sm"
              disabled={bodies.length === 0 && kind !== 'bending'}
              onClick={() => useSession.setState({ chart: { body: bodies[0]?.id ?? '', kind } })}
            >
              {label}
            </Button>
          ))}
        </div>
        <h2 className="mt-4 mb-1 font-medium text-lg">More gauges</h2>
        <div className="flex flex-wrap gap-1">
          {Object.values(GAUGES).map((g) => (
            <Button
              key={g.kind}
              className="py-0! text-sm"
              onClick={() => (g.picks ? measureBetween() : add(g.kind))}
            >
              + {g.label}
            </Button>
          ))}
        </div>
      </section>
    </div>
  )
}
