import { freshId, rounded } from '@ivory/core/math'
import {
  type Figure,
  type FigureValue,
  figureSchema,
  renameFigure,
  sayIssue,
  usesOf,
} from '@ivory/core/workpiece'
import clsx from 'clsx'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import { Slider } from 'radix-ui'
import { memo, useMemo, useState } from 'react'
import { toast } from 'sonner'
import { edit, preview, select, settle, useSession } from '../../session/session'
import { Button, CommitInput, IconButton } from '../../ui/controls'
import { typedNumber } from '../../ui/number'
import { opName } from '../names'

type Value = { value: number; length: number; angle: number } | undefined

/** A figure's value in its own unit, for reading and sliding. */
function shownValue(q: Value): { number: number; unit: string } | null {
  if (!q) return null
  if (q.length === 1) return { number: q.value, unit: 'mm' }
  if (q.length === 3) return { number: q.value / 1000, unit: 'ml' }
  if (q.angle === 1) return { number: (q.value * 180) / Math.PI, unit: 'deg' }
  return { number: q.value, unit: '' }
}
const trim = (x: number) => String(rounded(x, 3))

/** The named dimensions: change one and everything that uses it follows. */
export function FiguresPanel() {
  const figures = useSession((s) => s.doc?.figures) ?? []
  const values = useSession((s) => s.view?.figures)
  // As it was when a drag began: where a figure is used does not change on the way.
  const doc = useSession((s) => s.dragFrom ?? s.doc)!
  const uses = useMemo(() => new Map(doc.figures.map((f) => [f.name, usesOf(doc, f.name)])), [doc])
  const add = () =>
    edit((d) => {
      const name = freshId(
        d.figures.map((f) => f.name),
        'figure',
      )
      d.figures.push({ name, expr: '10 mm' })
    })
  return (
    <section aria-label="Figures" className="border-rule border-t p-3">
      <div className="mb-1 flex items-center justify-between">
        <h2 className="font-medium">Figures</h2>
        <Button className="py-0! text-sm" onClick={add}>
          + Figure
        </Button>
      </div>
      {figures.length === 0 && (
        <p className="text-soft text-sm">
          Name a dimension here, such as <span className="figures">belly = 75 mm</span>, and use the
          name wherever a number goes.
        </p>
      )}
      <ul>
        {figures.map((f, i) => (
          <FigureRow
            key={f.name}
            figure={f}
            i={i}
            last={i === figures.length - 1}
            uses={uses.get(f.name) ?? UNUSED}
            v={values?.find((x) => x.name === f.name)}
          />
        ))}
      </ul>
    </section>
  )
}

/** Changes a figure after checking that it may be so; says why not otherwise. */
function change(i: number, patch: Partial<Record<keyof Figure, Figure[keyof Figure] | undefined>>) {
  const { doc } = useSession.getState()
  if (!doc) return
  const raw = Object.fromEntries(
    Object.entries({ ...doc.figures[i], ...patch }).filter(([, v]) => v !== undefined),
  )
  const next = figureSchema.safeParse(raw)
  if (!next.success) {
    toast.error(`This figure cannot be: ${sayIssue(next.error.issues[0]!)}.`)
    return
  }
  const old = doc.figures[i]!.name
  if (next.data.name !== old && doc.figures.some((f) => f.name === next.data.name)) {
    toast.error(`There is a figure named ${next.data.name} already.`)
    return
  }
  edit((d) => {
    if (next.data.name !== old) renameFigure(d, old, next.data.name)
    d.figures[i] = next.data
  })
}

function drop(i: number) {
  const { doc } = useSession.getState()
  if (!doc) return
  const { name } = doc.figures[i]!
  const uses = usesOf(doc, name)
  const users = [...uses.figures, ...uses.ops.map((id) => doc.route.find((o) => o.id === id)!.name)]
  if (users.length > 0) toast.error(`${name} is used by ${users.join(', ')}.`)
  else edit((d) => void d.figures.splice(i, 1))
}

const move = (i: number, by: 1 | -1) =>
  edit((d) => {
    const [f] = d.figures.splice(i, 1)
    d.figures.splice(i + by, 0, f!)
  })

interface RowProps {
  figure: Figure
  i: number
  last: boolean
  uses: ReturnType<typeof usesOf>
  v: FigureValue | undefined
}
const UNUSED: RowProps['uses'] = { figures: [], ops: [] }

/** Every rebuild works the figures out anew: a row is drawn again only when something in it is other. */
const sameRow = (a: RowProps, b: RowProps): boolean =>
  a.figure === b.figure &&
  a.i === b.i &&
  a.last === b.last &&
  a.uses === b.uses &&
  a.v?.error === b.v?.error &&
  a.v?.quantity?.value === b.v?.quantity?.value &&
  a.v?.quantity?.length === b.v?.quantity?.length &&
  a.v?.quantity?.angle === b.v?.quantity?.angle

