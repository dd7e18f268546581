import { fixed } from '@ivory/core/math'
import type { CageEdit } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import { CommitInput } from '../../../ui/controls'

type RowsEdit = Extract<CageEdit, { kind: 'rows' }>
type RowDoc = RowsEdit['rows'][number]

const COLUMNS = [
  { key: 'size', label: 'size', title: 'Of what its radius was' },
  { key: 'lift', label: 'lift', title: 'Up or down' },
  { key: 'twist', label: 'twist', title: 'Against the row below' },
] as const

/** The rows of a cage from the top down: size, lift, the turn of each against the row below it, and what that adds up to. */
export function RowsTable({
  op,
  rows,
  edit,
  change,
}: {
  op: Op
  rows: readonly { name: string }[]
  edit: RowsEdit
  change(to: object): void
}) {
  const told = Array.isArray(edit.rows) ? edit.rows : []
  const given = new Map(told.map((r) => [r.row, r]))
  let [sum, known] = [0, true]
  const sums = rows.map(({ name }) => {
    const twist = given.get(name)?.twist
    const turn = twist === undefined ? 0 : inDegrees(twist)
    if (turn === null) known = false
    sum += turn ?? 0
    return known ? `${fixed(sum, 1)}°` : ''
  })
  const put = (row: string, key: (typeof COLUMNS)[number]['key'], text: string) => {
    const t = text.trim()
    const n = Number(t)
    const value = t === '' ? undefined : !Number.isFinite(n) ? t : key === 'twist' ? `${n} deg` : n
    const next: RowDoc = { ...given.get(row), row, [key]: value }
    if (value === undefined) delete next[key]
    change({ rows: [...told.filter((r) => r.row !== row), next] })
  }
  return (
    <table className="ml-5 text-sm" data-testid={`rows-of-${op.id}`}>
      <thead>
        <tr className="text-left text-soft">
          <th className="pr-2 font-normal">row</th>
          {COLUMNS.map((c) => (
            <th key={c.key} className="font-normal" title={c.title}>
              {c.label}
            </th>
          ))}
          <th className="pl-2 text-right font-normal" title="Turned in all">
            in all
          </th>
        </tr>
      </thead>
      <tbody>
        {rows
          .map(({ name }, k) => (
            <tr key={name}>
              <td className="figures pr-2 text-soft">{name}</td>
              {COLUMNS.map((c) => (
                <td key={c.key}>
                  <CommitInput
                    aria-label={`Row ${name} ${c.label}`}
                    className="figures w-14"
                    value={String(given.get(name)?.[c.key] ?? '')}
                    onCommit={(t) => put(name, c.key, t)}
                  />
                </td>
              ))}
              <td className="figures pl-2 text-right text-soft">{sums[k]}</td>
            </tr>
          ))
          .reverse()}
      </tbody>
    </table>
  )
}

/** A typed turn in degrees; null for what holds a figure. */
function inDegrees(v: number | string): number | null {
  if (typeof v === 'number') return v
  const found = /^(-?[\d.]+) ?(deg)?$/.exec(v)
  return found ? Number(found[1]) : null
}
