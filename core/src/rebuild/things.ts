import { type ExactPart, edgeLine, exactEnd, resolveEdge, resolveVertex, SHOWN } from '../exact'
import type { Measured } from '../gauges'
import { bad, good, type Outcome, type P3, sub3, toSpace, unit3 } from '../math'
import { measureMesh, type TriMesh } from '../mesh'
import type { Body } from '../ops'
import { type EdgeRef, edgeRefSchema, type VertexRef, vertexRefSchema } from '../refs'
import {
  displayMesh,
  facesOf,
  resolveEdge as resolveCorner,
  type TurnedBody,
  turnedPoint,
} from '../turned'

/** What of a body is measured: a face by its name, an edge or a corner by its reference as JSON. */
export function measuredThing(body: Body, text: string): Outcome<Measured> {
  if (text === '') return bad('no-pick', 'Pick two faces, edges or corners on the Stage.')
  if (!text.startsWith('{')) return measuredFace(body, text)
  let ref: unknown
  try {
    ref = JSON.parse(text)
  } catch {
    return bad('no-pick', `"${text}" is neither a face nor a reference to an edge or a corner.`)
  }
  const edge = edgeRefSchema.safeParse(ref)
  if (edge.success) return measuredEdge(body, edge.data)
  const vertex = vertexRefSchema.safeParse(ref)
  if (vertex.success) return measuredVertex(body, vertex.data)
  return bad('no-pick', `"${text}" is neither a face nor a reference to an edge or a corner.`)
}

const gone = (body: Body, what: string, names: readonly string[]) =>
  bad('no-pick', `${body.name} has no one ${what} of ${names.join(' and ')} now.`)

function measuredEdge(body: Body, ref: EdgeRef): Outcome<Measured> {
  const name = `edge of ${ref.edge.join(' and ')}`
  const { shape } = body
  if (shape.kind === 'turned') {
    const found = resolveCorner(shape.turned, ref)
    if (found.state !== 'found') return gone(body, 'edge', ref.edge)
    return good({ name, ...ringOf(shape.turned, found.item.at) })
  }
  const found = resolveEdge(shape, ref)
  if (found.state !== 'found') return gone(body, 'edge', ref.edge)
  const { circle, length } = shape.edges[found.item]!
  const line = edgeLine(shape, found.item)
  return good({
    name,
    mesh: strip(line),
    length,
    straight: straightOf(shape, found.item, line),
    round: circle,
  })
}

function straightOf(p: ExactPart, edge: number, line: readonly P3[]): Measured['straight'] {
  if (!p.edges[edge]!.straight) return undefined
  const [a, b] = [line[0]!, line[line.length - 1]!].map((x) => exactEnd(p, x)) as [P3, P3]
  return { origin: a, dir: unit3(sub3(b, a)) }
}

/** The ring that a corner of a half-section goes round. */
function ringOf(b: TurnedBody, [r, z]: readonly [number, number]) {
  const steps = Math.max(12, Math.ceil(b.sweep / SHOWN.angle))
  const line = Array.from({ length: steps + 1 }, (_, i) =>
    turnedPoint(b.frame, r, z, b.start + (i / steps) * b.sweep),
  )
  return {
    mesh: strip(line),
    length: r * b.sweep,
    round: { origin: toSpace(b.frame, 0, 0, z), dir: b.frame.z, radius: r },
  }
}

function measuredVertex(body: Body, ref: VertexRef): Outcome<Measured> {
  const { shape } = body
  if (shape.kind === 'turned') return gone(body, 'corner', ref.vertex)
  const found = resolveVertex(shape, ref)
  if (found.state !== 'found') return gone(body, 'corner', ref.vertex)
  const spot = shape.vertices[found.item]!.at
  return good({ name: `corner of ${ref.vertex.join(', ')}`, mesh: strip([spot]), spot })
}

/** A line of places as triangles of no width. */
function strip(line: readonly P3[]): TriMesh {
  const triangles =
    line.length === 1 ? [0, 0, 0] : line.slice(1).flatMap((_, i) => [i, i + 1, i + 1])
  return { positions: Float64Array.from(line.flat()), triangles: Uint32Array.from(triangles) }
}

/** All of a body that bears a face's name. */
function measuredFace(body: Body, name: string): Outcome<Measured> {
  const { shape } = body
  const found =
    shape.kind === 'turned'
      ? turnedFace(shape.turned, name)
      : {
          ...shape.shown,
          wanted: (f: number) => shape.faces[f]!.names.includes(name),
          like: shape.faces.filter((f) => f.names.includes(name)),
        }
  const own: number[] = []
  for (const [t, f] of found.faceOf.entries())
    if (found.wanted(f))
      own.push(found.triangles[3 * t]!, found.triangles[3 * t + 1]!, found.triangles[3 * t + 2]!)
  if (own.length === 0) return bad('no-face', `${body.name} has no face ${name} now.`)
  const mesh = { positions: found.positions, triangles: Uint32Array.from(own) }
  // A plane or an axis is told where all of the face lies on it.
  const [first, ...others] = found.like
  const same = others.every((f) => f.kind === first?.kind && f.kind !== 'free')
  return good({
    name,
    mesh,
    area: measureMesh(mesh).area,
    flat: same ? first?.flat : undefined,
    round: same ? first?.round : undefined,
  })
}

interface Surface {
  kind: string
  flat?: Measured['flat']
  round?: Measured['round']
}

function turnedFace(b: TurnedBody, name: string) {
  const shown = displayMesh(b, SHOWN)
  const { origin, z } = b.frame
  const like = facesOf(b).flatMap((f): Surface[] => {
    if (f.seg.name !== name) return []
    const { curve } = f.seg
    if (curve.kind !== 'line') return [{ kind: 'free' }]
    const [[r, low], [s, high]] = [curve.a, curve.b]
    if (Math.abs(high - low) < 1e-9)
      return [{ kind: 'plane', flat: { origin: toSpace(b.frame, 0, 0, low), dir: z } }]
    if (Math.abs(r - s) < 1e-9)
      return [{ kind: 'cylinder', round: { origin: origin as P3, dir: z, radius: r } }]
    return [{ kind: 'free' }]
  })
  return { ...shown, wanted: (f: number) => shown.faces[f] === name, like }
}
