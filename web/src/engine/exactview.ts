import {
  type ExactPart,
  edgeNames,
  edgeRef,
  faceName,
  faceRef,
  realEdges,
  realVertices,
  vertexRef,
} from '@ivory/core/exact'
import { add3, dot3, type Frame, type P2, type P3, scale3, sub3 } from '@ivory/core/math'
import { capOf, slice, type TriMesh } from '@ivory/core/mesh'
import type { Body } from '@ivory/core/ops'
import { type DisplayMesh, SECTION } from '@ivory/core/turned'
import type { BodyView, ViewRequest } from './protocol'

/** Everything the page draws of an exact body. */
export function exactView(b: Body, part: ExactPart, request: ViewRequest): BodyView {
  const { plane } = request
  return {
    ...cutView(part.mesh, request),
    id: b.id,
    name: b.name,
    key: b.key,
    mesh: request.solid ? displayed(part) : null,
    liquid: null,
    bounds: part.measure.bounds,
    volume: part.measure.volume,
    hidden: false,
    away: false,
    content: false,
    look: 'shaded',
    faces: part.faces.map((_, i) => ({ ref: faceRef(part, i), at: null, shown: i })),
    edges: realEdges(part).map((i) => ({
      ref: edgeRef(part, i),
      at: onPlane(part, i, plane),
      sharp: part.edges[i]!.bend !== 'smooth',
      shown: i,
    })),
    vertices: realVertices(part).map((i) => ({
      ref: vertexRef(part, i),
      at: part.vertices[i]!.at,
    })),
  }
}

/** A mesh cut by the plane of the Table, and closed where it is cut away. */
export function cutView(
  mesh: TriMesh,
  { plane, cut, cutaway, solid }: ViewRequest,
): Pick<BodyView, 'section' | 'frame' | 'cap' | 'turned'> {
  return {
    section: slice(mesh, plane).map((points) => ({ name: SECTION, points })),
    frame: sectionFrame(plane),
    cap: cutaway && solid ? capOf(slice(mesh, cut.plane), cut.plane) : null,
    turned: false,
  }
}

/** The frame whose x and z are the plane's x and y. */
const sectionFrame = ({ origin, x, y, z }: Frame): Frame => ({ origin, x, y: z, z: y })

/** Copies, so that what is kept stays when the view is handed over. */
function displayed(part: ExactPart): DisplayMesh {
  const { positions, normals, triangles, faceOf, lines, edgeOf } = part.shown
  // Seams are no edges to a person, nor is where two facetted faces run on in each other.
  const real = new Set(
    realEdges(part).filter((i) => part.kind === 'exact' || part.edges[i]!.bend !== 'smooth'),
  )
  const segments = Array.from(edgeOf.keys()).filter((i) => real.has(edgeOf[i]!))
  return {
    positions: positions.slice(),
    normals: normals.slice(),
    triangles: triangles.slice(),
    faceOf: faceOf.slice(),
    faces: part.faces.map((_, i) => faceName(part, i)),
    lines: Float32Array.from(segments.flatMap((i) => [...lines.subarray(6 * i, 6 * i + 6)])),
    edgeOf: Uint32Array.from(segments, (i) => edgeOf[i]!),
    edges: part.edges.map((_, i) => ({ names: edgeNames(part, i) ?? ['', ''] })),
  }
}

/** Where an edge goes through the plane of the Table; null where it does not. */
function onPlane({ shown: { lines, edgeOf } }: ExactPart, edge: number, f: Frame): P2 | null {
  const off = (i: number): P3 => sub3([lines[i]!, lines[i + 1]!, lines[i + 2]!], f.origin)
  for (let i = 0; i < edgeOf.length; i++) {
    if (edgeOf[i] !== edge) continue
    const [p, q] = [off(6 * i), off(6 * i + 3)]
    const [a, b] = [dot3(p, f.z), dot3(q, f.z)]
    if (a * b > 0 || a === b) continue
    const at = add3(p, scale3(sub3(q, p), a / (a - b)))
    return [dot3(at, f.x), dot3(at, f.y)]
  }
  return null
}
