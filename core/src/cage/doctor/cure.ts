import type { P3 } from '../../math'
import type { Turning } from '../edit'

type Axis = 'x' | 'y' | 'z'
/** How points are moved together: by one way (mm), out along their normals (mm), turned (rad) about their middle or the z axis, or sized about their middle. */
export type Shaping =
  | { by: 'way'; way: P3 }
  | { by: 'out'; out: number }
  | { by: 'turn'; angle: number; axis: Axis; about: 'own' | 'axis' }
  | { by: 'size'; size: P3 }

/** Something that can be tried on a cage to make its limit more even. */
export type Cure =
  | { kind: 'crease'; edges: readonly (readonly [number, number])[] }
  | { kind: 'rotate'; edge: readonly [number, number]; way: Turning }
  | { kind: 'dissolve'; edge: readonly [number, number] }
  | { kind: 'shape'; points: readonly number[]; how: Shaping }
  | { kind: 'relax'; points: readonly number[] }
  | { kind: 'loop'; edge: readonly [number, number] }

/** A cure with how unevenly the form bends where it would be tried. */
export interface Scored {
  cure: Cure
  score: number
}
/** Cures with the most first. */
export const best = (of: Scored[]): Cure[] =>
  of.sort((x, y) => y.score - x.score).map((c) => c.cure)

/** The points that a cure is about. */
export const pointsOf = (c: Cure): readonly number[] => {
  switch (c.kind) {
    case 'crease':
      return [...new Set(c.edges.flat())]
    case 'rotate':
    case 'dissolve':
    case 'loop':
      return c.edge
    case 'shape':
    case 'relax':
      return c.points
  }
}
