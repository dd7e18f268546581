import { type Frame, type P3, rounded } from '@ivory/core/math'
import { START } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import type { DatumView } from '../engine'
import { typedValue } from '../table/typed'
import { edit, opOf, SHEETS, setInputs, type Tracing, useSession } from './session'

/** A place of a path as it is kept. */
export type StopDoc = {
  by?: 'line' | 'arc' | 'over' | 'spline'
  round?: number | string
} & (
  | { point: string }
  | { x: number | string; y: number | string; z: number | string; rel?: boolean }
)

export const stopsOf = (op: Op | undefined): StopDoc[] =>
  (op?.inputs.stops as StopDoc[] | undefined) ?? []

export const putStops = (op: string, stops: StopDoc[], how = edit): void =>
  setInputs(op, { stops }, how)

/** Begins to draw a path on the Stage, or leaves off. */
export function trace(op: string | null): void {
  useSession.setState({
    tracing: op === null ? null : { op, sheet: 'level', by: 'line' },
    picking: null,
  })
}

/** Lays the sheet the next way. */
export function turnSheet(): void {
  const { tracing } = useSession.getState()
  if (!tracing) return
  const next = SHEETS[(SHEETS.indexOf(tracing.sheet) + 1) % SHEETS.length]!
  useSession.setState({ tracing: { ...tracing, sheet: next } })
}

/** The sheet a path is drawn on: through its last place, or the origin where it has none. */
export const sheetOf = ({ sheet }: Tracing, last: P3): Frame => ({
  ...START.planes[sheet === 'level' ? 'top' : sheet]!.frame,
  origin: last,
})

/** Where a path ends that is shown; null where it is not. */
export function tipOf(datums: readonly DatumView[] | undefined, op: string): P3 | null {
  const path = datums?.find((d) => d.id === op && d.kind === 'path')
  return path?.kind === 'path' ? (path.pieces.at(-1)?.at(-1) ?? null) : null
}

/** Adds a place to the path that is drawn, to the hundredth. */
export function addStop(op: string, at: P3, by: Tracing['by']): void {
  const found = opOf(useSession.getState().doc, op)
  const [x, y, z] = at.map((c) => rounded(c, 2)) as unknown as P3
  putStops(op, [...stopsOf(found), { x, y, z, rel: false, by }])
}

/**
 * A typed place: three numbers or expressions without spaces, parted by spaces or semicolons; with a plus sign before them they
 * count from the place before. Null where it is none.
 */
export function typedStop(text: string, unit: 'mm' | 'in', by: Tracing['by']): StopDoc | null {
  const rel = text.trim().startsWith('+')
  const parts = text
    .trim()
    .replace(/^\+/, '')
    .split(/[\s;]+/)
    .filter(Boolean)
  if (parts.length !== 3) return null
  const [x, y, z] = parts.map((p) => typedValue(p, unit))
  return x == null || y == null || z == null ? null : { x, y, z, rel, by }
}

/**
 * The places of a path with one moved by a vector, mm; the one after it stays where it is. Coordinates that are expressions
 * stay too: a figure moves them.
 */
export function movedStop(stops: readonly StopDoc[], index: number, by: P3): StopDoc[] {
  const moved = stops[index]
  if (!moved || 'point' in moved) return [...stops]
  const free = (['x', 'y', 'z'] as const).map((axis) => typeof moved[axis] === 'number')
  const shifted = (s: StopDoc, sign: 1 | -1): StopDoc => {
    if ('point' in s) return s
    const next = { ...s }
    for (const [k, axis] of (['x', 'y', 'z'] as const).entries()) {
      const v = s[axis]
      if (free[k] && typeof v === 'number') next[axis] = rounded(v + sign * by[k]!, 3)
    }
    return next
  }
  return stops.map((s, i) => {
    if (i === index) return shifted(s, 1)
    return i === index + 1 && 'rel' in s && s.rel ? shifted(s, -1) : s
  })
}

/** The path that is drawn on the Table in plan and elevation: the selected op's, where it goes through places. */
export function pathOnTable({
  doc,
  selected,
  settled,
}: Pick<ReturnType<typeof useSession.getState>, 'doc' | 'selected' | 'settled'>) {
  const op = opOf(doc, selected)
  if (op?.kind !== 'path') return null
  const shown = settled?.datums.find((d) => d.id === op.id)
  return shown?.kind === 'path' && shown.stops.length > 0 ? shown : null
}
