import { type Figure, figureSchema, freshId, usedBy } from '@ivory/core/workpiece'
import { Trash2 } from 'lucide-react'
import { toast } from 'sonner'
import { edit, useSession } from '../session/session'
import { Button, CommitInput, IconButton } from '../ui/controls'

/** The named dimensions: change one and everything that uses it follows. */
export function FiguresPanel() {
  const figures = useSession((s) => s.doc?.figures) ?? []
  const values = useSession((s) => s.view?.figures)
  const change = (i: number, patch: Partial<Figure>) => {
    const next = figureSchema.safeParse({ ...figures[i], ...patch })
    if (!next.success) {
      toast.error(`This figure cannot be: ${next.error.issues[0]!.message}.`)
      return
    }
    if (patch.name && figures.some((f, k) => k !== i && f.name === patch.name)) {
      toast.error(`There is a figure named ${patch.name} already.`)
      return
    }
    edit((d) => {
      const old = d.figures[i]!.name
      d.figures[i] = next.data
      if (patch.name && patch.name !== old) renameEverywhere(d, old, patch.name)
    })
  }
  const drop = (i: number) => {
    const word = new RegExp(`\\b${figures[i]!.name}\\b`)
    const ops = (useSession.getState().doc?.route ?? [])
      .filter((o) => word.test(JSON.stringify(o.inputs)))
      .map((o) => o.name)
    const users = [...usedBy(figures, figures[i]!.name), ...ops]
    if (users.length > 0) {
      toast.error(`${figures[i]!.name} is used by ${users.join(', ')}.`)
      return
    }
    edit((d) => void d.figures.splice(i, 1))
  }
  const add = () => {
    const name = freshId(
      figures.map((f) => f.name),
      'figure',
    )
    edit((d) => void d.figures.push({ name, expr: '10 mm' }))
  }
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
        {figures.map((f, i) => {
          const v = values?.find((x) => x.name === f.name)
          return (
            <li
              key={f.name}
              className="grid grid-cols-[1fr_1.2fr_auto] items-center gap-1 py-px text-sm"
            >
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
              <IconButton label={`Delete ${f.name}`} className="size-6!" onClick={() => drop(i)}>
                <Trash2 size={13} />
              </IconButton>
              {v?.error && <p className="col-span-3 text-out">{v.error}</p>}
            </li>
          )
        })}
      </ul>
    </section>
  )
}

/** Puts the new name in every expression of figures and inputs. */
function renameEverywhere(
  d: { figures: { expr: string }[]; route: { inputs: Record<string, unknown> }[] },
  from: string,
  to: string,
) {
  const word = new RegExp(`\\b${from}\\b`, 'g')
  for (const f of d.figures) f.expr = f.expr.replace(word, to)
  const deep = (v: unknown, key: string): unknown => {
    if (typeof v === 'string') return EXPRESSION_KEYS.has(key) ? v.replace(word, to) : v
    if (Array.isArray(v)) return v.map((x) => deep(x, key))
    if (v && typeof v === 'object')
      return Object.fromEntries(Object.entries(v).map(([k, x]) => [k, deep(x, k)]))
    return v
  }
  for (const op of d.route) op.inputs = deep(op.inputs, '') as Record<string, unknown>
}
/** Inputs whose text is an expression; others are names and ids. */
const EXPRESSION_KEYS = new Set([
  'x',
  'y',
  'radius',
  'distance',
  'second',
  'wall',
  'angle',
  'start',
  'offset',
  'value',
])
