import { fixed } from '@ivory/core/math'
import type { Op } from '@ivory/core/workpiece'
import { CircleDashed, PencilLine, X } from 'lucide-react'
import { useState } from 'react'
import { useSession } from '../../session/session'
import {
  holdsOf,
  lay,
  putStops,
  type StopDoc,
  sheetsOf,
  stopsOf,
  trace,
  typedStop,
} from '../../session/tracing'
import { typedValue } from '../../table/drawing/typed'
import { Button, Choice, CommitInput } from '../../ui/controls'
import { typedNumber } from '../../ui/number'
import { opName } from '../names'

const WAYS = [
  { value: 'line', label: 'line' },
  { value: 'arc', label: 'arc' },
  { value: 'over', label: 'arc over it' },
  { value: 'spline', label: 'curve' },
]
const WORD: Readonly<Record<string, string>> = {
  level: 'level',
  front: 'front',
  side: 'side',
  own: 'as it was laid',
}

/** The places of a path: how each is gone to, where it is and its rounding; typed, or drawn on the Stage. */
export function Stops({ op }: { op: Op }) {
  const unit = useSession((s) => s.doc?.unit ?? 'mm')
  const doc = useSession((s) => s.doc)
  const available = useSession((s) => s.settled?.available[op.id])
  const tracing = useSession((s) => (s.tracing?.op === op.id ? s.tracing : null))
  const [fault, setFault] = useState('')
  /** Where holds have put the places. */
  const held = useSession((s) => {
    const shown = s.settled?.datums.find((d) => d.id === op.id)
    return holdsOf(op).length > 0 && shown?.kind === 'path' ? shown.stops : null
  })
  const stops = stopsOf(op)
  const amend = (i: number, change: object) =>
    putStops(
      op.id,
      stops.map((s, k) => (k === i ? ({ ...s, ...change } as StopDoc) : s)),
    )
  const enter = (text: string) => {
    if (!text.trim()) return
    const stop = typedStop(text, unit, tracing?.by ?? 'line')
    setFault(stop ? '' : 'Three numbers: x y z, with + before them from the last place.')
    if (stop) putStops(op.id, [...stops, stop])
  }
  return (
    <div className="flex min-w-0 flex-col gap-1.5">
      <ol className="flex flex-col gap-1">
        {stops.map((s, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: places are told apart by their order
          <li key={i} className="flex flex-wrap items-center gap-1 border-rule/60 border-b pb-1">
            <span className="figures w-4 text-soft">{i + 1}</span>
            <Choice
              label={`How place ${i + 1} is gone to`}
              value={s.by ?? 'line'}
              options={WAYS}
              onChange={(by) => amend(i, { by })}
            />
            <CommitInput
              aria-label={`Rounding at place ${i + 1}`}
              className="figures w-9"
              placeholder="r"
              value={String(s.round ?? '')}
              onCommit={(t) => {
                const round = typedValue(t, unit)
                const { round: _, ...rest } = s
                putStops(
                  op.id,
                  stops.map((o, k) =>
                    k === i ? ((round === null ? rest : { ...rest, round }) as StopDoc) : o,
                  ),
                )
              }}
            />
            <button
              type="button"
              aria-label={`Place ${i + 1} only helps`}
              aria-pressed={s.aside ?? false}
              title="Only helps: holds and coordinates count it, the path passes it by"
              className="ml-auto text-soft aria-pressed:text-brass hover:text-ink"
              onClick={() => amend(i, { aside: !s.aside })}
            >
              <CircleDashed size={13} />
            </button>
            <button
              type="button"
              aria-label={`Take out place ${i + 1}`}
              className="text-soft hover:text-out"
              onClick={() =>
                putStops(
                  op.id,
                  stops.filter((_, k) => k !== i),
                )
              }
            >
              <X size={13} />
            </button>
            <Coordinates stop={s} number={i + 1} unit={unit} amend={(c) => amend(i, c)} />
            {held?.[i] && (
              <span className="figures w-full pl-5 text-soft text-sm">
                held at {held[i].map((c) => fixed(c, 2)).join(', ')}
              </span>
            )}
          </li>
        ))}
      </ol>
      <Entry label="Type a place of the path" onEnter={enter} />
      {fault && <p className="text-out text-sm">{fault}</p>}
      <Button
        aria-pressed={tracing !== null}
        className={tracing ? 'border-brass! bg-brass-wash!' : ''}
        onClick={() => trace(tracing ? null : op.id)}
      >
        <PencilLine size={14} aria-hidden="true" />
        {tracing ? 'Done drawing' : 'Draw on the Stage'}
      </Button>
      {tracing && (
        <div className="flex flex-wrap items-center gap-1 text-sm">
          <Choice
            label="The sheet lies"
            value={tracing.sheet}
            options={sheetsOf(available?.planes ?? [], Boolean(tracing.frame)).map((value) => ({
              value,
              label: WORD[value] ?? `along ${opName(doc, value)}`,
            }))}
            onChange={(sheet) => useSession.setState({ tracing: { ...tracing, sheet } })}
          />
          <span className="figures text-soft">Q</span>
          {(['face', 'three'] as const).map((how) => (
            <Button
              key={how}
              aria-pressed={tracing.laying?.how === how}
              className={tracing.laying?.how === how ? 'border-brass! bg-brass-wash!' : ''}
              onClick={() => lay(tracing.laying?.how === how ? null : how)}
            >
              {how === 'face'
                ? 'Lay it on a face'
                : tracing.laying?.how === 'three'
                  ? `Place ${tracing.laying.picks.length + 1} of 3`
                  : 'Lay it through three places'}
            </Button>
          ))}
          <label className="flex items-center gap-1">
            tilted
            <CommitInput
              aria-label="The sheet is tilted by, degrees"
              className="figures w-11"
              value={String(tracing.tilt)}
              onCommit={(t) => {
                const tilt = typedNumber(t)
                if (tilt !== null) useSession.setState({ tracing: { ...tracing, tilt } })
              }}
            />
            °
          </label>
          <Choice
            label="Next by"
            value={tracing.by}
            options={WAYS}
            onChange={(by) =>
              useSession.setState({ tracing: { ...tracing, by: by as typeof tracing.by } })
            }
          />
        </div>
      )}
    </div>
  )
}

