import { fixed, freshId } from '@ivory/core/math'
import type { Drawing, Pattern } from '@ivory/core/profile'
import { type Op, rowTroubles, sayLengths } from '@ivory/core/workpiece'
import { X } from 'lucide-react'
import type { ProfileView } from '../../engine'
import { setInputs, useSession } from '../../session/session'
import { typedValue } from '../../table/drawing/typed'
import { Button, Choice, CommitInput, IconButton } from '../../ui/controls'
import { typedNumber } from '../../ui/number'

/** What may be given of a row; what is left empty is reckoned. */
const ROW_VALUES = [
  { name: 'size', word: 'size', help: 'Width of one along the row.' },
  { name: 'count', word: 'count', help: 'How many.' },
  { name: 'pitch', word: 'pitch', help: 'From one to the next.' },
  { name: 'gap', word: 'gap', help: 'Free between two.' },
  { name: 'gapMost', word: 'gap at most', help: 'As few pieces as keep it under this.' },
  { name: 'length', word: 'length', help: 'The place the row lies in, for its margins.' },
  { name: 'head', word: 'head', help: 'Margin before the first.' },
  { name: 'tail', word: 'tail', help: 'Margin after the last.' },
  { name: 'extent', word: 'extent', help: 'From the first’s start to the last’s end.' },
] as const

type RowPattern = Extract<Pattern, { kind: 'row' }>

/** Rows and rings of pieces: what settles a row given, the rest reckoned and shown. */
export function PatternFields({
  op,
  drawing,
  pieces,
  profile,
}: {
  op: Op
  drawing: Drawing
  pieces: string[]
  profile: ProfileView
}) {
  const patterns = drawing.patterns ?? []
  const put = (next: Pattern[]) => setInputs(op.id, { drawing: { ...drawing, patterns: next } })
  const add = (kind: Pattern['kind']) => {
    const id = freshId(
      patterns.map((p) => p.id),
      kind,
    )
    put([
      ...patterns,
      kind === 'row'
        ? { id, kind, entities: pieces, along: 'upright', size: 2, count: 5, pitch: 6 }
        : { id, kind, entities: pieces, about: 'origin', count: 6 },
    ])
  }
  const change = (id: string, patch: Record<string, unknown>) =>
    put(
      patterns.map((p) => {
        if (p.id !== id) return p
        const next = { ...p, ...patch } as Record<string, unknown>
        for (const [k, v] of Object.entries(patch)) if (v === undefined) delete next[k]
        return next as Pattern
      }),
    )
  return (
    <div className="flex flex-col gap-1">
      {pieces.length > 0 && (
        <p className="flex gap-1">
          <Button className="py-0!" onClick={() => add('row')}>
            Repeat in a row
          </Button>
          <Button className="py-0!" onClick={() => add('ring')}>
            Repeat in a ring
          </Button>
        </p>
      )}
      {patterns.map((p) => (
        <fieldset key={p.id} className="border border-rule px-2 pb-1.5">
          <legend className="flex items-center gap-1 px-1">
            {p.id}: {p.entities.length} pieces
            <IconButton
              label={`Take off ${p.id}`}
              className="size-5!"
              onClick={() => put(patterns.filter((x) => x.id !== p.id))}
            >
              <X size={12} />
            </IconButton>
          </legend>
          {p.kind === 'row' ? (
            <RowFields p={p} profile={profile} change={(patch) => change(p.id, patch)} />
          ) : (
            <div className="grid grid-cols-[4rem_1fr] items-center gap-x-2 gap-y-0.5">
              <span>count</span>
              <ValueInput p={p} name="count" change={(patch) => change(p.id, patch)} />
              <span>over</span>
              <ValueInput
                p={p}
                name="extent"
                change={(patch) => change(p.id, patch)}
                empty="a whole turn"
              />
            </div>
          )}
        </fieldset>
      ))}
    </div>
  )
}

function ValueInput({
  p,
  name,
  change,
  empty = 'reckoned',
}: {
  p: Pattern
  name: string
  change(patch: Record<string, unknown>): void
  empty?: string
}) {
  const unit = useSession((s) => s.doc?.unit ?? 'mm')
  const value = (p as unknown as Record<string, string | number | undefined>)[name]
  return (
    <CommitInput
      aria-label={`${name} of ${p.id}`}
      className="figures w-full"
      value={value === undefined ? '' : String(value)}
      placeholder={empty}
      onCommit={(t) => {
        const plain = name === 'count' ? typedNumber(t) : null
        change({ [name]: t.trim() === '' ? undefined : (plain ?? typedValue(t, unit)) })
      }}
    />
  )
}

function RowFields({
  p,
  profile,
  change,
}: {
  p: RowPattern
  profile: ProfileView
  change(patch: Record<string, unknown>): void
}) {
  const row = profile.rows[p.id]
  const trouble = profile.hold.unfit.find((u) => u.id === p.id)
  const brief = useSession((s) => s.doc!.brief)
  const unit = useSession((s) => s.doc!.unit)
  const troubles = row ? rowTroubles(row, p.of ?? 'ribs', brief) : []
  return (
    <>
      <div className="grid grid-cols-[5.5rem_1fr] items-center gap-x-2 gap-y-0.5">
        <span>along</span>
        <Choice
          label={`Way of ${p.id}`}
          value={p.along}
          options={[
            { value: 'upright', label: 'upright' },
            { value: 'level', label: 'level' },
          ]}
          onChange={(along) => change({ along })}
        />
        <span>of</span>
        <Choice
          label={`What ${p.id} is made of`}
          value={p.of ?? 'ribs'}
          options={[
            { value: 'ribs', label: 'ribs, gaps between' },
            { value: 'slots', label: 'slots, webs between' },
          ]}
          onChange={(of) => change({ of })}
        />
        {ROW_VALUES.map(({ name, word, help }) => (
          <div key={name} className="contents">
            <span title={help}>
              {p.of === 'slots' && name.startsWith('gap') ? word.replace('gap', 'web') : word}
            </span>
            <ValueInput p={p} name={name} change={change} />
          </div>
        ))}
      </div>
      {row && (
        <p className="mt-1 border-brass border-l-2 bg-sheet px-2" data-testid={`row-${p.id}`}>
          <span className="figures">{row.count}</span> pieces, pitch{' '}
          <span className="figures">{fixed(row.pitch, 3)}</span>, {p.of === 'slots' ? 'web' : 'gap'}{' '}
          <span className="figures">{fixed(row.gap, 3)}</span>, extent{' '}
          <span className="figures">{fixed(row.extent, 3)}</span>
          {p.length !== undefined && (
            <>
              , head <span className="figures">{fixed(row.head, 3)}</span>, tail{' '}
              <span className="figures">{fixed(row.tail, 3)}</span>
            </>
          )}
          {row.rest > 1e-6 && (
            <>
              , <span className="figures">{fixed(row.rest, 3)}</span> left over at the end
            </>
          )}
        </p>
      )}
      {troubles.map((t) => (
        <p key={t} className="text-marginal">
          Note. {sayLengths(t, unit)}
        </p>
      ))}
      {trouble && <p className="text-out">{trouble.message}</p>}
    </>
  )
}
