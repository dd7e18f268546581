import { arrayMove, useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import type { P2 } from '@ivory/core/math'
import type { Op } from '@ivory/core/workpiece'
import { GripVertical, RefreshCw, SquareDashedMousePointer, X } from 'lucide-react'
import type { ReactNode } from 'react'
import { setInputs, useSession } from '../../session/session'
import { Button, Choice } from '../../ui/controls'
import { Sortable } from '../../ui/Sortable'
import { faceName, opName } from '../names'
import { NextRail } from './NextRail'

type SectionDoc =
  | { profile: string; areas?: unknown[]; shift?: number; holes?: number[] }
  | { path: string; shift?: number }
  | { body: string; face: { face: string }; shift?: number }
  | { point: string; end?: 'pointed' | 'domed' }
  | { path: string; only: 'start' | 'end'; end?: 'pointed' | 'domed' }

/** The sections of a loft as a rack of small outlines in their order: dragged or stepped, matching turned on. */
export function Rack({ op }: { op: Op }) {
  const doc = useSession((s) => s.doc)
  const available = useSession((s) => s.settled?.available[op.id])
  const picking = useSession((s) => s.picking)
  const choosing = useSession((s) => (s.choosing?.op === op.id ? s.choosing.section : undefined))
  const choose = (section: number | undefined) =>
    useSession.setState({ choosing: section === undefined ? null : { op: op.id, section } })
  const holes = useSession((s) => s.settled?.reports.find((r) => r.id === op.id)?.shown?.holes ?? 0)
  const sections = (op.inputs.sections as SectionDoc[] | undefined) ?? []
  const put = (next: SectionDoc[]) => setInputs(op.id, { sections: next })
  // Told apart by their order: the same drawing may come twice.
  const ids = sections.map((_, i) => i + 1)
  const moveRow = (from: number, to: number) => put(arrayMove(sections, from, to))
  const amend = (i: number, change: object) =>
    put(sections.map((s, k) => (k === i ? ({ ...s, ...change } as SectionDoc) : s)))
  const nameOf = (s: SectionDoc) =>
    'profile' in s
      ? opName(doc, s.profile)
      : 'path' in s
        ? `${opName(doc, s.path)}${'only' in s ? `, its ${s.only}` : ''}`
        : 'point' in s
          ? opName(doc, s.point)
          : faceName(doc!, s.face.face)
  const named = (kind: 'profile' | 'path' | 'point') =>
    (available?.[`${kind}s`] ?? []).map((id) => ({
      value: `${kind} ${id}`,
      label: opName(doc, id),
    }))
  const more = [
    ...named('profile'),
    ...named('path'),
    ...named('point'),
    ...(available?.bodies ?? []).map(({ id, name }) => ({
      value: `body ${id}`,
      label: `a face of ${name}, picked`,
    })),
  ]
  const add = (value: string) => {
    const [kind, id] = value.split(' ') as [string, string]
    if (kind === 'body') {
      useSession.setState({
        picking: { op: op.id, input: 'sections', what: 'faces', body: id, as: { shift: 0 } },
      })
      return
    }
    const next =
      kind === 'point' ? { point: id, end: 'pointed' as const } : { [kind]: id, shift: 0 }
    put([...sections, next as SectionDoc])
  }
  return (
    <div className="flex min-w-0 flex-col gap-1">
      <Sortable ids={ids} onMove={moveRow}>
        <ol className="flex flex-col">
          {sections.map((s, i) => (
            <Row key={ids[i]} number={i + 1}>
              <Outline of={'profile' in s ? s.profile : null} />
              <span className="min-w-0 flex-1 truncate" title={nameOf(s)}>
                {nameOf(s)}
              </span>
              {'profile' in s && (
                <button
                  type="button"
                  aria-label={`Choose areas of section ${i + 1} on the Table`}
                  aria-pressed={choosing === i}
                  title="Choose its areas on the Table"
                  className="text-soft aria-pressed:text-brass hover:text-ink"
                  onClick={() => choose(choosing === i ? undefined : i)}
                >
                  {s.areas && s.areas.length > 0 ? `${s.areas.length} of its` : ''}
                  <SquareDashedMousePointer size={14} className="inline" />
                </button>
              )}
              {'point' in s || 'only' in s ? (
                <Choice
                  label={`How section ${i + 1} ends`}
                  value={s.end ?? 'pointed'}
                  options={[
                    { value: 'pointed', label: 'pointed' },
                    { value: 'domed', label: 'domed' },
                  ]}
                  onChange={(end) => amend(i, { end })}
                />
              ) : (
                <input
                  type="number"
                  aria-label={`Matching of section ${i + 1} turned on by`}
                  title="Corners the matching is turned on by"
                  className="figures w-11 rounded-sm border border-rule bg-sheet px-1"
                  value={s.shift ?? 0}
                  onKeyDown={(e) => e.stopPropagation()}
                  onChange={(e) => amend(i, { shift: Number(e.target.value) || 0 })}
                />
              )}
              <button
                type="button"
                aria-label={`Take out section ${i + 1}`}
                className="text-soft hover:text-out"
                onClick={() => put(sections.filter((_, k) => k !== i))}
              >
                <X size={13} />
              </button>
              {'profile' in s && i > 0 && holes > 1 && (
                <HoleOrder
                  section={i + 1}
                  count={holes}
                  order={s.holes ?? []}
                  onChange={(holes) => amend(i, { holes })}
                />
              )}
            </Row>
          ))}
        </ol>
      </Sortable>
      {picking?.op === op.id && picking.body && picking.input === 'sections' && (
        <Button
          className="border-brass! bg-brass-wash!"
          onClick={() => useSession.setState({ picking: null })}
        >
          Pick a face on the Stage, or leave it
        </Button>
      )}
      {more.length > 0 ? (
        <Choice
          label="Add a section"
          value=""
          options={[{ value: '', label: 'add a section…' }, ...more]}
          onChange={(v) => v && add(v)}
        />
      ) : (
        <span className="text-soft">There is no drawing, path, point or body before it yet.</span>
      )}
      <TurnRound op={op} />
      <NextRail op={op} />
    </div>
  )
}

interface HoleOrderProps {
  section: number
  count: number
  order: readonly number[]
  onChange: (order: number[]) => void
}

/** Which hole of a section each hole of the one before goes on in: as they lie nearest, or turned on by so many. */
function HoleOrder({ section, count, order, onChange }: HoleOrderProps) {
  const turned = (by: number) => Array.from({ length: count }, (_, k) => ((k + by) % count) + 1)
  const told = order.join(' ')
  const ways = Array.from({ length: count }, (_, by) => turned(by).join(' '))
  return (
    <span className="w-full pl-9">
      <Choice
        label={`Holes of section ${section} matched`}
        value={told === '' ? ways[0]! : told}
        options={[...new Set([...ways, ...(told === '' ? [] : [told])])].map((value) => ({
          value,
          label: value === ways[0] ? 'holes as they lie' : `holes ${value}`,
        }))}
        onChange={(v) => onChange(v === ways[0] ? [] : v.split(' ').map(Number))}
      />
    </span>
  )
}

/** The loft with its rails as sections and its sections as rails, where it can be had. */
function TurnRound({ op }: { op: Op }) {
  const turned = useSession((s) => s.settled?.reports.find((r) => r.id === op.id)?.shown?.turned)
  if (!turned) return null
  return (
    <Button
      className="self-start"
      title="Rails become sections, sections rails: its lines run the other way"
      onClick={() => setInputs(op.id, { sections: turned.sections, rails: turned.rails })}
    >
      <RefreshCw size={13} aria-hidden="true" /> Turn it round
    </Button>
  )
}

function Row({ number, children }: { number: number; children: ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: number })
  return (
    <li
      ref={setNodeRef}
      data-testid="section-of-loft"
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className="flex flex-wrap items-center gap-1 border-rule/60 border-b bg-paper py-0.5"
    >
      <button
        type="button"
        aria-label={`Move section ${number}`}
        className="cursor-grab text-soft"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={13} />
      </button>
      {children}
    </li>
  )
}