/** Where a place is: a datum point, or three numbers, from the place before where ticked. */
function Coordinates({
  stop,
  number,
  unit,
  amend,
}: {
  stop: StopDoc
  number: number
  unit: 'mm' | 'in'
  amend(change: object): void
}) {
  const doc = useSession((s) => s.doc)
  if ('point' in stop) return <span className="w-full pl-5">{opName(doc, stop.point)}</span>
  return (
    <span className="flex w-full items-center gap-1 pl-5">
      {number > 1 && (
        <label className="flex items-center text-soft" title="Counted from the place before">
          <input
            type="checkbox"
            aria-label={`Place ${number} counts from the one before`}
            checked={stop.rel ?? false}
            onChange={(e) => amend({ rel: e.target.checked })}
          />
          +
        </label>
      )}
      {(['x', 'y', 'z'] as const).map((k) => (
        <CommitInput
          key={k}
          aria-label={`Place ${number} ${k}`}
          className="figures w-10 flex-1"
          value={String(stop[k])}
          onCommit={(t) => {
            const v = typedValue(t, unit)
            if (v !== null) amend({ [k]: v })
          }}
        />
      ))}
    </span>
  )
}

/** A field that is emptied by what is entered in it. */
function Entry({ label, onEnter }: { label: string; onEnter(text: string): void }) {
  const [text, setText] = useState('')
  return (
    <input
      aria-label={label}
      placeholder="+10 0 -5"
      className="figures min-w-0 rounded-sm border border-rule bg-sheet px-1.5 py-0.5"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Escape') e.currentTarget.blur()
        if (e.key !== 'Enter') return
        onEnter(text)
        setText('')
      }}
    />
  )
}
