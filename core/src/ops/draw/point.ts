import { z } from 'zod'
import { boundsOf, intersect, line, pointAt } from '../../curve'
import { alongEdge } from '../../exact'
import {
  add3,
  bad,
  dist,
  dot3,
  good,
  mm,
  type Outcome,
  type P2,
  type P3,
  scale3,
  sub3,
  toSpace,
} from '../../math'
import { valueSchema } from '../../profile'
import { edgeRefSchema, faceRefSchema, vertexRefSchema } from '../../refs'
import { exactBody } from '../exact'
import { pickExactEdges, pickExactVertices } from '../pick'
import { defineOp } from '../spec'
import {
  type DatumContext,
  datumAxis,
  drawnPiece,
  faceSpot,
  madeBy,
  pieceSpot,
  placeOf,
  placeSchema,
  planeFrame,
  shareOf,
  when,
} from './datum'

const inputs = z.object({
  how: z.enum(['place', 'along', 'face', 'meet', 'pierce', 'vertex', 'edge']).default('place'),
  p1: placeSchema.optional(),
  profile: z.string().optional(),
  piece: z.string().optional(),
  body: z.string().optional(),
  faces: z.array(faceRefSchema).max(1).default([]),
  vertices: z.array(vertexRefSchema).max(1).default([]),
  edges: z.array(edgeRefSchema).max(1).default([]),
  spot: z.enum(['share', 'centre']).default('share'),
  fraction: valueSchema.default(0.5),
  turn: valueSchema.default(0),
  which: valueSchema.default(1),
  axis: z.string().optional(),
  plane: z.string().optional(),
})
type Inputs = z.infer<typeof inputs>

export const pointOp = defineOp<Inputs>({
  kind: 'point',
  version: 2,
  label: 'Datum point',
  help: 'A place to set axes and planes on, that follows what it is set on.',
  stage: 'draw',
  inputs,
  fields: [
    {
      name: 'how',
      label: 'Set',
      help: 'What the point is set on.',
      type: 'choice',
      options: [
        { value: 'place', label: 'at a place' },
        { value: 'along', label: 'along a drawn curve' },
        { value: 'face', label: 'on a face' },
        { value: 'meet', label: 'where an axis meets a plane' },
        { value: 'pierce', label: 'where a drawn curve pierces a plane' },
        { value: 'vertex', label: 'on a corner of a body' },
        { value: 'edge', label: 'on an edge of a body' },
      ],
    },
    { name: 'p1', label: 'Place', help: 'x, y, z.', type: 'place', when: when('place') },
    {
      name: 'profile',
      label: 'Profile',
      help: 'The drawing the curve is in.',
      type: 'profile',
      when: when('along', 'pierce'),
    },
    {
      name: 'piece',
      label: 'Piece',
      help: 'The curve it lies on.',
      type: 'piece',
      when: when('along', 'pierce'),
    },
    {
      name: 'body',
      label: 'Body',
      help: 'The body it is set on.',
      type: 'body',
      when: when('face', 'vertex', 'edge'),
    },
    {
      name: 'vertices',
      label: 'Corner',
      help: 'Where faces of the body meet.',
      type: 'vertices',
      most: 1,
      when: when('vertex'),
    },
    {
      name: 'edges',
      label: 'Edge',
      help: 'The edge it is set on.',
      type: 'edges',
      most: 1,
      when: when('edge'),
    },
    {
      name: 'spot',
      label: 'There',
      help: 'Along the edge, or the middle of the circle it runs on.',
      type: 'choice',
      options: [
        { value: 'share', label: 'along it' },
        { value: 'centre', label: 'in the middle of its circle' },
      ],
      when: when('edge'),
    },
    {
      name: 'faces',
      label: 'Face',
      help: 'The face it lies on.',
      type: 'faces',
      when: when('face'),
    },
    {
      name: 'fraction',
      label: 'At',
      help: 'Share of the way along, 0 to 1.',
      type: 'value',
      dim: 'number',
      when: (i) => when('along', 'face')(i) || (i.how === 'edge' && i.spot !== 'centre'),
    },
    {
      name: 'turn',
      label: 'Angle',
      help: 'Where round the axis of the body.',
      type: 'value',
      dim: 'angle',
      when: when('face'),
    },
    { name: 'axis', label: 'Axis', help: 'The axis.', type: 'axis', when: when('meet') },
    {
      name: 'plane',
      label: 'Plane',
      help: 'The plane it meets.',
      type: 'plane',
      when: when('meet', 'pierce'),
    },
    {
      name: 'which',
      label: 'Of several',
      help: 'Which of the places where it goes through, counted from 1 along the curve.',
      type: 'value',
      dim: 'number',
      when: when('pierce'),
    },
  ],
  start: ({ body }) => ({
    how: 'place' as const,
    p1: { x: 0, y: 0, z: 0 },
    ...(body ? { body } : {}),
    faces: [],
    vertices: [],
    edges: [],
    spot: 'share' as const,
    fraction: 0.5,
    turn: 0,
    which: 1,
  }),
  evaluate: (input, ctx) =>
    madeBy(MAKERS, input, ctx, (at) => ({
      points: { [ctx.op]: { at } },
      consequence: `at ${at.map((x) => mm(x)).join(', ')}`,
    })),
})

