import type { WorkingRange } from '@ivory/core/limits'
import { rounded } from '@ivory/core/math'
import { type Dimension, type Op, sayLengths } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { lathe } from '../../engine'
import { setInputs, useSession } from '../../session/session'
import { Button } from '../../ui/controls'
import { faceName } from '../names'

/** The spans of values that hold, before anything is tried, and what ends each. */
export function Range({ op, input, dim }: { op: Op; input: string; dim: Dimension }) {
  const doc = useSession((s) => s.doc)!
  const dragging = useSession((s) => s.dragFrom !== null)
  const at = doc.route.findIndex((o) => o.id === op.id)
  const { [input]: _own, ...others } = op.inputs
  const query = useQuery({
    queryKey: [
      'range',
      doc.id,
      op.id,
      input,
      JSON.stringify([doc.figures, doc.route.slice(0, at), others]),
    ],
    queryFn: ({ signal }) => lathe.call('range', { doc, op: op.id, input }, { signal }),
    enabled: !dragging,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  })
  const r = query.data
  if (!r)
    return (
      <p className="col-span-2 text-soft text-sm">
        {query.isFetching
          ? 'Working out the range…'
          : 'The range shows once its inputs are chosen.'}
      </p>
    )
  const shown = spansShown(r)
  const say = (x: number) =>
    dim === 'length' ? sayLengths(`${x} mm`, doc.unit) : dim === 'angle' ? `${x} deg` : String(x)
  const most = shown[shown.length - 1]?.to ?? 0
  const share = (x: number) => `${Math.min(100, (100 * x) / Math.max(1.2 * most, 1e-9))}%`
  return (
    <div
      className="col-span-2 mt-1 border-brass border-l-2 bg-sheet px-2 py-1 text-sm"
      data-testid="range"
    >
      {shown.length === 0 && <p>No value from {say(rounded(r.least, 3))} up holds.</p>}
      {shown.length > 0 && (
        <span className="relative block h-1.5 rounded-full bg-shade" aria-hidden="true">
          {shown.map((s) => (
            <span
              key={s.from}
              className="absolute inset-y-0 rounded-full bg-holds"
              style={{ left: share(s.from), width: share(s.to - s.from) }}
            />
          ))}
        </span>
      )}
      {shown.map((s) => (
        <div key={s.from} className="mt-0.5">
          <div className="flex items-center justify-between gap-2">
            <span className="whitespace-nowrap">
              {s.from === s.to ? 'holds at ' : s.from > 0 ? 'holds from ' : 'holds up to '}
              {s.from > 0 && s.from < s.to && (
                <>
                  <span className="figures font-medium">{say(s.from)} </span>
                  to{' '}
                </>
              )}
              <span className="figures font-medium">{say(s.to)}</span>
            </span>
            <Button
              className="px-1.5! py-0! text-sm"
              onClick={() => setInputs(op.id, { [input]: s.to })}
            >
              {shown.length === 1 ? 'Use the largest' : `Use ${say(s.to)}`}
            </Button>
          </div>
          <p className="text-soft">
            {s.blocker
              ? sayLengths(faceSentence(s.blocker.message, doc), doc.unit)
              : 'Nothing blocks it up to the size of the section.'}
          </p>
        </div>
      ))}
      {shown.length === 0 && r.below && (
        <p className="text-soft">{sayLengths(faceSentence(r.below.message, doc), doc.unit)}</p>
      )}
    </div>
  )
}

/** Spans with their ends rounded inwards, so that the shown values themselves hold. */
const spansShown = (r: WorkingRange) =>
  r.spans
    .map((s) => ({
      ...s,
      from: Math.ceil(s.from * 1000 - 1e-6) / 1000,
      to: Math.floor(s.to * 1000 + 1e-6) / 1000,
    }))
    .filter((s) => s.to >= s.from)

/** Puts names for people in the place of provenance names in a sentence. */
const faceSentence = (text: string, doc: Parameters<typeof faceName>[0]): string =>
  text.replace(/\b[A-Za-z][\w-]*:[^\s]+(?= is used up|\.)/g, (name) => faceName(doc, name))