const FigureRow = memo(function FigureRow({ figure: f, i, last, uses, v }: RowProps) {
  const count = uses.figures.length + uses.ops.length
  const now = shownValue(v?.quantity)
  const [open, setOpen] = useState(false)
  const plain = now !== null && /^\s*[-+]?[\d.]+\s*(mm|deg|ml)?\s*$/.test(f.expr)
  return (
    <li className="border-rule/60 border-b py-0.5 text-sm">
      <div className="grid grid-cols-[1fr_1.15fr_4.6rem] items-center gap-1">
        <CommitInput
          aria-label="Name of the figure"
          className="figures"
          value={f.name}
          onCommit={(t) => change(i, { name: t.trim() })}
        />
        <CommitInput
          aria-label={`Value of ${f.name}`}
          className="figures"
          value={f.expr}
          error={v?.error}
          title={v?.error ?? f.note}
          onCommit={(t) => change(i, { expr: t.trim() })}
        />
        <button
          type="button"
          aria-expanded={open}
          aria-label={`More of ${f.name}, used ${count} times`}
          className="figures truncate text-right text-soft hover:text-brass"
          title={now ? `${trim(now.number)} ${now.unit}` : 'no value'}
          onClick={() => setOpen(!open)}
        >
          {now && !plain ? `= ${trim(now.number)} ` : ''}×{count} {open ? '▴' : '▾'}
        </button>
      </div>
      {open && (
        <div className="my-1 grid grid-cols-[3rem_1fr] items-center gap-x-2 gap-y-1 border-brass border-l-2 pl-2">
          <span>note</span>
          <CommitInput
            aria-label={`Note on ${f.name}`}
            value={f.note ?? ''}
            onCommit={(t) => change(i, { note: t.trim() || undefined })}
          />
          <span>from, to</span>
          <span className="flex items-center gap-1">
            {(['min', 'max'] as const).map((k) => (
              <CommitInput
                key={k}
                aria-label={`${k === 'min' ? 'Least' : 'Most'} of ${f.name}`}
                className="figures w-16"
                value={f[k] === undefined ? '' : String(f[k])}
                onCommit={(t) => {
                  const n = typedNumber(t)
                  if (n === null && t.trim() !== '') toast.error(`${t} is not a number.`)
                  else change(i, { [k]: n ?? undefined })
                }}
              />
            ))}
            <span className="text-soft">{now?.unit}</span>
          </span>
          <span>used in</span>
          <span className="flex flex-wrap gap-x-2">
            {count === 0 && <span className="text-soft">nothing yet</span>}
            {uses.figures.map((n) => (
              <span key={n} className="figures">
                {n}
              </span>
            ))}
            {uses.ops.map((id) => (
              <button
                key={id}
                type="button"
                className="text-brass underline"
                onClick={() => select(id)}
              >
                <OpName id={id} />
              </button>
            ))}
          </span>
          <span />
          <span className="flex justify-end">
            <IconButton label={`Move ${f.name} up`} disabled={i === 0} onClick={() => move(i, -1)}>
              <ArrowUp size={13} />
            </IconButton>
            <IconButton label={`Move ${f.name} down`} disabled={last} onClick={() => move(i, 1)}>
              <ArrowDown size={13} />
            </IconButton>
            <IconButton label={`Delete ${f.name}`} onClick={() => drop(i)}>
              <Trash2 size={13} />
            </IconButton>
          </span>
        </div>
      )}
      {v?.error && <p className="text-out">{v.error}</p>}
      {now && plain && f.min !== undefined && f.max !== undefined && f.min < f.max && (
        <FigureSlider figure={f} i={i} now={now} min={f.min} max={f.max} />
      )}
    </li>
  )
}, sameRow)

function OpName({ id }: { id: string }) {
  return useSession((s) => opName(s.doc, id))
}

/** Drives the part live between the figure's least and most. */
function FigureSlider({
  figure,
  i,
  now,
  min,
  max,
}: {
  figure: Figure
  i: number
  now: { number: number; unit: string }
  min: number
  max: number
}) {
  const out = now.number < min || now.number > max
  return (
    <div className="flex items-center gap-2 py-0.5">
      <span className="figures text-soft">{min}</span>
      <Slider.Root
        className="relative flex h-4 flex-1 touch-none select-none items-center"
        min={min}
        max={max}
        step={(max - min) / 200}
        value={[Math.min(max, Math.max(min, now.number))]}
        onValueChange={([v]) =>
          preview((d) => {
            d.figures[i]!.expr = `${trim(v!)}${now.unit ? ` ${now.unit}` : ''}`
          })
        }
        onValueCommit={settle}
      >
        <Slider.Track className="relative h-1 w-full rounded-full bg-rule">
          <Slider.Range
            className={clsx('absolute h-full rounded-full', out ? 'bg-out' : 'bg-brass')}
          />
        </Slider.Track>
        <Slider.Thumb
          aria-label={`Slide ${figure.name}`}
          className="block h-4 w-2 rounded-sm border border-brass bg-sheet shadow-sm"
        />
      </Slider.Root>
      <span className="figures text-soft">{max}</span>
      {out && <span className="text-out">outside</span>}
    </div>
  )
}
