import { z } from 'zod'
import type { ExactPart } from '../../exact'
import {
  bad,
  dot3,
  type Frame,
  good,
  mm,
  norm3,
  type Outcome,
  type P2,
  type P3,
  placeAt,
  polar,
  scale3,
  sub3,
  toSpace,
  unit3,
} from '../../math'
import { MeshTree, noHit } from '../../mesh'
import { valueSchema } from '../../profile'
import { faceRefSchema } from '../../refs'
import { exactBody, ofTriangles, reshaped } from '../exact'
import { gridOver } from '../layout'
import { pickExactFaces } from '../pick'
import { defineOp } from '../spec'
import { type OpContext, type OpResult, volumeWords } from '../state'

const inputs = z.object({
  body: z.string(),
  faces: z.array(faceRefSchema).max(20).default([]),
  plane: z.string().default('front'),
  layout: z.enum(['hex', 'square']).default('hex'),
  pitch: valueSchema.default(9),
  width: valueSchema.default(6.5),
  deep: valueSchema.default(2),
  way: z.enum(['in', 'out']).default('in'),
  clear: valueSchema.default(1.5),
  rim: valueSchema.default(0),
})
type Inputs = z.infer<typeof inputs>

/** Places a field may have at most. */
const MOST = 200

export const dimplesOp = defineOp<Inputs>({
  kind: 'dimples',
  version: 1,
  label: 'Dimples',
  help: 'Fills a face with round dimples or bubbles, laid out on a flat field before it.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body the face is on.', type: 'body' },
    {
      name: 'faces',
      label: 'On',
      help: 'The faces that are filled, in one spacing across all of them.',
      type: 'faces',
    },
    {
      name: 'plane',
      label: 'Field',
      help: 'The plane the places are laid out on; they are carried back onto the face, square to it, from where its normal looks.',
      type: 'plane',
    },
    {
      name: 'layout',
      label: 'Laid out',
      help: 'How the places stand to each other.',
      type: 'choice',
      options: [
        { value: 'hex', label: 'each row between the last' },
        { value: 'square', label: 'in rows and columns' },
      ],
    },
    {
      name: 'pitch',
      label: 'Pitch',
      help: 'From each to its neighbours, on the field.',
      type: 'value',
      dim: 'length',
    },
    { name: 'width', label: 'Across', help: 'Of one, at the face.', type: 'value', dim: 'length' },
    {
      name: 'way',
      label: 'Which way',
      help: 'Into the body or out of it.',
      type: 'choice',
      options: [
        { value: 'in', label: 'Dimples, into it' },
        { value: 'out', label: 'Bubbles, out of it' },
      ],
    },
    {
      name: 'deep',
      label: 'Depth',
      help: 'From the face itself, at the middle of each.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'clear',
      label: 'Clear by',
      help: 'What stays free to the edge of the face; only whole ones are made.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'rim',
      label: 'Rims',
      help: 'Rounded by this; 0 leaves them sharp.',
      type: 'value',
      dim: 'length',
    },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    faces: [],
    plane: 'front',
    layout: 'hex' as const,
    pitch: 9,
    width: 6.5,
    deep: 2,
    way: 'in' as const,
    clear: 1.5,
    rim: 0,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const target = exactBody(input.body, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const faceted = ofTriangles(body, 'a field of dimples')
    if (faceted) return faceted
    if (input.faces.length === 0) return bad('no-faces', 'Choose the faces that are filled.')
    const picked = pickExactFaces(part, input.faces, ctx, 'faces')
    if (!picked.ok) return picked
    const plane = ctx.plane(input.plane)
    if (!plane) return bad('no-plane', 'Choose the plane the places are laid out on.')
    const ball = ballOf(input, ctx)
    if (!ball.ok) return ball
    const places = placesOn(part, picked.value.items, plane.frame, input, ctx)
    if (!places.ok) return places
    const made = ctx.kernel({
      verb: 'dimples',
      args: { op: ctx.op, ...ball.value, way: input.way, places: places.value },
      on: [part.key],
    })
    if (!made.ok) return made
    const rounded = roundedRims(made.value[0]!, ctx.read(input.rim, 'length'), ctx)
    if (!rounded.ok) return rounded
    const { radius } = ball.value
    return good({
      bodies: { [body.id]: reshaped(body, rounded.value) },
      warnings: picked.value.warnings,
      consequence: `${places.value.length} of ball ${mm(2 * radius, 2)}, ${volumeWords(part.measure.volume, rounded.value.measure.volume)}`,
    })
  },
  cap: (input, i, ctx) => (input === 'deep' ? ctx.read(i.width, 'length') / 2 : null),
  slow: () => true,
})

/** The ball whose cap has the depth and the width: r = (a² + d²) / 2d, a half the width. */
function ballOf(i: Inputs, ctx: OpContext): Outcome<{ radius: number; deep: number }> {
  const [across, deep] = [ctx.read(i.width, 'length'), ctx.read(i.deep, 'length')]
  if (!(across > 0 && deep > 0)) return bad('not-positive', 'Width and depth must be more than 0.')
  if (deep > across / 2 + 1e-9)
    return bad(
      'too-deep',
      `A cap of a ball is at most half as deep as it is wide: ${mm(across / 2)} here.`,
    )
  return good({ radius: ((across / 2) ** 2 + deep ** 2) / (2 * deep), deep })
}

/**
 * Where whole circles of the field fall on the faces, in one spacing across all of them: places and the
 * directions out of the material. A circle lies on one face, clear of where it meets the next.
 */
