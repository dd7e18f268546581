import { examined, type Finding, pointsOf, shareOf, worth } from '../../../cage'
import { good, mm, norm3, type Outcome, type P3 } from '../../../math'
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
      .map((f) => told(f, cage.layout.points)),
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

function told(f: Finding, names: readonly string[]): CageCure {
  const { cure } = f
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
    case 'move': {
      const [x, y, z] = cure.by.map((d) => Math.round(d * 1e3) / 1e3) as unknown as P3
      const on = [names[cure.point]!]
      const words = `Point ${on[0]} stands ${mm(norm3(cure.by), 2)} off what is round it: move it back`
      return made({ kind: 'move', on, x, y, z, out: 0, reach: 0 }, words, on)
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
      return made({ kind: 'loop', on, share: 0.5, form: 'changes' }, words, on)
    }
  }
}
