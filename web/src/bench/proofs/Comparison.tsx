import type { Verdict } from '@ivory/core/gauges'
import {
  bodiesBeside,
  type Difference,
  differencesOf,
  type OpDifference,
  readingsBeside,
} from '@ivory/core/workpiece'
import type { ReactNode } from 'react'
import { useGhost } from '../../session/ghost'
import { useLiked } from '../../session/own'
import {
  type Beside,
  bodiesNow,
  openProofs,
  readingsNow,
  signed,
  useProofs,
} from '../../session/proofs'
import { openOp, useSession } from '../../session/session'
import type { Proof } from '../../storage/proofs'
import { Button } from '../../ui/controls'
import { VerdictMark } from '../../ui/verdict'

const BESIDE: { how: Beside; label: string; help: string }[] = [
  { how: 'ghost', label: 'seen through', help: 'Its bodies are seen through those of now.' },
  { how: 'half', label: 'half and half', help: 'Its bodies fill the half that is cut away.' },
]

/** A proof beside what there is now, or beside another: readings, bodies, figures and ops that differ. */
export function Comparison({ was, other }: { was: Proof; other: Proof | undefined }) {
  const doc = useSession((s) => s.doc)!
  const settled = useSession((s) => s.settled)
  const beside = useProofs((s) => s.beside)
  const { making } = useGhost()
  const waits = !other && (settled?.waits ?? 1) > 0
  const now = other ?? {
    doc,
    readings: settled ? readingsNow(settled) : [],
    bodies: settled ? bodiesNow(settled) : [],
  }
  const { figures, ops, brief } = differencesOf(was.doc, now.doc)
  const readings = readingsBeside(was.readings, now.readings)
  const bodies = bodiesBeside(was.bodies, now.bodies)
  const head = [was.name, other?.name ?? 'now'] as const
  return (
    <section aria-label="Comparison" className="flex flex-col gap-3 text-sm">
      <div className="flex flex-wrap items-center gap-1">
        <span className="text-soft">Its bodies</span>
        {BESIDE.map((b) => (
          <Button
            key={b.how}
            className={`px-1.5! py-0.5! text-sm ${beside === b.how ? 'bg-brass-wash!' : ''}`}
            title={b.help}
            aria-pressed={beside === b.how}
            onClick={() => {
              const on = beside !== b.how
              useProofs.setState({ beside: on ? b.how : null })
              if (on && b.how === 'half') useSession.setState({ cutaway: true })
            }}
          >
            {b.label}
          </Button>
        ))}
        {making && <span className="text-soft">made…</span>}
      </div>
      {waits && <p className="text-soft">The kernel is at work: what is read now may change.</p>}
      <SideBySide head={head} title="Readings" none="No gauge is on the bench.">
        {readings.map((r) => (
          <tr key={`${r.label} ${r.body}`} className="border-rule/60 border-b align-baseline">
            <th scope="row" className="text-left font-normal">
              {r.label}
              {r.body && <span className="text-soft"> · {r.body}</span>}
            </th>
            <Reading text={r.was} verdict={r.verdicts[0]} />
            <Reading text={r.now} verdict={r.verdicts[1]} />
            <td className="figures pl-2 text-right">
              {r.more === null ? '' : Math.abs(r.more) < 5e-3 ? 'same' : signed(r.more, 2)}
            </td>
          </tr>
        ))}
      </SideBySide>
      <SideBySide head={head} title="Bodies, cm³" none="There are no bodies.">
        {bodies.map((b) => (
          <tr key={b.name} className="border-rule/60 border-b">
            <th scope="row" className="text-left font-normal">
              {b.name}
            </th>
            <td className="figures text-right">{volume(b.was)}</td>
            <td className="figures text-right">{volume(b.now)}</td>
            <td className="figures pl-2 text-right">
              {b.was !== null && b.now !== null
                ? Math.abs(b.now - b.was) < 5e-3
                  ? 'same'
                  : signed((b.now - b.was) / 1000, 3)
                : ''}
            </td>
          </tr>
        ))}
      </SideBySide>
      <Changes title="Figures" none="All figures are the same." list={figures} />
      <div>
        <h3 className="font-medium">Ops</h3>
        {ops.length === 0 && <p className="text-soft">The route is the same.</p>}
        <ul aria-label="Ops that differ">
          {ops.map((o) => (
            <OpRow key={o.id} op={o} there={!other && o.how !== 'gone'} />
          ))}
        </ul>
      </div>
      {brief.length > 0 && <Changes title="Brief" none="" list={brief} />}
    </section>
  )
}

const volume = (v: number | null) => (v === null ? '–' : (v / 1000).toFixed(3))

function SideBySide({
  head,
  title,
  none,
  children,
}: {
  head: readonly [string, string]
  title: string
  none: string
  children: ReactNode[]
}) {
  if (children.length === 0) return <p className="text-soft">{none}</p>
  return (
    <table className="w-full">
      <caption className="text-left font-medium text-base">{title}</caption>
      <thead>
        <tr className="text-right text-soft">
          <th>
            <span className="sr-only">what</span>
          </th>
          {head.map((h) => (
            <th key={h} className="max-w-16 truncate pl-2 font-normal" title={h}>
              {h}
            </th>
          ))}
          <th className="pl-2 font-normal">more</th>
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  )
}

const VERDICTS: readonly string[] = ['holds', 'marginal', 'out']
function Reading({ text, verdict }: { text: string; verdict: string }) {
  const liked = useLiked()
  return (
    <td className="pl-2 text-right">
      <span className="figures whitespace-nowrap">{liked(text) || '–'}</span>
      {VERDICTS.includes(verdict) && (
        <span className="block">
          <VerdictMark verdict={verdict as Verdict} />
        </span>
      )}
    </td>
  )
}

function Changes({ title, none, list }: { title: string; none: string; list: Difference[] }) {
  return (
    <div>
      <h3 className="font-medium">{title}</h3>
      {list.length === 0 ? <p className="text-soft">{none}</p> : <Inputs list={list} />}
    </div>
  )
}

function Inputs({ list }: { list: Difference[] }) {
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-2">
      {list.map((d) => (
        <div key={d.name} className="contents">
          <dt className="text-soft">{d.name}</dt>
          <dd className="figures min-w-0 break-words">
            {d.was === '' ? 'new' : d.was} → {d.now === '' ? 'gone' : d.now}
          </dd>
        </div>
      ))}
    </dl>
  )
}

const HOW = { added: 'new', gone: 'gone', changed: '', moved: 'stands elsewhere' }
function OpRow({ op, there }: { op: OpDifference; there: boolean }) {
  return (
    <li className="border-rule/60 border-b py-0.5">
      <p>
        <span className="figures text-soft">{op.number}</span>{' '}
        {there ? (
          <button
            type="button"
            className="hover:text-brass hover:underline"
            onClick={() => {
              openProofs(false)
              openOp(op.id)
            }}
          >
            {op.name}
          </button>
        ) : (
          op.name
        )}{' '}
        <span className="text-soft">{HOW[op.how]}</span>
      </p>
      <div className="pl-6">
        <Inputs list={op.inputs} />
      </div>
    </li>
  )
}
