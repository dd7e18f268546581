import { op } from './samples.test-data'
import type { Op } from './schema'

/** A profile of one closed outline of straight pieces, named side1, side2 …, on a plane. */
export const outline = (
  number: number,
  id: string,
  plane: string,
  points: readonly (readonly [number | string, number | string])[],
  /** Whether the last joins the first. */
  closed = true,
): Op =>
  op(number, 'profile', id, {
    plane,
    use: closed ? 'flat' : 'open',
    drawing: {
      points: Object.fromEntries(points.map(([x, y], i) => [`p${i + 1}`, { x, y }])),
      entities: points.slice(closed ? 0 : 1).map((_, i) => ({
        id: `side${i + 1}`,
        kind: 'line',
        a: `p${i + 1}`,
        b: `p${((i + 1) % points.length) + 1}`,
      })),
    },
  })

/** The same of a rectangle from one corner. */
export const rectangle = (
  number: number,
  id: string,
  plane: string,
  [x, y]: readonly [number, number],
  [w, h]: readonly [number, number],
): Op =>
  outline(number, id, plane, [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ])

/** A profile of circles, each [x, y, radius], named ring1, ring2 …. */
export const circles = (
  number: number,
  id: string,
  plane: string,
  list: readonly (readonly [number, number, number | string])[],
): Op =>
  op(number, 'profile', id, {
    plane,
    use: 'flat',
    drawing: {
      points: Object.fromEntries(list.map(([x, y], i) => [`c${i + 1}`, { x, y }])),
      entities: list.map(([, , radius], i) => ({
        id: `ring${i + 1}`,
        kind: 'circle',
        c: `c${i + 1}`,
        radius,
      })),
    },
  })
