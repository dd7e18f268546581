import type { Drawing } from '../drawing'
import { drawingSchema } from '../drawing'
import type { Loose } from './loose'
import { evenNumbers } from './starts'

type P2 = [number, number]

export interface Built {
  /** The drawing moved off, with targets true of `truth`. */
  loose: Loose
  truth: Record<string, P2>
}

/**
 * A half outline as drawn for turning: from the axis out, up by steps, tapers and rounds, and back to the axis, held
 * wholly by relations and dimensions of mixed kinds that are true of it; then every corner is moved by up to `share`
 * of its size in each direction.
 */
export function outlineMovedBy(share: number, seed: number): Built {
  const random = evenNumbers(seed * 7919)
  const n = 4 + Math.floor(random() * 6)
  const truth: Record<string, P2> = { o: [0, 0] }
  const names = Array.from({ length: n }, (_, i) => `p${i}`)
  let z = 0
  let r = 20 + 30 * random()
  for (const [i, id] of names.entries()) {
    // Steps out or in, uprights and tapers, as outlines have them.
    if (i > 0) {
      const kind = random()
      if (kind < 0.4) z += 8 + 20 * random()
      else if (kind < 0.6) r = Math.max(8, r + (random() < 0.5 ? -1 : 1) * (5 + 12 * random()))
      else {
        z += 8 + 20 * random()
        r = Math.max(8, r + (random() - 0.5) * 24)
      }
    }
    truth[id] = [r, z]
  }
  truth.t = [0, z]
  const chain = ['o', ...names, 't']
  const entities: Drawing['entities'] = chain
    .slice(1)
    .map((b, i) => ({ id: `l${i}`, kind: 'line', a: chain[i]!, b }))
  const relations: unknown[] = [
    { id: 'fix', kind: 'coincident', points: ['o', 'origin'], entities: [] },
    { id: 'onaxis', kind: 'upright', points: ['o', 't'], entities: [] },
    { id: 'base', kind: 'level', points: [], entities: ['l0'] },
    { id: 'top', kind: 'level', points: [], entities: [`l${chain.length - 2}`] },
  ]
  const dims: { id: string; kind: string; points: string[]; entities: string[]; value: number }[] =
    []
  const dim = (kind: string, points: string[], entities: string[], value: number) =>
    dims.push({ id: `d${dims.length}`, kind, points, entities, value })
  dim('across', [names[0]!], [], 2 * truth[names[0]!]![0])
  for (let i = 1; i < n; i++) {
    const [p, q] = [names[i - 1]!, names[i]!]
    const [a, b] = [truth[p]!, truth[q]!]
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
    if (Math.abs(dx) < 1e-9)
      relations.push({ id: `r${i}`, kind: 'upright', points: [], entities: [`l${i}`] })
    else if (Math.abs(dy) < 1e-9)
      relations.push({ id: `r${i}`, kind: 'level', points: [], entities: [`l${i}`] })
    else if (random() < 0.5) dim('across', [q], [], 2 * b[0])
    else dim('angle', [], [`l${i - 1}`, `l${i}`], angleAt(truth[chain[i - 1]!]!, a, b))
    if (random() < 0.5) dim('distance', [], [`l${i}`], Math.hypot(dx, dy))
    else if (Math.abs(dy) < 1e-9) dim('level', [p, q], [], Math.abs(dx))
    else dim('upright', [p, q], [], Math.abs(dy))
  }
  const size = Math.max(z, ...Object.values(truth).map((p) => p[0]))
  const moved = Object.fromEntries(
    Object.entries(truth).map(([id, [x, y]]) => [
      id,
      [x + share * size * (2 * random() - 1), y + share * size * (2 * random() - 1)] as P2,
    ]),
  )
  return { loose: looseFrom(moved, entities, relations, dims), truth }
}

/** The angle between the ways two lines leave the corner they share, rad. */
function angleAt(before: P2, corner: P2, after: P2): number {
  const [u, v] = [
    [before[0] - corner[0], before[1] - corner[1]],
    [after[0] - corner[0], after[1] - corner[1]],
  ] as const
  return Math.abs(Math.atan2(u[0]! * v[1]! - u[1]! * v[0]!, u[0]! * v[0]! + u[1]! * v[1]!))
}

export function looseFrom(
  points: Record<string, P2>,
  entities: Drawing['entities'],
  relations: unknown[],
  dimensions: { id: string; value: number }[],
): Loose {
  const drawing = drawingSchema.parse({
    points: Object.fromEntries(Object.entries(points).map(([id, [x, y]]) => [id, { x, y }])),
    entities,
    relations,
    dimensions,
  })
  return {
    drawing,
    points,
    radii: {},
    targets: Object.fromEntries(dimensions.map((d) => [d.id, d.value])),
  }
}
