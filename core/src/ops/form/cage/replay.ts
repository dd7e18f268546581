import { letGoOf, type Symmetry } from '../../../cage'
import { bad, type Diagnosis, good, type Outcome } from '../../../math'
import type { OpContext } from '../../state'
import { begun, symmetryOf } from './begin'
import { edited } from './edits'
import type { CageEdit, CageInputs, Reads } from './inputs'
import { layed } from './laying'
import { LOST } from './made'
import { type Noted, noting, unchanged } from './reads'
import { type Edited, type Laid, numbersOf, type Stand, symmetric } from './stand'

/** A cage after all its edits. */
export interface Replayed extends Stand {
  warnings: Diagnosis[]
  /** What was measured when an edit was done, and of which: later ones may change it. */
  words: string[]
  /** How it lies on a body, where no edit since may have moved it there. */
  laid?: Laid
}

/** What an edit's words say of it when it fails or warns. */
const inEdit = (d: Diagnosis, k: number, edit: CageEdit): Diagnosis => ({
  ...d,
  message: `Edit ${k + 1} (${EDIT_WORDS[edit.kind]}): ${d.message}`,
})
const EDIT_WORDS: Record<CageEdit['kind'], string> = {
  move: 'move',
  size: 'size',
  turn: 'turn',
  rows: 'rows',
  extrude: 'extrude',
  loop: 'loop',
  bevel: 'cut off',
  crease: 'crease',
  corner: 'corner',
  remove: 'remove',
  fill: 'fill',
  bridge: 'bridge',
  weld: 'weld',
  dissolve: 'dissolve',
  cut: 'cut',
  rotate: 'turn edge',
  flat: 'flatten',
  round: 'round off',
  along: 'onto a path',
  relax: 'relax',
  finer: 'finer',
  lay: 'lay on',
  thicken: 'thicken',
  free: 'let symmetry go',
}
/** Edits after which the cage may hang together otherwise: its symmetry is looked at again. */
const KEEPS = new Set<CageEdit['kind']>([
  'move',
  'size',
  'turn',
  'rows',
  'flat',
  'round',
  'along',
  'relax',
  'crease',
  'corner',
  'free',
])

/** Edits that leave a form where it lies. */
const STAYS = new Set<CageEdit['kind']>(['finer', 'thicken', 'free'])

/** What was read for a step, and what it came to. */
interface Step {
  told: string
  noted: Noted[]
  made: Outcome<Edited>
}
/** Steps of the cages last replayed, by op: while one edit is changed, those before it stay as they are. */
const kept = new Map<string, Step[]>()
const KEPT = 12

/**
 * The start and every edit after it, each on all copies that the symmetry makes of what it names. Where an edit cannot be done `stopped`
 * is told how the cage stands before it.
 */
export function replayed(
  input: CageInputs,
  ctx: OpContext,
  stopped: (before: Stand) => void = () => {},
): Outcome<Replayed> {
  const before = kept.get(ctx.op) ?? []
  const steps: Step[] = []
  kept.delete(ctx.op)
  kept.set(ctx.op, steps)
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!)
  let same = true
  const step = (told: string, make: (read: Reads) => Step['made']): Step['made'] => {
    const known = same ? before[steps.length] : undefined
    same = known?.told === told && unchanged(known.noted, ctx)
    if (same) {
      steps.push(known!)
      return known!.made
    }
    const noted: Noted[] = []
    const made = make(noting(ctx, noted))
    steps.push({ told, noted, made })
    return made
  }
  const symmetry = symmetryOf(input)
  const first = step(JSON.stringify([input.start, symmetry]), (read) =>
    begun(input.start, symmetry, read, ctx.op),
  )
  if (!first.ok) return first
  let stand: Stand = first.value
  let laid: Laid | undefined
  const warnings: Diagnosis[] = []
  const words: string[] = first.value.words ? [first.value.words] : []
  for (const [k, edit] of input.edits.entries()) {
    if (edit.off) continue
    const from = stand
    const made = step(JSON.stringify(edit), (read) => after(from, edit, symmetry, read))
    if (!made.ok) {
      stopped(from)
      const d = made.diagnosis.code === LOST ? letGo(made.diagnosis, input, k, ctx) : made.diagnosis
      return { ok: false, diagnosis: inEdit(d, k, edit) }
    }
    warnings.push(...made.value.warnings.map((d) => inEdit(d, k, edit)))
    const { instead } = made.value
    if (instead)
      warnings.push({
        ...warnings.pop()!,
        fixes: [
          {
            label: instead.label,
            op: ctx.op,
            inputs: { edits: input.edits.with(k, instead.edit) },
          },
        ],
      })
    if (made.value.words) words.push(`after edit ${k + 1} ${made.value.words}`)
    if (!STAYS.has(edit.kind)) laid = made.value.laid
    const { cage, free, orbits } = made.value
    stand = { cage, free, ...(orbits ? { orbits } : {}) }
  }
  const { cage, free, orbits } = stand
  return good({
    cage,
    free,
    warnings,
    words,
    ...(orbits ? { orbits } : {}),
    ...(laid ? { laid } : {}),
  })
}

function after(from: Stand, edit: CageEdit, symmetry: Symmetry, read: Reads): Outcome<Edited> {
  const made =
    edit.kind === 'lay' ? layed(from, edit, symmetry, read) : edited(from, edit, symmetry, read)
  if (!made.ok || made.value.orbits) return made
  const { cage } = made.value
  const was = symmetric(from, symmetry)
  if (was.ok && KEEPS.has(edit.kind)) {
    const orbits = letGoOf(cage, was.value, numbersOf(made.value))
    return good({ ...made.value, orbits })
  }
  const now: Edited = { ...made.value, free: freed(made.value, from) }
  const still = symmetric(now, symmetry, from)
  return still.ok
    ? good({ ...now, orbits: still.value })
    : bad(LOST, 'With it the cage would lose its symmetry here.', still.diagnosis.places)
}

/** New points of an edit whose faces touch points that were let go are let go too. */
function freed({ cage, free }: Stand, before: Stand): ReadonlySet<string> {
  if (free.size === 0) return free
  const was = new Set(before.cage.layout.points)
  const out = new Set(free)
  for (const { corners } of cage.layout.faces) {
    const names = corners.map((p) => cage.layout.points[p]!)
    if (names.some((n) => free.has(n))) for (const n of names) if (!was.has(n)) out.add(n)
  }
  return out
}

/** An edit that would leave the symmetry, and what lets it be done all the same. */
const letGo = (d: Diagnosis, input: CageInputs, k: number, { op }: OpContext): Diagnosis => ({
  ...d,
  fixes: [
    {
      label: 'Let the symmetry go before it',
      op,
      inputs: {
        edits: [
          ...input.edits.slice(0, k),
          { id: `${input.edits[k]!.id}-free`, kind: 'free', on: ['all'] },
          ...input.edits.slice(k),
        ],
      },
    },
  ],
})
