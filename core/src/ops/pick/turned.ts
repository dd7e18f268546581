import type { EdgeRef, FaceRef } from '../../refs'
import {
  type Corner,
  cornersOf,
  edgeRef,
  type Face,
  faceRef,
  facesOf,
  isSharp,
  resolveEdge,
  resolveFace,
  type TurnedBody,
} from '../../turned'
import type { OpContext } from '../state'
import { missingFace, pick } from './ask'

/** The picked edges of a turned body. */
export function pickEdges(b: TurnedBody, refs: readonly EdgeRef[], ctx: OpContext) {
  const faces = new Set(facesOf(b).map((f) => f.seg.name))
  return pick(
    refs,
    (r) => resolveEdge(b, r),
    {
      op: ctx.op,
      input: 'edges',
      what: 'edge',
      missing: ({ edge: [p, q] }) =>
        faces.has(p) && faces.has(q)
          ? `The faces ${p} and ${q} do not meet in an edge here.`
          : missingFace([...faces], [p, q].find((n) => !faces.has(n))!, ctx),
      named: ({ edge: [p, q] }) => `edges where ${p} meets ${q}`,
      place: (c: Corner) => c.at,
      nameAgain: (c) => edgeRef(b, c),
    },
    cornersOf(b).filter(isSharp),
  )
}

/** The picked faces of a turned body; `input` is where the op keeps them. */
export function pickFaces(b: TurnedBody, refs: readonly FaceRef[], ctx: OpContext, input: string) {
  return pick(
    refs,
    (r) => resolveFace(b, r),
    {
      op: ctx.op,
      input,
      what: 'face',
      missing: ({ face }) =>
        missingFace(
          facesOf(b).map((f) => f.seg.name),
          face,
          ctx,
        ),
      named: ({ face }) => `faces named ${face}`,
      place: (f: Face) => f.at,
      nameAgain: (f) => faceRef(b, f),
    },
    facesOf(b),
  )
}
