import type { Workpiece } from '@ivory/core/workpiece'
import clsx from 'clsx'
import { Copy } from 'lucide-react'
import { useLiked } from '../../session/own'
import { useSession } from '../../session/session'
import { IconButton } from '../../ui/controls'
import { copyCells } from '../../ui/copy'
import { VerdictMark } from '../../ui/verdict'
import { faceName } from '../names'

/** A row's label; names of faces between slashes in words. */
const worded = (doc: Workpiece | null, label: string): string =>
  doc && label.includes(' / ')
    ? label
        .split(' / ')
        .map((n) => faceName(doc, n))
        .join(' / ')
    : label

/** The gauges that stay on the bench, each with its verdict against its own limits or the brief's. */
export function GaugePanel() {
  const gauges = useSession((s) => s.settled?.gauges) ?? []
  const bodies = useSession((s) => s.settled?.bodies) ?? []
  const doc = useSession((s) => s.doc)
  // Until the exact kernel is done, what is read is not of the whole route: no verdict on it.
  const waits = useSession((s) => (s.settled?.waits ?? 0) > 0)
  const liked = useLiked()
  const text = (g: (typeof gauges)[number]) => liked(g.reading?.text ?? '–')
  const cells = () => [
    ['gauge', 'body', 'reading', 'at least', 'at most', 'verdict'],
    ...gauges.flatMap((g) => {
      const body = bodies.find((b) => b.id === g.body)?.name ?? ''
      const { min, max } = g.limits ?? {}
      const limit = (x: number | undefined) => (x === undefined ? '' : String(x))
      return [
        [g.label, body, text(g), limit(min), limit(max), g.verdict === 'none' ? '' : g.verdict],
        ...(g.reading?.rows ?? []).map((r) => [
          `${g.label}: ${worded(doc, r.label)}`,
          body,
          liked(r.text),
          '',
          '',
          '',
        ]),
      ]
    }),
  ]
  return (
    <section aria-label="Gauges" className="flex min-h-0 flex-col">
      <div className="flex items-center border-rule border-y pr-1 pl-3">
        <h2 className="flex-1 py-1.5 font-medium">
          Gauges
          {waits && (
            <span className="font-normal text-soft text-sm"> · the exact kernel is at work</span>
          )}
        </h2>
        {gauges.length > 0 && !waits && (
          <IconButton
            label="Copy the readings for a spreadsheet"
            onClick={() => void copyCells(cells())}
          >
            <Copy size={13} />
          </IconButton>
        )}
      </div>
      <ul className="overflow-y-auto">
        {gauges.length === 0 && (
          <li className="px-3 py-2 text-soft text-sm">
            No gauge yet. Put some on the bench in the Gauge stage.
          </li>
        )}
        {gauges.map((g) => (
          <li key={g.id} className="border-rule/60 border-b px-3 py-1">
            <details>
              <summary className="flex flex-wrap cursor-pointer items-baseline gap-2 marker:content-none">
                <span className="min-w-24 flex-1 truncate">
                  {g.label}
                  {bodies.length > 1 && (
                    <span className="text-soft">
                      {' '}
                      · {bodies.find((b) => b.id === g.body)?.name}
                    </span>
                  )}
                </span>
                <span
                  className={clsx('figures whitespace-nowrap', waits && 'text-soft')}
                  data-testid={`gauge-${g.kind}`}
                >
                  {waits ? `(${text(g)})` : text(g)}
                </span>
                <span className="w-18 text-right">
                  {!waits && <VerdictMark verdict={g.verdict} />}
                </span>
              </summary>
              {!g.reading && <p className="text-soft text-sm">{g.why}</p>}
              <dl className="grid grid-cols-[1fr_auto] text-soft text-sm">
                {g.limits && (
                  <>
                    <dt>{g.fromBrief ? 'limits of the brief' : 'own limits'}</dt>
                    <dd className="figures">
                      {g.limits.min ?? '…'} to {g.limits.max ?? '…'}
                    </dd>
                  </>
                )}
                {g.reading?.rows.map((r, i) => (
                  <div
                    // biome-ignore lint/suspicious/noArrayIndexKey: two seams may bear the same names
                    key={i}
                    className="group contents"
                    onMouseEnter={() => useSession.setState({ pointed: r.at ?? null })}
                    onMouseLeave={() => useSession.setState({ pointed: null })}
                  >
                    <dt className={r.at ? 'group-hover:text-ink' : ''}>{worded(doc, r.label)}</dt>
                    <dd className={clsx('figures', r.at && 'group-hover:text-ink')}>
                      {liked(r.text)}
                    </dd>
                  </div>
                ))}
              </dl>
            </details>
          </li>
        ))}
      </ul>
    </section>
  )
}
