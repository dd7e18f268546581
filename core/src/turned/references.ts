import { nearest, pointAt } from '../curve'
import { dist, dot3, type P2, sub3 } from '../math'
import { AXIS, type Seg } from '../profile'
import { type EdgeRef, type FaceRef, type Resolved, resolve, stored, type Witness } from '../refs'
import { bodyLoops, type TurnedBody } from './body'
import { type Corner, cornersOf } from './corners'
import { sectionBounds } from './properties'

export interface Face {
  seg: Seg
  at: P2
}

/** Faces of the body in the order of its loops. */
export const facesOf = (b: TurnedBody): Face[] =>
  bodyLoops(b)
    .flat()
    .filter((s) => s.name !== AXIS)
    .map((seg) => ({ seg, at: pointAt(seg.curve, 0.5) }))

/** Names of the faces of a body. */
export const faceNames = (b: TurnedBody): Set<string> => new Set(facesOf(b).map((f) => f.seg.name))

const cornerName = (c: Corner) => [c.before.name, c.after.name].sort().join('|')

/** The reference to store for a picked face. */
export function faceRef(b: TurnedBody, face: Face): FaceRef {
  const peers = facesOf(b).filter((f) => f.seg.name === face.seg.name)
  return {
    face: face.seg.name,
    at: stored(face.at),
    index: peers.findIndex((f) => f.seg === face.seg),
    of: peers.length,
  }
}

/** The reference to store for a picked edge. */
export function edgeRef(b: TurnedBody, corner: Corner): EdgeRef {
  const peers = cornersOf(b).filter((c) => cornerName(c) === cornerName(corner))
  return {
    edge: [corner.before.name, corner.after.name],
    at: stored(corner.at),
    index: peers.findIndex((c) => c.loop === corner.loop && c.seg === corner.seg),
    of: peers.length,
  }
}

/** The place of a reference in the half-section; one picked in space is brought there. */
function sectionPlace(b: TurnedBody, at: Witness['at']): P2 | undefined {
  if (!at || at.length === 2) return at
  const off = sub3(at, b.frame.origin)
  return [Math.hypot(dot3(off, b.frame.x), dot3(off, b.frame.y)), dot3(off, b.frame.z)]
}

export function resolveFace(b: TurnedBody, ref: FaceRef): Resolved<Face> {
  const at = sectionPlace(b, ref.at)
  const away = (f: Face) => nearest(f.seg.curve, at!).d
  return resolve(ref, at, {
    all: facesOf(b),
    named: (f) => f.seg.name === ref.face,
    away,
    size: sizeOf(b),
  })
}

export function resolveEdge(b: TurnedBody, ref: EdgeRef): Resolved<Corner> {
  const name = [...ref.edge].sort().join('|')
  const at = sectionPlace(b, ref.at)
  const away = (c: Corner) => dist(c.at, at!)
  return resolve(ref, at, {
    all: cornersOf(b),
    named: (c) => cornerName(c) === name,
    away,
    size: sizeOf(b),
  })
}

function sizeOf(b: TurnedBody): number {
  const box = sectionBounds(b)
  return Math.max(box.max[0] - box.min[0], box.max[1] - box.min[1])
}
