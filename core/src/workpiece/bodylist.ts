import { materialOf } from './materials'
import type { Workpiece } from './schema'

/** What is measured of a body: volume mm3, its box along x, y and z, mm, and the worst word of its gauges. */
export interface ListedBody {
  id: string
  name: string
  volume: number
  size: readonly [number, number, number]
  verdict: string
}
/** A row of the list: volume cm3, mass g and what its material costs; null where no material, or no price, is told. */
export interface BodyRow {
  name: string
  material: string
  volume: number
  mass: number | null
  cost: number | null
  size: readonly [number, number, number]
  verdict: string
}

/** The bodies as a list with its total; the total of a column is null where one of its bodies has none. */
export function bodyRows(
  w: Workpiece,
  bodies: readonly ListedBody[],
): { rows: BodyRow[]; total: Pick<BodyRow, 'volume' | 'mass' | 'cost'> } {
  const rows = bodies.map((b): BodyRow => {
    const material = materialOf(w.bodies[b.id]?.material ?? w.brief.material, w.materials)
    const volume = b.volume / 1000
    const mass = material ? volume * material.density : null
    const cost =
      mass !== null && material?.price !== undefined ? (mass / 1000) * material.price : null
    return {
      name: b.name,
      material: material?.name ?? '',
      volume,
      mass,
      cost,
      size: b.size,
      verdict: b.verdict,
    }
  })
  const sum = (of: (r: BodyRow) => number | null) =>
    rows.reduce<number | null>((s, r) => {
      const x = of(r)
      return s === null || x === null ? null : s + x
    }, 0)
  return {
    rows,
    total: {
      volume: sum((r) => r.volume) ?? 0,
      mass: sum((r) => r.mass),
      cost: sum((r) => r.cost),
    },
  }
}

const HEAD = [
  'body',
  'material',
  'volume cm3',
  'mass g',
  'cost',
  'size x mm',
  'size y mm',
  'size z mm',
  'verdict',
]
const told = (x: number | null, digits: number): string => (x === null ? '' : x.toFixed(digits))

/** The list as cells, head and total with it. */
export function bodyCells(list: ReturnType<typeof bodyRows>): string[][] {
  const { rows, total } = list
  return [
    HEAD,
    ...rows.map((r) => [
      r.name,
      r.material,
      told(r.volume, 3),
      told(r.mass, 2),
      told(r.cost, 2),
      ...r.size.map((x) => told(x, 3)),
      r.verdict,
    ]),
    ['total', '', told(total.volume, 3), told(total.mass, 2), told(total.cost, 2), '', '', '', ''],
  ]
}

/** Cells as comma-separated values (RFC 4180). What a spreadsheet would take for a formula is text. */
export const csvOf = (cells: readonly (readonly string[])[]): string =>
  cells
    .map((row) => row.map(csvCell).join(','))
    .join('\r\n')
    .concat('\r\n')

function csvCell(text: string): string {
  const safe = /^[=+@\t\r]|^-(?![\d.])/.test(text) ? `'${text}` : text
  return /[",\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe
}

/** Cells as text that pastes into a spreadsheet: tabs between, a line a row. */
export const tabbed = (cells: readonly (readonly string[])[]): string =>
  cells.map((row) => row.map((c) => c.replace(/[\t\r\n]+/g, ' ')).join('\t')).join('\n')
