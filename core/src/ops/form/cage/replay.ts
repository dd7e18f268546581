import {
  type Cage,
  letGoOf,
  madeAlike,
  motionsOf,
  orbitsOf,
  type Symmetry,
  startBox,
  startCarried,
  startCylinder,
  startGiven,
  startPlane,
  startRegion,
  startRing,
  startTurned,
  tableOf,
} from '../../../cage'
import { bad, type Diagnosis, good, mm, type Outcome, type P3 } from '../../../math'
import type { Value } from '../../../profile'
import type { OpContext } from '../../state'
import { edited } from './edits'
import type { CageEdit, CageInputs, CageStart, Reads } from './inputs'
import { layed } from './laying'
import { LOST } from './made'
import { type Noted, noting, readsOf, unchanged } from './reads'
import { type Edited, type Laid, numbersOf, type Stand, symmetric } from './stand'

export const symmetryOf = ({
  turns,
  mirrors,
}: Pick<CageInputs, 'turns' | 'mirrors'>): Symmetry => ({
  turns,
  mirrors: mirrors.map((m) => 'xyz'.indexOf(m) as 0 | 1 | 2),
})

/** A cage after all its edits. */
export interface Replayed extends Stand {
  warnings: Diagnosis[]
  /** What was measured when an edit was done, and of which: later ones may change it. */
  words: string[]
  /** How it lies on a body, where no edit since may have moved it there. */
  laid?: Laid
}

function started(start: CageStart, read: Reads): Outcome<Cage> {
  const length = (name: string, v: Value): Outcome<number> => {
    const n = read.length(v)
    return n > 0 && Number.isFinite(n)
      ? good(n)
      : bad('cage-start', `The ${name} of a cage is above 0.`)
  }
  switch (start.kind) {
    case 'cylinder': {
      const [radius, height] = [length('radius', start.radius), length('height', start.height)]
      if (!radius.ok) return radius
      if (!height.ok) return height
      const rings = Array.from({ length: start.bands + 1 }, (_, r) => ({
        radius: radius.value,
        z: (height.value * r) / start.bands,
      }))
      const shut = { floor: start.floor === 'shut', lid: start.lid === 'shut' }
      return good(startCylinder(start.columns, rings, shut))
    }
    case 'box':
    case 'ball': {
      const sizes = [start.sx, start.sy, start.sz].map((v) => length('size', v))
      for (const s of sizes) if (!s.ok) return s
      const size = sizes.map((s) => (s.ok ? s.value : 0)) as unknown as P3
      return good(startBox(size, [start.across, start.along, start.up], start.kind === 'ball'))
    }
    case 'plane': {
      const [x, y] = [length('size', start.sx), length('size', start.sy)]
      if (!x.ok) return x
      return y.ok ? good(startPlane([x.value, y.value], start.across, start.along)) : y
    }
    case 'ring': {
      const [radius, size] = [length('radius', start.radius), length('size', start.size)]
      if (!radius.ok) return radius
      if (!size.ok) return size
      return size.value / 2 < radius.value
        ? good(startRing(radius.value, size.value / 2, start.columns, start.around))
        : bad('cage-start', 'A ring goes through itself: its section is as wide as it is round.')
    }
    case 'turned': {
      const outline = read.outline(start.profile)
      return outline.ok ? good(startTurned(outline.value, start.columns, start.bands)) : outline
    }
    case 'carried': {
      const area = read.region(start.profile)
      if (!area.ok) return area
      const height = read.length(start.height)
      if (!(height !== 0 && Number.isFinite(height)))
        return bad('cage-start', 'The height of a cage is not 0; below 0 it goes the other way.')
      const { outline, normal } = area.value
      const shut = { floor: start.floor === 'shut', lid: start.lid === 'shut' }
      return good(startCarried(outline, normal, height, start.columns, start.bands, shut))
    }
    case 'region': {
      const area = read.region(start.profile)
      return area.ok ? startRegion(area.value.outline, area.value.normal, start.columns) : area
    }
    case 'given': {
      const cage = startGiven(start.points, start.faces)
      const table = tableOf(cage)
      return table.ok ? good(cage) : table
    }
  }
}

/** Symmetries of turns that the start has, for a sentence. */
function turnsOf(cage: Cage): number[] {
  return Array.from({ length: 96 }, (_, k) => 96 - k).filter(
    (turns) => turns > 1 && !('without' in orbitsOf(cage, { turns, mirrors: [] })),
  )
}

/** The symmetry that what a cage begins as has: the most turns about z, and the planes it is a mirror of itself in. */
export function foundSymmetry(
  { start }: Pick<CageInputs, 'start'>,
  ctx: OpContext,
): Outcome<Pick<CageInputs, 'turns' | 'mirrors'>> {
  const made = started(start, readsOf(ctx))
  if (!made.ok) return made
  const mirrors = (['x', 'y', 'z'] as const).filter(
    (_, k) => !('without' in orbitsOf(made.value, { turns: 1, mirrors: [k as 0 | 1 | 2] })),
  )
  return good({ turns: turnsOf(made.value)[0] ?? 1, mirrors })
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
    if (made.value.words) words.push(`after edit ${k + 1} ${made.value.words}`)
    if (!STAYS.has(edit.kind)) laid = made.value.laid
    stand = made.value
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

function begun(start: CageStart, symmetry: Symmetry, read: Reads, op: string): Outcome<Edited> {
  const made = started(start, read)
  if (!made.ok) return made
  const first = symmetric({ cage: made.value, free: new Set() }, symmetry)
  if (first.ok)
    return good({ cage: made.value, free: new Set(), orbits: first.value, warnings: [] })
  const restored = madeAlike(made.value, symmetry)
  if (restored && start.kind === 'given' && start.alike)
    return good({
      cage: restored.cage,
      free: new Set(),
      warnings: [],
      words: `made alike, points moved by up to ${mm(restored.most, 3)}`,
    })
  const own = turnsOf(made.value)
  const words = own.length > 0 ? ` Turns it has: ${own.join(', ')}.` : ''
  const nearly = restored
    ? ` It nearly has: its points are off by up to ${mm(restored.most, 3)} (${mm(restored.mean, 3)} in the mean).`
    : ''
  return bad(
    'cage-symmetry',
    `What the cage begins as has not this symmetry of ${motionsOf(symmetry).length} copies.${nearly}${words}`,
    first.diagnosis.places,
    restored && start.kind === 'given'
      ? [
          {
            label: `Make it alike, points moved by up to ${mm(restored.most, 3)}`,
            op,
            inputs: { start: { ...start, alike: true } },
          },
        ]
      : [],
  )
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