const MAKERS: Record<Inputs['how'], (i: Inputs, ctx: DatumContext) => Outcome<P3>> = {
  place: (i, ctx) => placeOf(i.p1, ctx),
  along(i, ctx) {
    const spot = pieceSpot(i, ctx)
    return spot.ok ? good(spot.value.at) : spot
  },
  face(i, ctx) {
    const spot = faceSpot(i, ctx)
    return spot.ok ? good(spot.value.at) : spot
  },
  meet(i, ctx) {
    const axis = datumAxis(i.axis ?? '', ctx)
    if (!axis.ok) return axis
    const plane = planeFrame(i.plane ?? '', ctx)
    if (!plane.ok) return plane
    const { origin, dir } = axis.value
    const slope = dot3(dir, plane.value.z)
    if (Math.abs(slope) < 1e-9)
      return bad('parallel', 'The axis runs along the plane and meets it nowhere.')
    const k = dot3(sub3(plane.value.origin, origin), plane.value.z) / slope
    return good(add3(origin, scale3(dir, k)))
  },
  pierce(i, ctx) {
    const drawn = drawnPiece(i, ctx)
    if (!drawn.ok) return drawn
    const { piece, frame } = drawn.value
    const plane = planeFrame(i.plane ?? '', ctx)
    if (!plane.ok) return plane
    // The plane as it is seen on that of the drawing: where a x + b y + c is 0.
    const [a, b] = [dot3(frame.x, plane.value.z), dot3(frame.y, plane.value.z)]
    const c = dot3(sub3(frame.origin, plane.value.origin), plane.value.z)
    const steep = Math.hypot(a, b)
    if (steep < 1e-9)
      return bad('parallel', 'The drawing lies along the plane and pierces it nowhere.')
    // That line, as long as the curve is large on either side of the place nearest to it.
    const { min, max } = boundsOf(piece.curve)
    const middle: P2 = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2]
    const off = (a * middle[0] + b * middle[1] + c) / steep ** 2
    const foot: P2 = [middle[0] - off * a, middle[1] - off * b]
    const reach = dist(min, max) + 1
    const along = (k: number): P2 => [foot[0] - (k * b) / steep, foot[1] + (k * a) / steep]
    const hits = intersect(piece.curve, line(along(-reach), along(reach)))
      .map((h) => h.t)
      .sort((x, y) => x - y)
    const n = ctx.read(i.which, 'number')
    const t = hits[n - 1]
    if (t === undefined)
      return bad(
        'misses',
        hits.length === 0
          ? 'The curve does not go through the plane.'
          : `The curve goes through the plane ${hits.length} times; there is no place ${n}.`,
      )
    const p = pointAt(piece.curve, t)
    return good(toSpace(frame, p[0], p[1]))
  },
  vertex(i, ctx) {
    const on = exactBody(i.body ?? '', ctx)
    if (!on.ok) return on
    const picked = pickExactVertices(on.value.part, i.vertices, ctx)
    if (!picked.ok) return picked
    const [corner] = picked.value.items
    if (corner === undefined) return bad('no-corner', 'Pick the corner it is set on.')
    ctx.warnings.push(...picked.value.warnings)
    return good(on.value.part.vertices[corner]!.at)
  },
  edge(i, ctx) {
    const on = exactBody(i.body ?? '', ctx)
    if (!on.ok) return on
    const { part } = on.value
    const picked = pickExactEdges(part, i.edges, ctx)
    if (!picked.ok) return picked
    const [edge] = picked.value.items
    if (edge === undefined) return bad('no-edge', 'Pick the edge it is set on.')
    ctx.warnings.push(...picked.value.warnings)
    const { circle, middle } = part.edges[edge]!
    if (i.spot === 'centre')
      return circle
        ? good(circle.origin)
        : bad('no-circle', 'This edge is no part of a circle and has no middle off it.', [
            { at: middle },
          ])
    const share = shareOf(i.fraction, ctx)
    return share.ok ? good(alongEdge(part, edge, share.value)) : share
  },
}
