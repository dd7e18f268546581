import { GAUGES } from '@ivory/core/gauges'
import { fixed, rounded } from '@ivory/core/math'
import { expressionFor, type SolveReply } from '@ivory/core/rebuild'
import { useState } from 'react'
import { toast } from 'sonner'
import { EngineError, lathe } from '../../engine'
import { edit, logged, useSession } from '../../session/session'
import { Button, Choice, TextInput } from '../../ui/controls'

/** Finds the value of a figure at which a gauge reads what is wanted; shown first, applied as one step. */
export function SolveFor() {
  const doc = useSession((s) => s.doc)!
  const [gauge, setGauge] = useState('')
  const [figure, setFigure] = useState('')
  const [target, setTarget] = useState('')
  const [reply, setReply] = useState<SolveReply | string | null>(null)
  const [busy, setBusy] = useState(false)
  const gaugeId = doc.gauges.some((g) => g.id === gauge) ? gauge : (doc.gauges[0]?.id ?? '')
  const figureName = doc.figures.some((f) => f.name === figure)
    ? figure
    : (doc.figures[0]?.name ?? '')
  const unit = GAUGES[doc.gauges.find((g) => g.id === gaugeId)?.kind ?? '']?.unit ?? ''

  const solve = async () => {
    setBusy(true)
    setReply(null)
    try {
      const request = {
        figure: figureName,
        gauge: gaugeId,
        target: Number(target.replace(',', '.')),
      }
      setReply(await lathe.call('solve', { doc, request }, { budget: 60_000 }))
    } catch (e) {
      if (!(e instanceof EngineError)) throw e
      setReply(e.message)
    } finally {
      setBusy(false)
    }
  }
  const apply = (value: number, u: string) => {
    edit((d) => {
      const f = d.figures.find((x) => x.name === figureName)
      if (!f) return
      f.expr = expressionFor(rounded(value, 6), u)
      logged(d, `Solved: ${figureName} set to ${f.expr}.`)
    })
    toast.success(`${figureName} is now ${fixed(value, 3)} ${u}.`)
    setReply(null)
  }
  return (
    <section aria-label="Solve for" className="border-rule border-b pb-3">
      <h2 className="font-medium text-lg">Solve for</h2>
      {doc.figures.length === 0 || doc.gauges.length === 0 ? (
        <p className="text-soft text-sm">
          Solving needs a figure that drives the drawing and a gauge to read.
        </p>
      ) : (
        <form
          className="mt-1 grid grid-cols-[5.5rem_1fr] items-center gap-x-2 gap-y-1.5"
          onSubmit={(e) => {
            e.preventDefault()
            void solve()
          }}
        >
          <span>Gauge</span>
          <Choice
            label="Gauge to solve for"
            value={gaugeId}
            options={doc.gauges.map((g) => ({
              value: g.id,
              label: GAUGES[g.kind]?.label ?? g.kind,
            }))}
            onChange={setGauge}
          />
          <span>should read</span>
          <span className="flex items-center gap-1">
            <TextInput
              aria-label="Target reading"
              className="figures w-24"
              value={target}
              onText={setTarget}
            />
            {unit}
          </span>
          <span>by figure</span>
          <Choice
            label="Figure to change"
            value={figureName}
            options={doc.figures.map((f) => ({ value: f.name, label: `${f.name} = ${f.expr}` }))}
            onChange={setFigure}
          />
          <span />
          <Button
            type="submit"
            tone="main"
            className="justify-self-start"
            disabled={busy || target.trim() === ''}
          >
            {busy ? 'Searching…' : 'Find it'}
          </Button>
        </form>
      )}
      <div aria-live="polite" className="mt-2 text-sm" data-testid="solutions">
        {typeof reply === 'string' && <p className="text-out">{reply}</p>}
        {reply && typeof reply !== 'string' && (
          <>
            {reply.found.length === 0 && (
              <p>
                No value of {figureName} between {fixed(reply.lo, 2)} and {fixed(reply.hi, 2)}{' '}
                {reply.unit} reads that
                {reply.span && (
                  <>
                    ; within this span the gauge reads {fixed(reply.span.low, 2)} to{' '}
                    {fixed(reply.span.high, 2)} {unit}
                  </>
                )}
                .
              </p>
            )}
            {reply.found.length > 1 && <p>{reply.found.length} values meet it; choose one.</p>}
            <ul>
              {reply.found.map((x) => (
                <li key={x} className="flex items-center gap-2 py-0.5">
                  <span>
                    {figureName} ={' '}
                    <span className="figures">
                      {fixed(x, 3)} {reply.unit}
                    </span>
                    <span className="text-soft"> (today {fixed(reply.now, 3)})</span>
                  </span>
                  <Button className="py-0!" onClick={() => apply(x, reply.unit)}>
                    Apply
                  </Button>
                </li>
              ))}
            </ul>
            {reply.failures.length > 0 && (
              <p className="text-soft">
                {reply.failures.length} tries failed, the first at {fixed(reply.failures[0]!.at, 2)}
                : {reply.failures[0]!.why}
              </p>
            )}
          </>
        )}
      </div>
    </section>
  )
}
