import { z } from 'zod'

/** A number in mm or rad, or an expression over figures. */
const valueSchema = z.union([z.number().finite(), z.string().min(1).max(500)])
const id = z
  .string()
  .regex(/^[A-Za-z][\w-]{0,31}$/, 'an id is a letter, then letters, digits, - or _')

/** What each relation holds, and how many points and entities it takes. */
export const RELATIONS = {
  coincident: { label: 'Together', says: 'are in one place', needs: ['2p'] },
  on: { label: 'On', says: 'lies on', needs: ['1p1e'] },
  midpoint: { label: 'Half-way', says: 'is half-way along', needs: ['1p1e'] },
  level: { label: 'Level', says: 'is level', needs: ['1e', '2p'] },
  upright: { label: 'Upright', says: 'is upright', needs: ['1e', '2p'] },
  parallel: { label: 'Parallel', says: 'are parallel', needs: ['2e'] },
  square: { label: 'Square', says: 'are square to each other', needs: ['2e'] },
  collinear: { label: 'In line', says: 'are in one line', needs: ['2e'] },
  tangent: { label: 'Tangent', says: 'touch without a kink', needs: ['2e'] },
  smooth: { label: 'Smooth', says: 'go on with one curvature', needs: ['2e'] },
  concentric: { label: 'One centre', says: 'have one centre', needs: ['2e'] },
  equal: { label: 'Equal', says: 'are equal', needs: ['2e'] },
  symmetric: { label: 'Mirrored', says: 'mirror each other in', needs: ['2p1e'] },
  fixed: { label: 'Fixed', says: 'stays where it is', needs: ['1p'] },
} as const
export type RelationKind = keyof typeof RELATIONS

/** What each dimension measures, and what it takes. */
export const DIMENSIONS = {
  distance: { label: 'Distance', unit: 'length', needs: ['2p', '1e'] },
  level: { label: 'Distance across', unit: 'length', needs: ['2p', '1e'] },
  upright: { label: 'Distance up', unit: 'length', needs: ['2p', '1e'] },
  offset: { label: 'Distance from a line', unit: 'length', needs: ['1p1e'] },
  across: { label: 'Full width', unit: 'length', needs: ['1p'] },
  radius: { label: 'Radius', unit: 'length', needs: ['1e'] },
  diameter: { label: 'Diameter', unit: 'length', needs: ['1e'] },
  angle: { label: 'Angle', unit: 'angle', needs: ['2e'] },
  arclength: { label: 'Length along', unit: 'length', needs: ['1e'] },
} as const
export type DimensionKind = keyof typeof DIMENSIONS

const refs = {
  id,
  points: z.array(id).max(3).default([]),
  entities: z.array(id).max(3).default([]),
}
export const relationSchema = z.object({
  ...refs,
  kind: z.enum(Object.keys(RELATIONS) as [RelationKind, ...RelationKind[]]),
  /** Where a fixed point stays, mm. */
  at: z.tuple([z.number().finite(), z.number().finite()]).optional(),
})
export const dimensionSchema = z.object({
  ...refs,
  kind: z.enum(Object.keys(DIMENSIONS) as [DimensionKind, ...DimensionKind[]]),
  /** mm, rad or an expression; ignored when only read. */
  value: valueSchema,
  /** Measured and shown, holding nothing. */
  read: z.boolean().optional(),
})
export type Relation = z.infer<typeof relationSchema>
export type Dimensioned = z.infer<typeof dimensionSchema>

/** "1p1e": how many points and entities are named. */
export const shapeOfRefs = (r: { points: string[]; entities: string[] }): string =>
  `${r.points.length ? `${r.points.length}p` : ''}${r.entities.length ? `${r.entities.length}e` : ''}`
