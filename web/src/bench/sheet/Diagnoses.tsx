import { fixed, inSpace } from '@ivory/core/math'
import { opSpec } from '@ivory/core/ops'
import type { OpReport } from '@ivory/core/rebuild'
import clsx from 'clsx'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { select, setInputs, useSession } from '../../session/session'
import { Button } from '../../ui/controls'
import { faceName, opName } from '../names'

/** What an op has to say: the cause, where, and remedies to click. */
export function Diagnoses({ report }: { report: OpReport }) {
  const doc = useSession((s) => s.doc)!
  const navigate = useNavigate()
  const grave = report.status === 'fail'
  const goTo = (id: string) => {
    const kind = doc.route.find((o) => o.id === id)?.kind
    select(id)
    const there = kind && opSpec(kind)?.stage
    if (there) navigate(`/w/${doc.id}/${there}`)
  }
  if (report.diagnoses.length === 0) return null
  return (
    <ul className="flex flex-col gap-2" aria-label="Diagnosis">
      {report.diagnoses.map((d, i) => (
        <li
          // biome-ignore lint/suspicious/noArrayIndexKey: two diagnoses may say the same of two places
          key={i}
          className={clsx(
            'border-l-4 bg-sheet px-2.5 py-1.5 text-sm',
            grave ? 'border-out' : 'border-marginal',
          )}
        >
          <p className={grave ? 'text-out' : 'text-marginal'}>
            <span className="font-bold">{grave ? 'Fails. ' : 'Note. '}</span>
            {d.message}
          </p>
          {d.places.length > 0 && (
            <ul className="text-soft">
              {d.places.slice(0, 5).map((p) => (
                <li key={p.at.join()}>
                  {inSpace(p.at) ? (
                    <>
                      at <span className="figures">{p.at.map((c) => fixed(c, 2)).join(', ')}</span>
                    </>
                  ) : (
                    <>
                      at <span className="figures">⌀ {fixed(Math.abs(2 * p.at[0]), 2)}</span>,
                      height <span className="figures">{fixed(p.at[1], 2)}</span>
                    </>
                  )}
                  {p.label?.includes(':') ? `: ${faceName(doc, p.label)}` : ''}
                </li>
              ))}
            </ul>
          )}
          {d.fixes.length > 0 && (
            <p className="mt-1 flex flex-wrap gap-1">
              {d.fixes.map((f) => (
                <Button
                  key={f.label}
                  className="py-0! text-sm"
                  onClick={() => {
                    if (f.go) {
                      goTo(f.op)
                      return
                    }
                    setInputs(f.op, f.inputs)
                    toast.success(`Done: ${f.label}.`)
                  }}
                >
                  {f.go ? `Go to ${opName(doc, f.op)}` : f.label}
                </Button>
              ))}
            </p>
          )}
        </li>
      ))}
    </ul>
  )
}
