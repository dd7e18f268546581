import type { Drawing } from '../drawing'
import { measured, relationEquations } from './equations'
import { type HoldState, hold } from './hold'
import { followsCurve, type Loose } from './loose'
import { AXIS } from './names'
import { sharedEnd, Unfit } from './readers'
import {
  DIMENSIONS,
  type DimensionKind,
  RELATIONS,
  type Relation,
  type RelationKind,
  shapeOfRefs,
} from './schema'
import { variablesOf } from './system'

interface Refs {
  points: string[]
  entities: string[]
}

/**
 * The relations and dimensions that can be laid on a selection, without relations that are laid on it
 * already; dimensions with what they measure now.
 */
export function applicable(
  loose: Loose,
  refs: Refs,
): { relations: RelationKind[]; dimensions: { kind: DimensionKind; measure: number }[] } {
  const shape = shapeOfRefs(refs)
  const vars = variablesOf(loose)
  const fits = <T>(work: () => T): T | null => {
    try {
      return work()
    } catch (e) {
      if (e instanceof Unfit) return null
      throw e
    }
  }
  const kinds = <K extends string>(table: Record<K, { needs: readonly string[] }>) =>
    (Object.keys(table) as K[]).filter((k) => table[k].needs.includes(shape))
  const relations = kinds(RELATIONS).filter((kind) => {
    if (loose.drawing.relations?.some((r) => r.kind === kind && named(r) === named(refs)))
      return false
    const r: Relation = { id: 'x', kind, ...refs }
    if (followsCurve(loose.drawing, r)) return meets(loose.drawing, refs.entities)
    return fits(() => relationEquations(r, loose.drawing, vars, vars.x)) !== null
  })
  const dimensions = kinds(DIMENSIONS).flatMap((kind) => {
    const d = { id: 'x', kind, value: 0, ...refs }
    const measure = fits(() => measured(d, loose.drawing, vars, vars.x))
    return measure === null ? [] : [{ kind, measure }]
  })
  return { relations, dimensions }
}

const named = (r: Refs): string => [...r.points, ...r.entities].sort().join()

const meets = (drawing: Drawing, ids: string[]): boolean => {
  const [e, f] = ids.map((id) => drawing.entities.find((x) => x.id === id))
  return e !== undefined && f !== undefined && sharedEnd(e, f) !== undefined
}

/** Relations a drawing nearly keeps already, offered as one click. */
export interface Suggestion {
  says: string
  relations: Omit<Relation, 'id'>[]
}

/** A direction this close to level or upright was meant to be, rad (0.2 deg). */
const NEAR_ANGLE = (0.2 * Math.PI) / 180
/** A point this close to the axis was meant to be on it, mm. */
const NEAR = 0.05

/** What nearly holds of a solved drawing but is not held; only what takes a freedom away is offered. */
export function suggestions(loose: Loose, state: HoldState): Suggestion[] {
  if (state.freedoms === 0 || state.conflict.length > 0) return []
  const { points } = loose
  const lines = loose.drawing.entities.filter((e) => e.kind === 'line')
  const lean = (a: string, b: string) => {
    const [p, q] = [points[a]!, points[b]!]
    return Math.atan2(Math.abs(q[1] - p[1]), Math.abs(q[0] - p[0]))
  }
  const level = lines.filter((l) => lean(l.a, l.b) < NEAR_ANGLE)
  const upright = lines.filter((l) => lean(l.a, l.b) > Math.PI / 2 - NEAR_ANGLE)
  const onAxis = Object.keys(loose.drawing.points).filter(
    (id) =>
      Math.abs(points[id]![0]) < NEAR &&
      typeof loose.drawing.points[id]!.x === 'number' &&
      !loose.given?.has(id),
  )
  const rounds = loose.drawing.entities.filter((e) => e.kind === 'circle')
  const equal = rounds
    .slice(1)
    .filter((c) => Math.abs(loose.radii[c.id]! / loose.radii[rounds[0]!.id]! - 1) < 0.005)
  const ofLine = (kind: RelationKind) => (l: { id: string }) => ({
    kind,
    points: [],
    entities: [l.id],
  })
  const count = (n: number, one: string, many: string) => (n === 1 ? one : `these ${n} ${many}`)
  const groups: Suggestion[] = [
    {
      says: `${count(level.length, `${level[0]?.id} is`, 'lines are')} within 0.2° of level`,
      relations: level.map(ofLine('level')),
    },
    {
      says: `${count(upright.length, `${upright[0]?.id} is`, 'lines are')} within 0.2° of upright`,
      relations: upright.map(ofLine('upright')),
    },
    {
      says: `${count(onAxis.length, `${onAxis[0]} lies`, 'points lie')} on the axis`,
      relations: onAxis.map((p) => ({ kind: 'on' as const, points: [p], entities: [AXIS] })),
    },
    {
      says: `${equal.length + 1} circles have one radius`,
      relations: equal.map((c) => ({
        kind: 'equal' as const,
        points: [],
        entities: [rounds[0]!.id, c.id],
      })),
    },
  ]
  return groups.flatMap((g) => {
    const news = taking(loose, g.relations)
    return news.length > 0 ? [{ ...g, relations: news }] : []
  })
}

/** Of some relations those that take a freedom away. */
function taking(loose: Loose, relations: Suggestion['relations']): Suggestion['relations'] {
  if (relations.length === 0) return []
  const named = relations.map((r, i) => ({ ...r, id: `new-${i}` }))
  const drawing = { ...loose.drawing, relations: [...(loose.drawing.relations ?? []), ...named] }
  const { state } = hold({ ...loose, drawing })
  if (state.conflict.length > 0) return []
  const idle = new Set(state.redundant.map((r) => r.id))
  return relations.filter((_, i) => !idle.has(`new-${i}`))
}
