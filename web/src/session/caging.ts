import { freshId } from '@ivory/core/math'
import type { CageEdit, ShownCage } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import type { CageBy, CagePick, Caging } from './cagestate'
import { edit, opOf, preview, setInputs, useSession } from './session'

const put = (change: Partial<Caging>) =>
  useSession.setState((s) => ({ caging: { ...s.caging, ...change } }))

export const pickOf = (what: CagePick): void => put({ what, picks: [] })
export const pickBy = (by: CageBy): void => put({ by })
export const pickThrough = (through: boolean): void => put({ through })
export const pickNone = (): void => put({ picks: [] })
export const openEdit = (open: string | null): void => put({ open })
export const smoothTo = (smooth: number): void => put({ smooth })
export const pickOnly = (picks: string[]): void => put({ picks })

/** Picks a thing, or lets it go if it is picked. */
export function pickOn(word: string): void {
  const { picks } = useSession.getState().caging
  put({ picks: picks.includes(word) ? picks.filter((p) => p !== word) : [...picks, word] })
}

/** Picks things beside those that are picked; where all of several are picked, lets them go. */
export function pickAlso(words: readonly string[]): void {
  const { picks } = useSession.getState().caging
  const fresh = words.filter((w) => !picks.includes(w))
  if (fresh.length > 0) put({ picks: [...picks, ...fresh] })
  else if (words.length > 1) put({ picks: picks.filter((p) => !words.includes(p)) })
}

const NO_EDITS: CageEdit[] = []
/** The edits an op keeps, also where the op does not take them all. */
const keptEdits = (op: Op | undefined): CageEdit[] =>
  Array.isArray(op?.inputs.edits) ? (op.inputs.edits as CageEdit[]) : NO_EDITS
const isEdit = (e: unknown): boolean =>
  typeof e === 'object' && e !== null && 'id' in e && 'kind' in e

/** The edits that can be shown. */
export function cageEditsOf(op: Op | undefined): CageEdit[] {
  const all = keptEdits(op)
  return all.every(isEdit) ? all : all.filter(isEdit)
}
/** What an edit works on, as far as that is told. */
export const wordsOn = (e: CageEdit): string[] =>
  'on' in e && Array.isArray(e.on) ? e.on.map(String) : []

/** Changes the edits of a cage; none that it keeps is lost by that. */
export function putEdits(id: string, change: (edits: CageEdit[]) => CageEdit[], how = edit): void {
  const op = opOf(useSession.getState().doc, id)
  if (op) setInputs(id, { edits: change(keptEdits(op)) }, how)
}

/** An edit without its id. */
export type NewEdit = CageEdit extends infer E
  ? E extends CageEdit
    ? Omit<E, 'id'>
    : never
  : never

/** Adds an edit at the end and opens it. */
export function addEdit(op: string, made: NewEdit, how = edit): string {
  const there = cageEditsOf(opOf(useSession.getState().doc, op))
  const id = freshId(
    there.map((e) => e.id),
    'e',
  )
  putEdits(op, (edits) => [...edits, { id, ...made } as CageEdit], how)
  put({ open: id })
  return id
}

/** From here on edits of a cage are on trial: kept, or dropped, as a whole. */
export function tryFrom(op: string): void {
  if (useSession.getState().caging.trial?.op === op) return
  put({ trial: { op, from: keptEdits(opOf(useSession.getState().doc, op)).length } })
}
export const keepTrial = (): void => put({ trial: null })
export function dropTrial(): void {
  const { trial } = useSession.getState().caging
  if (!trial) return
  put({ trial: null, open: null })
  putEdits(trial.op, (edits) => edits.slice(0, trial.from))
}
/** Shows a cage without what is on trial, until `dropPreview`. */
export function showBefore(): void {
  const { trial } = useSession.getState().caging
  if (trial)
    putEdits(
      trial.op,
      (edits) => edits.map((e, k) => (k < trial.from ? e : ({ ...e, off: true } as CageEdit))),
      preview,
    )
}

/** The cage op that is chosen, and what the Stage shows of it. */
export function useCage(): { op: Op; cage: ShownCage } | null {
  const op = useSession((s) => opOf(s.doc, s.selected))
  const cage = useSession((s) => {
    const r = (s.view ?? s.settled)?.reports.find((r) => r.id === s.selected)
    return r?.shown?.cage
  })
  return op?.kind === 'cage' && cage ? { op, cage } : null
}

/** The points that picked words name, by number. */
export function pickedPoints(cage: ShownCage, picks: readonly string[]): number[] {
  const numbers = new Map(cage.points.map((name, p) => [name, p]))
  const faces = new Map(cage.faces.map((f) => [f.name, f.corners]))
  const out = new Set<number>(picks.includes('all') ? cage.points.keys() : [])
  for (const word of picks) {
    const own = numbers.get(word)
    if (own !== undefined) out.add(own)
    for (const p of faces.get(word) ?? []) out.add(p)
    if (word.startsWith('row '))
      for (const p of cage.rows.find((r) => `row ${r.name}` === word)?.points ?? []) out.add(p)
    if (word.startsWith('column '))
      for (const [name, p] of numbers) if (name.endsWith(`.${word.slice(7)}`)) out.add(p)
    for (let i = word.indexOf('~'); i !== -1; i = word.indexOf('~', i + 1)) {
      const ends = [numbers.get(word.slice(0, i)), numbers.get(word.slice(i + 1))]
      if (ends[0] !== undefined && ends[1] !== undefined) for (const p of ends) out.add(p!)
    }
  }
  return [...out]
}
