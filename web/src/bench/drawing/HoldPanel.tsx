import {
  DIMENSIONS,
  type Dimensioned,
  type Drawing,
  RELATIONS,
  type Relation,
  relationWords,
  withHolds,
} from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import clsx from 'clsx'
import { Eye, X } from 'lucide-react'
import type { ProfileView } from '../../engine'
import { drawingOf, setInputs, useSession } from '../../session/session'
import { release, setDimension, typedAs } from '../../table/drawing/holding'
import { Button, CommitInput, IconButton } from '../../ui/controls'
import { NextHolds } from './NextHolds'
import { Reckoner } from './Reckoner'

/** What holds the drawing: how free it still is, what can be held next, and all that holds now. */
export function HoldPanel({ op, profile }: { op: Op; profile: ProfileView }) {
  const drawing = drawingOf(op)
  const { hold } = profile
  const relations = drawing.relations ?? []
  const dimensions = drawing.dimensions ?? []
  return (
    <section aria-label="What holds it" className="flex flex-col gap-2">
      <Freedom profile={profile} />
      <NextHolds op={op} drawing={drawing} profile={profile} />
      {profile.suggestions.map((s) => (
        <p key={s.says} className="flex items-baseline gap-2 text-sm">
          <span className="min-w-0 flex-1 first-letter:uppercase">{s.says}.</span>
          <Button
            className="py-0! text-sm"
            onClick={() => setInputs(op.id, { drawing: withHolds(drawing, s.relations) })}
          >
            Hold {s.relations.length === 1 ? 'it' : 'them'} so
          </Button>
        </p>
      ))}
      {dimensions.length > 0 && (
        <details open>
          <summary className="cursor-pointer font-medium">Dimensions</summary>
          <ul aria-label="Dimensions">
            {dimensions.map((d) => (
              <DimensionRow key={d.id} op={op} drawing={drawing} d={d} profile={profile} />
            ))}
          </ul>
        </details>
      )}
      {relations.length > 0 && (
        <details open={hold.conflict.length > 0 || relations.length < 9}>
          <summary className="cursor-pointer font-medium">Relations ({relations.length})</summary>
          <ul aria-label="Relations" className="text-sm">
            {relations.map((r) => (
              <RelationRow key={r.id} op={op} drawing={drawing} r={r} profile={profile} />
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

function Freedom({ profile }: { profile: ProfileView }) {
  const { freedoms, travels, looseRadii, conflict, unreached } = profile.hold
  if (Object.keys(profile.points).length === 0)
    return (
      <p className="border-rule border-l-4 bg-sheet px-2 py-1 text-soft" data-testid="freedom">
        Nothing is drawn yet.
      </p>
    )
  if (unreached)
    return (
      <p className="border-out border-l-4 bg-sheet px-2 py-1 text-out" data-testid="freedom">
        Not reached from here: the drawing stays as it was.
      </p>
    )
  if (conflict.length > 0)
    return (
      <p className="border-out border-l-4 bg-sheet px-2 py-1 text-out" data-testid="freedom">
        Over-held: {conflict.length} cannot hold together. Release one of those marked.
      </p>
    )
  if (freedoms === 0)
    return (
      <p className="border-holds border-l-4 bg-sheet px-2 py-1 text-holds" data-testid="freedom">
        Fully held.
      </p>
    )
  const names = [...travels.map((t) => t.point), ...looseRadii]
  const shown =
    names.slice(0, 6).join(', ') + (names.length > 6 ? ` and ${names.length - 6} more` : '')
  return (
    <p className="border-brass border-l-4 bg-sheet px-2 py-1 text-sm" data-testid="freedom">
      {freedoms} {freedoms === 1 ? 'freedom' : 'freedoms'} left: {shown} can move, as the arrows
      show.
    </p>
  )
}

const choose = (r: { points: string[]; entities: string[] }) =>
  useSession.setState({
    drawn: {
      points: r.points.filter((p) => p !== 'origin'),
      entities: r.entities.filter((e) => e !== 'axis'),
    },
  })

function Row({
  id,
  profile,
  children,
}: {
  id: string
  profile: ProfileView
  children: React.ReactNode
}) {
  const bad = profile.hold.conflict.includes(id)
  const idle = profile.hold.redundant.find((r) => r.id === id)
  return (
    <li
      className={clsx(
        'flex items-center gap-1 border-rule/60 border-b py-px',
        bad && 'border-l-4 border-l-out pl-1 text-out',
      )}
      title={idle ? `Says nothing new: it follows from ${idle.from.join(', ')}.` : undefined}
    >
      {children}
      {bad && <span className="font-bold text-sm">conflict</span>}
      {idle && <span className="text-soft text-sm">already so</span>}
    </li>
  )
}

function DimensionRow({
  op,
  drawing,
  d,
  profile,
}: {
  op: Op
  drawing: Drawing
  d: Dimensioned
  profile: ProfileView
}) {
  const unit = DIMENSIONS[d.kind].unit === 'angle' ? '°' : ' mm'
  const measure = profile.hold.measures[d.id]
  const toggle = () =>
    setInputs(op.id, {
      drawing: {
        ...drawing,
        dimensions: (drawing.dimensions ?? []).map((x) => {
          if (x.id !== d.id) return x
          const { read, ...rest } = x
          return read ? rest : { ...rest, read: true }
        }),
      },
    })
  return (
    <Row id={d.id} profile={profile}>
      <button
        type="button"
        className="min-w-0 flex-1 truncate text-left text-sm hover:text-brass"
        onClick={() => choose(d)}
      >
        {DIMENSIONS[d.kind].label}{' '}
        <span className="figures text-soft">{[...d.points, ...d.entities].join(' ')}</span>
      </button>
      {d.read ? (
        <span className="figures" data-testid={`read-${d.id}`}>
          ({measure === undefined ? '–' : typedAs(d.kind, measure)}
          {unit})
        </span>
      ) : (
        <CommitInput
          aria-label={`${DIMENSIONS[d.kind].label} ${d.id}`}
          className="figures w-25"
          value={String(d.value)}
          title={measure === undefined ? '' : `${typedAs(d.kind, measure)}${unit}`}
          onCommit={(t) => void setDimension(op.id, d, t)}
        />
      )}
      {!d.read && unit === ' mm' && (
        <Reckoner
          name={`${DIMENSIONS[d.kind].label} ${d.id}`}
          onTake={(t) => void setDimension(op.id, d, t)}
        />
      )}
      <IconButton
        label={d.read ? 'Let it hold' : 'Only measure'}
        active={Boolean(d.read)}
        className="size-6!"
        onClick={toggle}
      >
        <Eye size={13} />
      </IconButton>
      <IconButton
        label={`Release ${relationWords(drawing, d.id)}`}
        className="size-6!"
        onClick={() => release(op.id, drawing, d.id)}
      >
        <X size={13} />
      </IconButton>
    </Row>
  )
}

/** "a lies on axis", "line1 and line3 are parallel". */
const said = ({ kind, points, entities }: Relation): string =>
  points.length > 0 && entities.length > 0
    ? `${points.join(' and ')} ${RELATIONS[kind].says} ${entities.join(' and ')}`
    : `${[...points, ...entities].join(' and ')} ${RELATIONS[kind].says}`

function RelationRow({
  op,
  drawing,
  r,
  profile,
}: {
  op: Op
  drawing: Drawing
  r: Relation
  profile: ProfileView
}) {
  return (
    <Row id={r.id} profile={profile}>
      <button
        type="button"
        className="min-w-0 flex-1 truncate text-left hover:text-brass"
        onClick={() => choose(r)}
      >
        {said(r)}
      </button>
      <IconButton
        label={`Release ${relationWords(drawing, r.id)}`}
        className="size-6!"
        onClick={() => release(op.id, drawing, r.id)}
      >
        <X size={13} />
      </IconButton>
    </Row>
  )
}