function placesOn(
  part: ExactPart,
  faces: readonly number[],
  field: Frame,
  i: Inputs,
  ctx: OpContext,
): Outcome<{ at: P3; out: P3 }[]> {
  const [pitch, width, clear] = [i.pitch, i.width, i.clear].map((v) => ctx.read(v, 'length')) as [
    number,
    number,
    number,
  ]
  if (!(pitch > width))
    return bad(
      'too-close',
      `At a pitch of ${mm(pitch)} circles of ${mm(width)} run into each other.`,
    )
  if (!(clear >= 0)) return bad('margin', 'What stays clear must not be less than 0.')
  const surfaces = [...new Set(faces)].map((f) => surfaceOf(part, f, field))
  const reach = (k: 0 | 1 | 2 | 3) => surfaces.map((x) => x.reach[k])
  const box = {
    min: [min(reach(0)), min(reach(2))] as const,
    max: [max(reach(1)), max(reach(3))] as const,
  }
  const grid = gridOver(box, pitch, i.layout, 8 * MOST)
  if (!grid.ok) return grid
  const places: { at: P3; out: P3 }[] = []
  for (const p of grid.value) {
    // Of faces that lie behind each other the one before the others takes it.
    const [first] = surfaces
      .flatMap((surface) => {
        const spot = surface.at(p)
        return spot ? [{ surface, spot, high: dot3(spot.at, field.z) }] : []
      })
      .sort((a, b) => b.high - a.high)
    if (!first) continue
    const whole = Array.from({ length: ROUND }, (_, k) =>
      polar(p, width / 2 + clear, (2 * Math.PI * k) / ROUND),
    ).every((q) => first.surface.at(q))
    if (whole) places.push(first.spot)
  }
  if (places.length === 0)
    return bad('no-room', 'No whole circle has room there at this width, pitch and margin.')
  if (places.length > MOST)
    return bad(
      'too-many',
      `${places.length} places are more than the ${MOST} that are made at once.`,
    )
  return good(places)
}

/** Places round a circle that have to lie on the face for all of it to do so. */
const ROUND = 48
/** A face seen more edge-on than this (cosine) takes nothing carried onto it. */
const EDGE_ON = 0.1

/**
 * A face as it is seen from before a field: how far it reaches there, and where a place of the field falls on
 * it; exactly on flat and round faces, else on its triangles.
 */
function surfaceOf(part: ExactPart, face: number, field: Frame) {
  const { positions, normals, triangles, faceOf } = part.shown
  const own: number[] = []
  for (const [t, f] of faceOf.entries())
    if (f === face) own.push(triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!)
  const tree = new MeshTree({ positions, triangles: Uint32Array.from(own) })
  const seen = own.map((v) => sub3(placeAt(positions, v), field.origin))
  const along = (v: P3) => seen.map((p) => dot3(p, v))
  const [us, vs] = [along(field.x), along(field.y)]
  const far = 1 + Math.max(...along(field.z).map(Math.abs))
  const way = scale3(field.z, -1)
  const info = part.faces[face]!
  const hit = noHit()
  const at = ([u, v]: P2): { at: P3; out: P3 } | null => {
    if (!tree.along(...toSpace(field, u, v, far), ...way, 0, 2 * far, hit)) return null
    const place: P3 = [hit.x, hit.y, hit.z]
    const corners = [0, 1, 2].map((k) => own[3 * hit.triangle + k]!)
    const weights = corners.map((c) => 1 / (1e-9 + norm3(sub3(placeAt(positions, c), place))))
    const mixed = unit3(
      [0, 1, 2].map((k) =>
        corners.reduce((sum, c, j) => sum + weights[j]! * normals[3 * c + k]!, 0),
      ) as unknown as P3,
    )
    const found = info.flat
      ? { at: place, out: info.normal }
      : info.round
        ? onCylinder(place, mixed, info.round)
        : { at: place, out: mixed }
    return dot3(found.out, field.z) > EDGE_ON ? found : null
  }
  return { reach: [min(us), max(us), min(vs), max(vs)] as const, at }
}
const min = (x: readonly number[]) => x.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY)
const max = (x: readonly number[]) => x.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY)

/** A place near a cylinder brought onto it, and the direction out of the material, which `near` looks to. */
function onCylinder(
  place: P3,
  near: P3,
  { origin, dir, radius }: { origin: P3; dir: P3; radius: number },
): { at: P3; out: P3 } {
  const off = sub3(place, origin)
  const square = sub3(off, scale3(dir, dot3(off, dir)))
  const n = unit3(square)
  const at = sub3(place, scale3(n, norm3(square) - radius))
  return { at, out: dot3(n, near) > 0 ? n : scale3(n, -1) }
}

/** The edges of all caps rounded in one go. */
function roundedRims(part: ExactPart, rim: number, ctx: OpContext): Outcome<ExactPart> {
  if (Math.abs(rim) < 1e-9) return good(part)
  if (!(rim > 0)) return bad('not-positive', 'The rounding of the rims must not be less than 0.')
  const capped = part.faces.map((f) => f.names.some((n) => n.startsWith(`${ctx.op}:dimple`)))
  const edges = part.edges.flatMap((e, i) =>
    e.faces.length === 2 && capped[e.faces[0]!] !== capped[e.faces[1]!] ? [i] : [],
  )
  const made = ctx.kernel({
    verb: 'rounding',
    args: { op: ctx.op, kind: 'fillet', work: edges.map((edge) => ({ edge, size: rim })) },
    on: [part.key],
  })
  return made.ok
    ? good(made.value[0]!)
    : bad(
        'no-rim',
        `The rims do not take a rounding of ${mm(rim)}: ${made.diagnosis.message}`,
        made.diagnosis.places,
      )
}
