import { freshId } from '@ivory/core/math'
import { MATERIALS, PROCESSES, type Tables } from '@ivory/core/workpiece'
import { Plus, Trash2 } from 'lucide-react'
import { setOwn, useOwn } from '../session/own'
import { Button, Choice, CommitInput, IconButton } from '../ui/controls'
import { typedNumber } from '../ui/number'

type Kind = keyof Tables
type Row = Record<string, unknown> & { id: string; name: string }
interface Column {
  name: string
  label: string
  /** Numbers must lie above `least`; they may be left out where `optional`. */
  as: 'text' | 'number' | 'process' | 'size'
  least?: number
  optional?: true
}

const put = (kind: Kind, rows: Row[]) =>
  setOwn({ tables: { ...useOwn.getState().tables, [kind]: rows } as Tables })

/** A table of one's own: each cell is typed in, rows are added and taken away. */
function OwnTable({
  kind,
  title,
  columns,
  fresh,
}: {
  kind: Kind
  title: string
  columns: Column[]
  fresh: Omit<Row, 'id'>
}) {
  const rows = useOwn((s) => s.tables[kind]) as unknown as Row[]
  const change = (id: string, to: object) =>
    put(
      kind,
      rows.map((r) => (r.id === id ? { ...r, ...to } : r)),
    )
  const typed = (r: Row, c: Column, text: string) => {
    if (c.as === 'text') {
      if (c.name !== 'name' || text.trim()) change(r.id, { [c.name]: text.trim().slice(0, 80) })
      return
    }
    if (c.as === 'size') {
      const sides = text.split(/[x×*\s]+/i).map((t) => Number(t.replace(',', '.')))
      if (sides.length === 3 && sides.every((s) => s > 0)) change(r.id, { [c.name]: sides })
      return
    }
    const n = typedNumber(text)
    if (n === null ? c.optional : n > (c.least ?? 0) || (c.least === undefined && n === 0))
      change(r.id, { [c.name]: n ?? undefined })
  }
  const shown = (v: unknown) =>
    Array.isArray(v) ? v.join(' × ') : v === undefined ? '' : String(v)
  return (
    <section aria-label={title}>
      <h2 className="mb-1 font-medium text-lg">{title}</h2>
      <table className="w-full">
        <thead>
          <tr className="text-left text-soft text-sm">
            {columns.map((c) => (
              <th key={c.name} className="pr-2 font-normal">
                {c.label}
              </th>
            ))}
            <th>
              <span className="sr-only">take away</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.id}>
              {columns.map((c) => (
                <td key={c.name} className="py-0.5 pr-2">
                  {c.as === 'process' ? (
                    <Choice
                      label={`${c.label} of ${r.name}`}
                      value={String(r[c.name])}
                      options={PROCESSES.map((p) => ({ value: p, label: p }))}
                      onChange={(v) => change(r.id, { [c.name]: v })}
                    />
                  ) : (
                    <CommitInput
                      aria-label={`${c.label} of ${r.name}`}
                      className={c.as === 'text' ? 'w-full' : 'figures w-full max-w-32'}
                      value={shown(r[c.name])}
                      onCommit={(t) => typed(r, c, t)}
                    />
                  )}
                </td>
              ))}
              <td>
                <IconButton
                  label={`Take ${r.name} away`}
                  onClick={() =>
                    put(
                      kind,
                      rows.filter((x) => x.id !== r.id),
                    )
                  }
                >
                  <Trash2 size={14} />
                </IconButton>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        className="mt-1"
        onClick={() => {
          const taken = [...rows.map((r) => r.id), ...MATERIALS.map((m) => m.id)]
          put(kind, [...rows, { ...fresh, id: freshId(taken, 'own') } as Row])
        }}
      >
        <Plus size={14} aria-hidden="true" /> Add a row
      </Button>
    </section>
  )
}

const number = (name: string, label: string, more: Partial<Column> = {}): Column => ({
  name,
  label,
  as: 'number',
  ...more,
})
const text = (name: string, label: string): Column => ({ name, label, as: 'text' })

export const Materials = () => (
  <>
    <OwnTable
      kind="materials"
      title="Materials of your own"
      columns={[
        text('name', 'name'),
        number('density', 'density, g/cm³'),
        number('price', 'price for 1 kg', { optional: true }),
        text('note', 'note'),
        text('source', 'source of the figures'),
      ]}
      fresh={{ name: 'New material', density: 1, note: '', source: '' }}
    />
    <p className="-mt-6 text-soft text-sm">
      {MATERIALS.length} more are there from the start; one of your own with a price is what cost is
      worked out by.
    </p>
  </>
)
export const Printers = () => (
  <OwnTable
    kind="printers"
    title="Printers"
    columns={[
      text('name', 'name'),
      { name: 'bed', label: 'bed, mm', as: 'size' },
      number('line', 'line, mm'),
      number('layer', 'layer, mm'),
      number('angle', 'leans out, deg'),
      number('bridge', 'bridges, mm'),
      text('note', 'note'),
    ]}
    fresh={{
      name: 'New printer',
      bed: [200, 200, 200],
      line: 0.45,
      layer: 0.2,
      angle: 45,
      bridge: 10,
      note: '',
    }}
  />
)
export const Processes = () => (
  <OwnTable
    kind="processes"
    title="Processes and their limits"
    columns={[
      text('name', 'name'),
      { name: 'process', label: 'how', as: 'process' },
      number('draft', 'least draft, deg', { optional: true }),
      number('wallLeast', 'wall from, mm', { optional: true }),
      number('wallMost', 'to, mm', { optional: true }),
      number('radius', 'least radius, mm', { optional: true }),
      text('note', 'note'),
    ]}
    fresh={{ name: 'New process', process: 'moulded', note: '' }}
  />
)
