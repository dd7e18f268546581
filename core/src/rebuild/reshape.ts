import type { Curve } from '../curve'
import type { KernelJob } from '../exact'
import { bad, good, type Outcome, type P2 } from '../math'
import { edgesOn, exactShape, MOST_EDGES, outlineOn, sectionPieces } from '../ops'
import {
  Builder,
  breakAtCrossings,
  chamferAt,
  circleThrough,
  type Drawing,
  ellipseAbout,
  extendAt,
  filletAt,
  type Gap,
  mirrored,
  offsetPieces,
  partOf,
  polygon,
  rectangle,
  rectangleAbout,
  type Source,
  slot,
  transformed,
  trimAt,
  type Value,
  withPart,
  withPlaces,
} from '../profile'
import { ExpressionError } from '../workpiece'
import type { Rebuilt } from './rebuild'

export const SHAPES = [
  'rectangle',
  'rectangle-about',
  'polygon',
  'slot',
  'ellipse',
  'circle3',
] as const
export type ShapeTool = (typeof SHAPES)[number]

/** A change of a drawing that needs its curves as they are solved. Values may be expressions. */
export type Reshape =
  | { do: 'fillet' | 'chamfer'; point: string; size: Value }
  | { do: 'trim' | 'extend' | 'break'; piece: string; at: P2 }
  | { do: 'offset'; pieces: string[]; by: Value; side: -1 | 0 | 1; gap: Gap }
  | { do: 'mirror'; pieces: string[]; line: string }
  | { do: 'move'; points: string[]; step: [Value, Value]; turn: Value; scale: Value; about: P2 }
  | { do: 'shape'; shape: ShapeTool; spots: P2[]; sides: number }
  | { do: 'project'; from: { body: string } | { profile: string } }
  | { do: 'section'; of: string }
  | { do: 'part'; pieces: string[] }
  | { do: 'paste'; part: Drawing }

/**
 * The drawing of a profile after a change, or for `part` the pieces taken out of it. Throws `WaitsForKernel`
 * where a section is asked for that has not been made yet.
 */
export function reshape(built: Rebuilt, op: string, change: Reshape): Outcome<Drawing> {
  const profile = built.state.profiles[op]
  if (!profile) return bad('no-profile', 'This profile is not there.')
  const { shape } = profile
  const drawing = withPlaces(profile.drawing, shape)
  const length = (v: Value) => built.figures.read(v, 'length')
  try {
    switch (change.do) {
      case 'fillet':
        return filletAt(drawing, shape, change.point, length(change.size))
      case 'chamfer':
        return chamferAt(drawing, shape, change.point, length(change.size))
      case 'trim':
        return trimAt(drawing, shape, change.piece, change.at)
      case 'extend':
        return extendAt(drawing, shape, change.piece, change.at)
      case 'break':
        return breakAtCrossings(drawing, shape, change.piece)
      case 'offset':
        return offsetPieces(
          drawing,
          shape,
          change.pieces,
          length(change.by),
          change.side,
          change.gap,
        )
      case 'mirror':
        return mirrored(drawing, shape.points, change.pieces, change.line)
      case 'move':
        return transformed(drawing, shape.points, change.points, {
          about: change.about,
          turn: built.figures.read(change.turn, 'angle'),
          scale: built.figures.read(change.scale, 'number'),
          step: [length(change.step[0]), length(change.step[1])],
        })
      case 'shape':
        return drawn(drawing, change.shape, change.spots, change.sides)
      case 'project':
        return projected(built, op, drawing, change.from)
      case 'section':
        return sectioned(built, op, drawing, change.of)
      case 'part':
        return good(partOf(drawing, shape.points, change.pieces))
      case 'paste':
        return good(withPart(drawing, change.part).drawing)
    }
  } catch (e) {
    if (e instanceof ExpressionError) return bad('bad-value', e.message)
    throw e
  }
}

/** Adds the outline of a body or of another profile as construction pieces that follow it. */
function projected(
  built: Rebuilt,
  op: string,
  drawing: Drawing,
  from: { body: string } | { profile: string },
): Outcome<Drawing> {
  const before = built.before[op]
  const to = new Builder(drawing, 1e-4)
  const like = { construction: true }
  const outline: { source: Source; curve: Curve }[] = []
  if ('body' in from) {
    const body = before?.bodies[from.body]
    if (!body) return bad('no-body', 'Choose a body made before.')
    const plane = built.state.profiles[op]!.frame
    if (body.shape.kind === 'turned')
      outline.push(...outlineOn(plane, from.body, body.shape.turned))
    else {
      const edges = edgesOn(plane, from.body, body.shape)
      if (edges.length > MOST_EDGES)
        return bad(
          'too-many',
          `${body.name} has ${edges.length} edges to be seen here; at most ${MOST_EDGES} are projected at once.`,
        )
      outline.push(...edges)
    }
    if (outline.length === 0 && body.shape.kind === 'turned')
      return bad(
        'not-seen',
        `${body.name} shows its section on planes along its axis and, turned all round, its circles on planes across it; this plane is neither.`,
      )
  } else {
    const other = before?.profiles[from.profile]
    if (!other) return bad('no-profile', 'Choose a profile made before.')
    for (const d of other.shape.drawn)
      outline.push({ source: { profile: from.profile, piece: d.id }, curve: d.curve })
  }
  for (const { source, curve } of outline) to.followed(curve, source, like)
  if (outline.length === 0) return bad('nothing', 'There is nothing to project.')
  return good(to.drawing)
}

/** Adds the section of a body on the plane of the drawing as construction pieces that follow it. */
function sectioned(built: Rebuilt, op: string, drawing: Drawing, id: string): Outcome<Drawing> {
  const body = built.before[op]?.bodies[id]
  if (!body) return bad('no-body', 'Choose a body made before.')
  const kernel = (job: KernelJob) => built.exact.resultOf(job)
  const part = exactShape(body.shape, { kernel })
  if (!part.ok) return part
  const pieces = sectionPieces(built.state.profiles[op]!.frame, id, part.value, kernel)
  if (!pieces.ok) return pieces
  if (pieces.value.length > MOST_EDGES)
    return bad(
      'too-many',
      `The section of ${body.name} has ${pieces.value.length} pieces; at most ${MOST_EDGES} are taken at once.`,
    )
  const to = new Builder(drawing, 1e-4)
  for (const { source, curve } of pieces.value) to.followed(curve, source, { construction: true })
  return good(to.drawing)
}

function drawn(d: Drawing, tool: ShapeTool, spots: P2[], sides: number): Outcome<Drawing> {
  const [a, b, c] = spots
  if (!a || !b) return bad('places', 'More places are needed.')
  if (tool === 'rectangle') return rectangle(d, a, b)
  if (tool === 'rectangle-about') return rectangleAbout(d, a, b)
  if (tool === 'polygon') return polygon(d, a, b, sides)
  if (!c) return bad('places', 'More places are needed.')
  if (tool === 'circle3') return circleThrough(d, a, b, c)
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
  const n = Math.hypot(ux, uy) || 1
  const aside = Math.abs((ux * (c[1] - a[1]) - uy * (c[0] - a[0])) / n)
  return tool === 'slot' ? slot(d, a, b, aside) : ellipseAbout(d, a, b, aside)
}
