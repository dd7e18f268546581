import {
  examined,
  type Finding,
  type Layout,
  pointsOf,
  type Shaping,
  shareOf,
  worth,
} from '../../../cage'
import { fixed, good, mm, norm3, type Outcome, type P3, rounded } from '../../../math'
import type { OpContext } from '../../state'
import { symmetryOf } from './begin'
import type { CageEdit, CageInputs } from './inputs'
import { replayed } from './replay'
import { symmetric } from './stand'

/** An edit that would make a cage's limit more even, as it was tried on a copy. */
export interface CageCure {
  edit: CageEditGiven
  /** What is wrong there, and what the edit does. */
  words: string
  /** The words of what it is about, for the Stage. */
  on: string[]
  at: P3
  /** The share of the unevenness about it that goes. */
  share: number
}
/** An edit without its id. */
export type CageEditGiven = CageEdit extends infer E
  ? E extends CageEdit
    ? Omit<E, 'id'>
    : never
  : never

export interface CageExamination {
  /** What helps, best first. */
  cures: CageCure[]
}

/** Cures that are told. */
const TOLD = 10
/** What gains less than this share of the best is not told. */
const LEAST = 0.02

/** Examines the cage that all edits make: what was tried on copies of it and helps, best first. */
export function examinedCage(input: CageInputs, ctx: OpContext): Outcome<CageExamination> {
  const made = replayed(input, ctx)
  if (!made.ok) return made
  const orbits = symmetric(made.value, symmetryOf(input))
  if (!orbits.ok) return orbits
  const { cage } = made.value
  const findings = examined(cage, orbits.value)
  const best = findings[0] ? worth(findings[0]) : 0
  return good({
    cures: findings
      .filter(
        (f, k) =>
          (f.cure.kind === 'crease' || worth(f) >= LEAST * best) &&
          !follows(f, findings.slice(0, k)),
      )
      .slice(0, TOLD)
      .map((f) => told(f, cage.layout)),
  })
}

/** Whether a cure only helps with what a better one does away with: the same edge turned otherwise, points relaxed about it. */
function follows({ cure }: Finding, better: readonly Finding[]): boolean {
  const own = pointsOf(cure)
  return better.some(({ cure: b }) => {
    const shared = own.filter((p) => pointsOf(b).includes(p)).length
    return cure.kind === 'relax' ? shared > 0 : b.kind === cure.kind && shared === own.length
  })
}

function told(f: Finding, layout: Layout): CageCure {
  const { cure } = f
  const names = layout.points
  const edges = (of: readonly (readonly [number, number])[]) =>
    of.map(([a, b]) => `${names[a]}~${names[b]}`)
  const made = (edit: CageEditGiven, words: string, on: string[]): CageCure => ({
    edit,
    words,
    on,
    at: f.at,
    share: shareOf(f),
  })
  switch (cure.kind) {
    case 'shape': {
      const on = named(cure.points, layout)
      return made(shapingOf(cure.how, on), shapingWords(cure, on), on)
    }
    case 'relax': {
      const on = pointsOf(cure).map((p) => names[p]!)
      const words = `Points about ${on[0]} lie unevenly: relax them`
      return made({ kind: 'relax', on, rounds: 1 }, words, on)
    }
    case 'crease': {
      const on = edges(cure.edges)
      const words = `A crease of ${on.length === 1 ? '1 edge' : `${on.length} edges`} ends in the open: drop it`
      return made({ kind: 'crease', on, sharp: 0 }, words, on)
    }
    case 'rotate': {
      const on = edges([cure.edge])
      const words = `Edge ${on[0]} joins points that have too many edges: turn it one corner ${cure.way}`
      return made({ kind: 'rotate', on, way: cure.way }, words, on)
    }
    case 'dissolve': {
      const on = edges([cure.edge])
      return made({ kind: 'dissolve', on }, `Edge ${on[0]} parts two triangles: rub it out`, on)
    }
    case 'loop': {
      const on = edges([cure.edge])
      const words = `Faces along ${on[0]} are long: put a line across`
      return made({ kind: 'loop', runs: 'on', long: 1, on, share: 0.5, form: 'changes' }, words, on)
    }
  }
}

/** What an edit calls points: their row, where they are one, else each. */
function named(points: readonly number[], { points: names, rows }: Layout): string[] {
  const own = new Set(points)
  const row = rows.find((r) => r.points.length === own.size && r.points.every((p) => own.has(p)))
  return row ? [`row ${row.name}`] : points.map((p) => names[p]!)
}

function shapingOf(how: Shaping, on: string[]): CageEditGiven {
  const still = { x: 0, y: 0, z: 0, out: 0, reach: 0 }
  switch (how.by) {
    case 'way': {
      const [x, y, z] = how.way.map((d) => rounded(d, 3)) as unknown as P3
      return { kind: 'move', on, ...still, x, y, z }
    }
    case 'out':
      return { kind: 'move', on, ...still, out: rounded(how.out, 3) }
    case 'turn': {
      const angle = rounded((how.angle * 180) / Math.PI, 3)
      return { kind: 'turn', on, angle, way: how.axis, about: how.about, reach: 0 }
    }
    case 'size': {
      const [sx, sy, sz] = how.size.map((d) => rounded(d, 5)) as unknown as P3
      return { kind: 'size', on, sx, sy, sz, about: 'own', reach: 0 }
    }
  }
}

function shapingWords({ how }: { how: Shaping }, on: readonly string[]): string {
  const row = on[0]!.startsWith('row ')
  const what = row
    ? `Row${on[0]!.slice(3)}`
    : on.length === 1
      ? `Point ${on[0]}`
      : `Points ${on[0]} to ${on.at(-1)}`
  const [is, stand, them] = on.length === 1 ? ['is', 'stands', 'it'] : ['are', 'stand', 'them']
  const off = (by: number) =>
    `${what} ${stand} ${mm(by, 2)} off what is round ${them}: move ${them} back`
  switch (how.by) {
    case 'way':
      return off(norm3(how.way))
    case 'out':
      return off(Math.abs(how.out))
    case 'turn':
      return `${what} ${is} turned ${fixed(Math.abs((how.angle * 180) / Math.PI), 1)}° against what is beside ${them}: turn ${them} back`
    case 'size': {
      const size = how.size.find((d) => d !== 1) ?? 1
      return `${what} ${is} ${fixed(Math.abs(1 / size - 1) * 100, 1)} % too ${size < 1 ? 'wide' : 'narrow'} for what is beside ${them}: size ${them}`
    }
  }
}
