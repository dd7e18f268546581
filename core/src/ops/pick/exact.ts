import {
  type ExactPart,
  edgeRef,
  faceName,
  faceRef,
  realEdges,
  realVertices,
  resolveEdge,
  resolveFace,
  resolveVertex,
  vertexRef,
} from '../../exact'
import { good } from '../../math'
import type { EdgeRef, FaceRef, VertexRef } from '../../refs'
import type { OpContext } from '../state'
import { missingFace, pick } from './ask'

/** The picked edges of an exact body, by number. */
export function pickExactEdges(p: ExactPart, refs: readonly EdgeRef[], ctx: OpContext) {
  const faces = new Set(p.faces.flatMap((f) => f.names))
  return pick(
    refs,
    (r) => resolveEdge(p, r),
    {
      op: ctx.op,
      input: 'edges',
      what: 'edge',
      missing: ({ edge: [a, b] }) =>
        faces.has(a) && faces.has(b)
          ? `The faces ${a} and ${b} do not meet in an edge here.`
          : missingFace([...faces], [a, b].find((n) => !faces.has(n))!, ctx),
      named: ({ edge: [a, b] }) => `edges where ${a} meets ${b}`,
      place: (i: number) => p.edges[i]!.middle,
      nameAgain: (i) => edgeRef(p, i),
    },
    realEdges(p).filter((i) => p.edges[i]!.bend !== 'smooth'),
  )
}

/** The picked corners of an exact body, by number. */
export function pickExactVertices(p: ExactPart, refs: readonly VertexRef[], ctx: OpContext) {
  const faces = [...new Set(p.faces.flatMap((f) => f.names))]
  return pick(
    refs,
    (r) => resolveVertex(p, r),
    {
      op: ctx.op,
      input: 'vertices',
      what: 'corner',
      missing({ vertex }) {
        const gone = vertex.find((n) => !faces.includes(n))
        return gone
          ? missingFace(faces, gone, ctx)
          : `The faces ${vertex.join(', ')} do not meet in a corner here.`
      },
      named: ({ vertex }) => `corners where ${vertex.join(', ')} meet`,
      place: (i: number) => p.vertices[i]!.at,
      nameAgain: (i) => vertexRef(p, i),
    },
    realVertices(p),
  )
}

/** The picked faces of an exact body, by number; `input` is where the op keeps them. */
export function pickExactFaces(
  p: ExactPart,
  refs: readonly FaceRef[],
  ctx: OpContext,
  input: string,
) {
  const all = p.faces.map((_, i) => i)
  const picked = pick(
    refs,
    (r) => resolveFace(p, r),
    {
      op: ctx.op,
      input,
      what: 'face',
      missing: ({ face }) =>
        missingFace(
          all.map((i) => faceName(p, i)),
          face,
          ctx,
        ),
      named: ({ face }) => `faces named ${face}`,
      place: (i: number) => p.faces[i]!.middle,
      nameAgain: (i) => faceRef(p, i),
    },
    all,
  )
  // What was in several pieces may be one face now.
  return picked.ok ? good({ ...picked.value, items: [...new Set(picked.value.items)] }) : picked
}