/** A drawing in a small square; a dot where there is none. */
function Outline({ of }: { of: string | null }) {
  const profile = useSession((s) => s.settled?.profiles.find((p) => p.id === of))
  const lines = (profile?.curves ?? []).map((c) => c.points).filter((p) => p.length > 1)
  if (lines.length === 0)
    return (
      <svg viewBox="0 0 20 20" className="size-5 shrink-0" aria-hidden="true">
        <circle cx="10" cy="10" r="2" fill="currentColor" />
      </svg>
    )
  const all = lines.flat()
  const span = (k: 0 | 1) => {
    const xs = all.map((p) => p[k])
    return [Math.min(...xs), Math.max(...xs)] as const
  }
  const [[x0, x1], [y0, y1]] = [span(0), span(1)]
  const size = Math.max(x1 - x0, y1 - y0) || 1
  const put = (p: P2) =>
    `${(10 + (16 * (p[0] - (x0 + x1) / 2)) / size).toFixed(1)},${(10 - (16 * (p[1] - (y0 + y1) / 2)) / size).toFixed(1)}`
  return (
    <svg viewBox="0 0 20 20" className="size-5 shrink-0" aria-hidden="true">
      {lines.map((points) => (
        <polyline
          key={points.flat().slice(0, 6).join()}
          points={points.map(put).join(' ')}
          fill="none"
          stroke="currentColor"
          strokeWidth="1"
        />
      ))}
    </svg>
  )
}
