import type { Op, Workpiece } from './schema'

/** A gauge as it read when a proof was kept: `value` in the gauge's unit, null where it had no reading. */
export interface KeptReading {
  gauge: string
  kind: string
  label: string
  body: string
  value: number | null
  text: string
  verdict: string
}
/** A body as it was when a proof was kept: mm3, and its box along x, y and z, mm. */
export interface KeptBody {
  id: string
  name: string
  volume: number
  size: [number, number, number]
}

/** One thing that is not the same: '' where it was, or is, not there. */
export interface Difference {
  name: string
  was: string
  now: string
}
export interface OpDifference {
  id: string
  number: number
  name: string
  how: 'added' | 'gone' | 'changed' | 'moved'
  /** Of a changed op: its inputs, name, and whether it is left out. */
  inputs: Difference[]
}
export interface Differences {
  figures: Difference[]
  ops: OpDifference[]
  brief: Difference[]
}

/** The most letters of a value that are told. */
const LONG = 60

/** What of a workpiece is other than it was; empty lists where both are the same. */
export function differencesOf(was: Workpiece, now: Workpiece): Differences {
  return {
    figures: pairs(
      was.figures.map((f) => [f.name, f.expr]),
      now.figures.map((f) => [f.name, f.expr]),
    ),
    ops: opsOf(was.route, now.route),
    brief: pairs(flat(was.brief), flat(now.brief)),
  }
}

/** A value in few letters. */
function told(value: unknown): string {
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? '')
  return text.length > LONG ? `${text.slice(0, LONG - 1)}…` : text
}

function pairs(
  was: readonly (readonly [string, unknown])[],
  now: readonly (readonly [string, unknown])[],
): Difference[] {
  const [before, after] = [new Map(was), new Map(now)]
  return [...new Set([...before.keys(), ...after.keys()])].flatMap((name) => {
    const [a, b] = [before.get(name), after.get(name)]
    return JSON.stringify(a) === JSON.stringify(b) ? [] : [{ name, was: told(a), now: told(b) }]
  })
}

/** The ends of nested data by their ways there; lists count as one value. */
function flat(value: unknown, path = ''): [string, unknown][] {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return [[path, value]]
  return Object.entries(value).flatMap(([k, v]) => flat(v, path ? `${path} ${k}` : k))
}

const fieldsOf = (op: Op): [string, unknown][] => [
  ['name', op.name],
  ['left out', op.suppressed ?? false],
  ...Object.entries(op.inputs).flatMap(([k, v]) => flat(v, k)),
]

function opsOf(was: readonly Op[], now: readonly Op[]): OpDifference[] {
  const before = new Map(was.map((o) => [o.id, o]))
  const after = new Set(now.map((o) => o.id))
  // Of those that are in both, which stand in another order.
  const order = was.filter((o) => after.has(o.id)).map((o) => o.id)
  const stands = now.filter((o) => before.has(o.id)).map((o) => o.id)
  const kept = new Set(longestAlike(order, stands))
  const of = (op: Op, how: OpDifference['how'], inputs: Difference[] = []): OpDifference => ({
    id: op.id,
    number: op.number,
    name: op.name,
    how,
    inputs,
  })
  return [
    ...now.flatMap((op) => {
      const old = before.get(op.id)
      if (!old) return [of(op, 'added')]
      if (old.kind !== op.kind)
        return [of(op, 'changed', [{ name: 'kind', was: old.kind, now: op.kind }])]
      const inputs = pairs(fieldsOf(old), fieldsOf(op))
      if (inputs.length > 0) return [of(op, 'changed', inputs)]
      return kept.has(op.id) ? [] : [of(op, 'moved')]
    }),
    ...was.flatMap((op) => (after.has(op.id) ? [] : [of(op, 'gone')])),
  ]
}

/** The longest list that both hold in the same order. */
function longestAlike(a: readonly string[], b: readonly string[]): string[] {
  const long = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1))
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      long[i]![j] =
        a[i] === b[j] ? 1 + long[i + 1]![j + 1]! : Math.max(long[i + 1]![j]!, long[i]![j + 1]!)
  const out: string[] = []
  for (let i = 0, j = 0; i < a.length && j < b.length; ) {
    if (a[i] === b[j]) {
      out.push(a[i]!)
      i++
      j++
    } else if (long[i + 1]![j]! >= long[i]![j + 1]!) i++
    else j++
  }
  return out
}

export interface ReadingDifference {
  label: string
  body: string
  was: string
  now: string
  /** How much more it reads now; null where one of both has no reading. */
  more: number | null
  verdicts: [string, string]
}

/** Readings side by side: all gauges that either has, in the order of now, then those that are gone. */
export function readingsBeside(
  was: readonly KeptReading[],
  now: readonly KeptReading[],
): ReadingDifference[] {
  const before = new Map(was.map((r) => [`${r.gauge} ${r.kind}`, r]))
  const of = (a: KeptReading | undefined, b: KeptReading | undefined): ReadingDifference => ({
    label: (b ?? a)!.label,
    body: (b ?? a)!.body,
    was: a?.text ?? '',
    now: b?.text ?? '',
    more: a?.value != null && b?.value != null ? b.value - a.value : null,
    verdicts: [a?.verdict ?? '', b?.verdict ?? ''],
  })
  const there = new Set(now.map((r) => `${r.gauge} ${r.kind}`))
  return [
    ...now.map((r) => of(before.get(`${r.gauge} ${r.kind}`), r)),
    ...was.filter((r) => !there.has(`${r.gauge} ${r.kind}`)).map((r) => of(r, undefined)),
  ]
}

export interface BodyDifference {
  name: string
  /** mm3; null where it was, or is, not there. */
  was: number | null
  now: number | null
}
export function bodiesBeside(was: readonly KeptBody[], now: readonly KeptBody[]): BodyDifference[] {
  const before = new Map(was.map((b) => [b.id, b]))
  const there = new Set(now.map((b) => b.id))
  return [
    ...now.map((b) => ({ name: b.name, was: before.get(b.id)?.volume ?? null, now: b.volume })),
    ...was.filter((b) => !there.has(b.id)).map((b) => ({ name: b.name, was: b.volume, now: null })),
  ]
}
