import type { P2 } from '@ivory/core/math'
import { fixed, freshId, rounded } from '@ivory/core/math'
import {
  AXIS,
  DIMENSIONS,
  type Dimensioned,
  type DimensionKind,
  type Drawing,
  dragTo,
  endsOf,
  holdIds,
  type Loose,
  ORIGIN,
  pointsOf,
  type Relation,
  withHolds,
  withoutHold,
  withPlaces,
} from '@ivory/core/profile'

import type { Draft } from 'immer'
import { toast } from 'sonner'
import { EngineError, lathe, type ProfileView } from '../../engine'
import { edit, setInputs, useSession } from '../../session/session'
import { typedNumber } from '../../ui/number'
import type { DrawTool, Spot } from './edits'

/**
 * The drawing with what its newest piece was snapped to held from now on: ends on the axis and the base
 * line, a line level or upright, a smooth arc tangent to what it goes on from.
 */
export function withHints(d: Drawing, entity: string, tool: DrawTool, spots: Spot[]): Drawing {
  const made = d.entities.find((e) => e.id === entity)
  if (!made) return d
  const ids = pointsOf(made)
  const relations: Omit<Relation, 'id'>[] = []
  const isNew = (p: string) => d.entities.filter((e) => pointsOf(e).includes(p)).length === 1
  if (tool === 'line' || tool === 'arc' || tool === 'fit')
    for (const [i, s] of spots.entries()) {
      const p = ids[i]!
      if (!isNew(p) || s.id) continue
      if (s.holds?.includes('axis')) relations.push({ kind: 'on', points: [p], entities: [AXIS] })
      if (s.holds?.includes('base'))
        relations.push({ kind: 'level', points: [p, ORIGIN], entities: [] })
    }
  const end = spots[spots.length - 1]
  if (made.kind === 'line')
    for (const kind of ['level', 'upright'] as const)
      if (end?.holds?.includes(kind)) relations.push({ kind, points: [], entities: [entity] })
  const before = d.entities.find((e) => e.id !== entity && endsOf(e)?.[1] === ids[0])
  if (tool === 'tangent-arc' && before && (before.kind === 'line' || before.kind === 'arc'))
    relations.push({ kind: 'tangent', points: [], entities: [before.id, entity] })
  return relations.length > 0 ? withHolds(d, relations) : d
}

/** The drawing with a dimension that keeps what it measures now (mm or rad). */
export function withDimension(
  d: Drawing,
  kind: DimensionKind,
  refs: { points: string[]; entities: string[] },
  measure: number,
): { drawing: Drawing; id: string } {
  const id = freshId(holdIds(d), 'dim')
  const value = typedAs(kind, measure)
  return {
    id,
    drawing: { ...d, dimensions: [...(d.dimensions ?? []), { id, kind, value, ...refs }] },
  }
}

/** A measure as it is typed: mm, or degrees. */
export const typedAs = (kind: DimensionKind, measure: number): number =>
  rounded(DIMENSIONS[kind].unit === 'angle' ? (measure * 180) / Math.PI : measure, 4)

/** The typed text as it is kept: a plain number where it is one, in mm or degrees. */
export function typedDimension(text: string, kind: DimensionKind, unit: 'mm' | 'in') {
  const t = text.trim().replace(/^[⌀ØøR]\s*(?=[\d.])/, '')
  const n = typedNumber(t)
  return n !== null && (unit === 'mm' || DIMENSIONS[kind].unit === 'angle') ? n : t
}

/** What the solver starts from: the profile as it is shown; null while that lags behind the drawing. */
export function looseFrom(drawing: Drawing, p: ProfileView): Loose | null {
  const shown =
    Object.keys(drawing.points).every((id) => id in p.points) &&
    drawing.entities.every((e) => e.kind !== 'circle' || e.id in p.radii)
  return shown ? { ...p, drawing } : null
}

export const held = (d: Drawing): boolean => holdIds(d).length > 0

/** The drawing with some points dragged as far as its relations let them; null when they do not move. */
export function draggedDrawing(
  base: Drawing,
  shown: ProfileView,
  moves: Record<string, P2>,
): Drawing | null {
  const loose = looseFrom(base, shown)
  const to = loose && dragTo(loose, moves)
  return to && withPlaces(base, to)
}

/**
 * Gives a dimension a typed value if the drawing can take it. If not, nothing changes and a message
 * says what blocks it and the nearest value that can be.
 */
export async function setDimension(op: string, dim: Dimensioned, text: string): Promise<void> {
  const { doc } = useSession.getState()
  if (!doc) return
  const value = typedDimension(text, dim.kind, doc.unit)
  if (value === '') return
  // Into the drawing as it stands by then: another value may have been typed while this one was tried.
  const put = (v: number | string) =>
    edit((d) => {
      const drawing = d.route.find((o) => o.id === op)?.inputs.drawing as Draft<Drawing> | undefined
      const there = drawing?.dimensions?.find((x) => x.id === dim.id)
      if (there) there.value = v
    })
  try {
    const reply = await lathe.call('tryDimension', { doc, op, id: dim.id, value })
    if (typeof reply === 'string') toast.error(reply)
    else if (reply.ok || dim.read) put(value)
    else {
      const { nearest } = reply
      toast.error(`${text} cannot be: ${reply.blockedBy} stand in its way.`, {
        duration: 12_000,
        ...(nearest === null
          ? {}
          : {
              action: {
                label: `Use ${fixed(nearest, 3)}`,
                onClick: () => put(rounded(nearest, 4)),
              },
            }),
      })
    }
  } catch (e) {
    if (!(e instanceof EngineError)) throw e
    toast.error(e.message)
  }
}

/** Takes a relation or dimension off. */
export const release = (op: string, drawing: Drawing, id: string): void =>
  setInputs(op, { drawing: withoutHold(drawing, id) })
