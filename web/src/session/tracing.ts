import {
  cross3,
  dot3,
  type Frame,
  frameAlong,
  moved,
  norm3,
  type P3,
  rounded,
  sub3,
  turnAbout,
  unit3,
} from '@ivory/core/math'
import { START } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import type { DatumView } from '../engine'
import { typedValue } from '../table/drawing/typed'
import { edit, opOf, SHEETS, setInputs, type Tracing, useSession } from './session'

/** A place of a path as it is kept. */
export type StopDoc = {
  by?: 'line' | 'arc' | 'over' | 'spline'
  round?: number | string
  /** The path passes it by; holds and coordinates count it. */
  aside?: boolean
} & (
  | { point: string }
  | { x: number | string; y: number | string; z: number | string; rel?: boolean }
)

/** What holds between places of a path, as it is kept. */
export type HoldDoc = { place: number } & (
  | { kind: 'along'; axis: string }
  | { kind: 'square'; body: string; face: { face: string } }
  | { kind: 'plane'; plane: string }
  | { kind: 'apart'; other: number; along?: string; value: number | string }
  | { kind: 'equal' | 'parallel'; other: number }
  | { kind: 'angle'; other: number; value: number | string }
)
/** The same list each time for an op that has none: what looks at it is drawn anew when it is another. */
const NO_HOLDS: HoldDoc[] = []
export const holdsOf = (op: Op | undefined): HoldDoc[] =>
  Array.isArray(op?.inputs.holds) ? (op.inputs.holds as HoldDoc[]) : NO_HOLDS

/** A new hold of the last places there are. */
export function newHold(kind: string, count: number): HoldDoc {
  const [place, other] = [Math.max(1, count), Math.max(1, count - 1)]
  if (kind === 'along') return { kind, place, axis: 'x' }
  if (kind === 'plane') return { kind, place, plane: 'top' }
  if (kind === 'apart') return { kind, place: other, other: place, along: 'any', value: 30 }
  if (kind === 'angle') return { kind, place: other, other: place, value: 90 }
  return { kind: kind === 'equal' ? 'equal' : 'parallel', place: other, other: place }
}

const NO_STOPS: StopDoc[] = []
export const stopsOf = (op: Op | undefined): StopDoc[] =>
  Array.isArray(op?.inputs.stops) ? (op.inputs.stops as StopDoc[]) : NO_STOPS

export const putStops = (op: string, stops: StopDoc[], how = edit): void =>
  setInputs(op, { stops }, how)

/** Begins to draw a path on the Stage, or leaves off. */
export function trace(op: string | null): void {
  useSession.setState({
    tracing: op === null ? null : { op, sheet: 'level', tilt: 0, by: 'line' },
    picking: null,
  })
}

/** The ways the sheet can lie: level, along the front and side planes, along each datum plane there is. */
export const sheetsOf = (planes: readonly string[], own = false): string[] => [
  ...SHEETS,
  ...(own ? ['own'] : []),
  ...planes.filter((p) => !Object.hasOwn(START.planes, p)),
]

/** Lays the sheet the next way. */
export function turnSheet(): void {
  const { tracing, settled } = useSession.getState()
  if (!tracing) return
  const all = sheetsOf(settled?.available[tracing.op]?.planes ?? [], Boolean(tracing.frame))
  const next = all[(all.indexOf(tracing.sheet) + 1) % all.length]!
  useSession.setState({ tracing: { ...tracing, sheet: next } })
}

/** Begins to lay the sheet on bodies, or leaves off. */
export function lay(how: 'face' | 'three' | null): void {
  const { tracing } = useSession.getState()
  if (!tracing) return
  const { laying: _, ...rest } = tracing
  useSession.setState({ tracing: how ? { ...rest, laying: { how, picks: [] } } : rest })
}

/** Takes a place on a body to lay the sheet by: along its face there, or through it and two more. */
export function layOn(at: P3, normal: P3): void {
  const { tracing } = useSession.getState()
  if (!tracing?.laying) return
  const { laying, ...rest } = tracing
  const laid = (frame: Frame) =>
    useSession.setState({ tracing: { ...rest, sheet: 'own', frame, tilt: 0 } })
  if (laying.how === 'face') {
    laid(frameAlong(at, unit3(normal)))
    return
  }
  const picks = [...laying.picks, at]
  const [a, b, c] = picks
  if (!a || !b || !c) {
    useSession.setState({ tracing: { ...tracing, laying: { ...laying, picks } } })
    return
  }
  const across = cross3(sub3(b, a), sub3(c, a))
  const size = norm3(sub3(b, a)) * norm3(sub3(c, a))
  if (norm3(across) < 1e-6 * Math.max(size, 1e-9)) {
    useSession.setState({
      tracing: { ...tracing, laying: { ...laying, picks: [] } },
      hover: 'Three places in one line lay no sheet: pick them anew.',
    })
    return
  }
  const [x, z] = [unit3(sub3(b, a)), unit3(across)]
  laid({ origin: a, x, y: cross3(z, x), z })
}

/**
 * The sheet a path is drawn on: through its last place (the origin where it has none), along a plane, tilted about the way the
 * path ran there; one that was laid on a face or through places stays in its plane.
 */
export function sheetOf(
  { op, sheet, tilt, frame }: Pick<Tracing, 'op' | 'sheet' | 'tilt' | 'frame'>,
  datums: readonly DatumView[] | undefined,
): Frame {
  const plane = datums?.find((d) => d.id === sheet && d.kind === 'plane')
  const own = sheet === 'own' ? frame : undefined
  const { x, y, z } =
    own ??
    (plane?.kind === 'plane'
      ? plane.frame
      : START.planes[sheet === 'front' || sheet === 'side' ? sheet : 'top']!.frame)
  const last = pathShown(datums, op)?.pieces.at(-1)
  const [before, tip] = [last?.at(-2), last?.at(-1)]
  const run = before && tip && norm3(sub3(tip, before)) > 1e-9 ? unit3(sub3(tip, before)) : x
  const turn = turnAbout([0, 0, 0], run, (tilt * Math.PI) / 180)
  const [u, v, w] = [moved(turn, x), moved(turn, y), moved(turn, z)]
  const off = own && (!tip || Math.abs(dot3(sub3(tip, own.origin), own.z)) > IN_PLANE)
  return { origin: off ? own.origin : (tip ?? [0, 0, 0]), x: u, y: v, z: w }
}

/** How far the last place may lie off a sheet that was laid for it to go through it, mm. */
const IN_PLANE = 0.02

function pathShown(datums: readonly DatumView[] | undefined, op: string) {
  const path = datums?.find((d) => d.id === op && d.kind === 'path')
  return path?.kind === 'path' ? path : undefined
}

/** Where a path ends that is shown; null where it is not. */
export function tipOf(datums: readonly DatumView[] | undefined, op: string): P3 | null {
  return pathShown(datums, op)?.pieces.at(-1)?.at(-1) ?? null
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
