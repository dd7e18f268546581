import type { Op } from '@ivory/core/workpiece'
import clsx from 'clsx'
import { Slider } from 'radix-ui'
import { CAGE_BY, CAGE_PICKS } from '../../../session/cagestate'
import {
  addEdit,
  pickBy,
  pickNone,
  pickOf,
  pickOnly,
  pickThrough,
  smoothTo,
  useCage,
} from '../../../session/caging'
import { useSession } from '../../../session/session'
import { Button } from '../../../ui/controls'
import { useLetters } from '../../../ui/letters'
import { CAGE_KEY, EDIT_KINDS, EDIT_LETTERS } from './kinds'
import { morePicked } from './more'

/** What of a cage is picked, how, and what can be done with it. Two strokes do each: D, then the letter or figure on it. */
export function Picks({ op }: { op: Op }) {
  const { what, by, through, picks, smooth } = useSession((s) => s.caging)
  const cage = useCage()?.cage
  const there = useSession((s) => s.settled?.available[op.id])
  const first = { body: there?.bodies[0]?.id ?? '', path: there?.paths.at(-1) ?? '' }
  const kinds = CAGE_PICKS.filter(
    (w) => (w !== 'rows' && w !== 'columns') || cage?.rows.length !== 0,
  )
  const edits: { kind: keyof typeof EDIT_LETTERS; label: string; help: string; do?: () => void }[] =
    [
      ...(Object.keys(EDIT_KINDS) as (keyof typeof EDIT_KINDS)[]).map((kind) => {
        const k = EDIT_KINDS[kind]
        const able = picks.length > 0 || k.whole
        return {
          kind,
          label: k.label,
          help: k.help,
          ...(able && { do: () => void addEdit(op.id, k.start([...picks], first)) }),
        }
      }),
      ...(cage && cage.rows.length > 1
        ? [
            {
              kind: 'rows' as const,
              label: 'Rows',
              help: 'A table: each row sized, lifted, and turned against the row below.',
              do: () => void addEdit(op.id, { kind: 'rows', rows: [] }),
            },
          ]
        : []),
    ]
  const open = useLetters(CAGE_KEY, (letter) => {
    const figure = Number(letter) - 1
    const [kind, how] = [CAGE_PICKS[figure], CAGE_BY[figure - CAGE_PICKS.length]]
    if (kind && kinds.includes(kind)) pickOf(kind)
    else if (how) pickBy(how)
    else if (letter === '0') pickNone()
    else edits.find((e) => EDIT_LETTERS[e.kind] === letter)?.do?.()
  })
  return (
    <div className="flex flex-col gap-1 border-rule/60 border-y py-2">
      <fieldset className="flex flex-wrap items-center gap-1">
        <legend className="sr-only">What is picked on the cage</legend>
        {kinds.map((w) => (
          <Toggle
            key={w}
            on={what === w}
            letter={open && `${CAGE_PICKS.indexOf(w) + 1}`}
            do={() => pickOf(w)}
          >
            {w}
          </Toggle>
        ))}
      </fieldset>
      <fieldset className="flex flex-wrap items-center gap-1">
        <legend className="float-left mr-1 text-soft text-sm">by</legend>
        {CAGE_BY.map((b, i) => (
          <Toggle
            key={b}
            on={by === b}
            letter={open && `${CAGE_PICKS.length + i + 1}`}
            do={() => pickBy(b)}
          >
            {b}
          </Toggle>
        ))}
        {(by === 'frame' || by === 'loop') && (
          <label className="flex items-center gap-1 text-sm">
            <input
              type="checkbox"
              checked={through}
              onChange={(e) => pickThrough(e.target.checked)}
            />
            <span className="text-soft">behind too</span>
          </label>
        )}
      </fieldset>
      <div className="flex items-center gap-2 text-sm">
        <span className="text-soft">cage</span>
        <Slider.Root
          className="relative flex h-4 flex-1 touch-none select-none items-center"
          min={0}
          max={100}
          step={1}
          value={[Math.round(smooth * 100)]}
          onValueChange={([v]) => smoothTo((v ?? 0) / 100)}
        >
          <Slider.Track className="relative h-1.5 w-full rounded-full bg-rule">
            <Slider.Range className="absolute h-full rounded-full bg-brass" />
          </Slider.Track>
          <Slider.Thumb
            aria-label="From the bare cage to the smooth form"
            className="block h-4 w-3 rounded-sm border border-brass bg-sheet shadow-sm"
          />
        </Slider.Root>
        <span className="text-soft">form</span>
      </div>
      <div className="flex items-baseline gap-2 text-sm">
        <span data-testid="cage-picks" className="min-w-0 flex-1 truncate" title={picks.join(', ')}>
          {picks.length === 0
            ? HINT[by](what)
            : picks.length <= 3
              ? picks.join(', ')
              : `${picks.length} ${what}`}
        </span>
        <Button tone="quiet" className="px-1! py-0!" onClick={() => pickOnly(['all'])}>
          all
        </Button>
        {picks.length > 0 && (
          <>
            {cage && (
              <Button
                tone="quiet"
                className="px-1! py-0!"
                title="Points and faces beside them too; edges on along their lines."
                onClick={() => pickOnly(morePicked(cage, picks))}
              >
                more
              </Button>
            )}
            <Button tone="quiet" className="px-1! py-0!" onClick={pickNone}>
              none
            </Button>
          </>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-1">
        <kbd
          title="Press this, then the letter or figure that comes up"
          className={clsx('figures rounded-sm px-1', open ? 'bg-brass text-sheet' : 'text-soft')}
        >
          {CAGE_KEY.toUpperCase()}
        </kbd>
        {edits.map((e) => (
          <Button
            key={e.kind}
            className="px-1.5! py-0.5! text-sm"
            title={`${e.help} (${CAGE_KEY.toUpperCase()}, then ${EDIT_LETTERS[e.kind].toUpperCase()})`}
            disabled={!e.do}
            onClick={e.do}
          >
            {e.label}
            {open && <Key>{EDIT_LETTERS[e.kind]}</Key>}
          </Button>
        ))}
      </div>
    </div>
  )
}

const HINT: Record<(typeof CAGE_BY)[number], (what: string) => string> = {
  click: (what) => `Click ${what} on the Stage.`,
  frame: (what) => `Draw a frame about ${what}.`,
  loop: (what) => `Draw a loop about ${what}.`,
  brush: (what) => `Pass over ${what}, pressed.`,
}

const Key = ({ children }: { children: string }) => (
  <kbd className="figures ml-1 rounded-sm bg-brass px-0.5 text-sheet">{children.toUpperCase()}</kbd>
)

function Toggle({
  on,
  letter,
  do: act,
  children,
}: {
  on: boolean
  letter: string | false
  do(): void
  children: string
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={clsx(
        'rounded-sm px-1.5 py-0.5 text-sm',
        on ? 'bg-brass-wash text-brass' : 'text-soft hover:bg-shade',
      )}
      onClick={act}
    >
      {children}
      {letter && <Key>{letter}</Key>}
    </button>
  )
}
