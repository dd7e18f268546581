import { z } from 'zod'
import { nearest, pointAt } from '../curve'
import { dist, type P2 } from '../math'
import { AXIS, type Seg } from '../profile'
import { bodyLoops, type TurnedBody } from './body'
import { type Corner, cornersOf } from './corners'
import { sectionBounds } from './properties'

/** Where the thing was when it was picked, and which of how many of that name it was. */
const witness = {
  at: z.tuple([z.number(), z.number()]).optional(),
  index: z.number().int().nonnegative().optional(),
  of: z.number().int().positive().optional(),
}
/** A face by the name its provenance gives it, such as `turn1:e4`. */
export const faceRefSchema = z.object({ face: z.string().min(1), ...witness })
/** An edge as the meeting of two faces. */
export const edgeRefSchema = z.object({
  edge: z.tuple([z.string().min(1), z.string().min(1)]),
  ...witness,
})
export type FaceRef = z.infer<typeof faceRefSchema>
export type EdgeRef = z.infer<typeof edgeRefSchema>

/** How a reference was resolved: for sure, by its shape only, or not at all. */
export type Resolved<T> =
  | { state: 'found'; item: T }
  | { state: 'likeness'; item: T }
  | { state: 'lost'; candidates: T[] }

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

const cornerName = (c: Corner) => [c.before.name, c.after.name].sort().join('|')

/** The reference to store for a picked face. */
export function faceRef(b: TurnedBody, face: Face): FaceRef {
  const peers = facesOf(b).filter((f) => f.seg.name === face.seg.name)
  return {
    face: face.seg.name,
    at: round2(face.at),
    index: peers.findIndex((f) => f.seg === face.seg),
    of: peers.length,
  }
}

/** The reference to store for a picked edge. */
export function edgeRef(b: TurnedBody, corner: Corner): EdgeRef {
  const peers = cornersOf(b).filter((c) => cornerName(c) === cornerName(corner))
  return {
    edge: [corner.before.name, corner.after.name],
    at: round2(corner.at),
    index: peers.findIndex((c) => c.loop === corner.loop && c.seg === corner.seg),
    of: peers.length,
  }
}

const round2 = (p: P2): [number, number] => [Number(p[0].toFixed(4)), Number(p[1].toFixed(4))]

export function resolveFace(b: TurnedBody, ref: FaceRef): Resolved<Face> {
  return resolve(
    b,
    facesOf(b),
    ref,
    (f) => f.seg.name === ref.face,
    (f, p) => nearest(f.seg.curve, p).d,
  )
}

export function resolveEdge(b: TurnedBody, ref: EdgeRef): Resolved<Corner> {
  const name = [...ref.edge].sort().join('|')
  return resolve(
    b,
    cornersOf(b),
    ref,
    (c) => cornerName(c) === name,
    (c, p) => dist(c.at, p),
  )
}

/** A thing this near to where the lost one was (share of the body's size) passes for its likeness. */
const LIKE = 0.08

function resolve<T extends { at: P2 }>(
  b: TurnedBody,
  all: T[],
  ref: { at?: [number, number]; index?: number; of?: number },
  named: (x: T) => boolean,
  away: (x: T, p: P2) => number,
): Resolved<T> {
  const same = all.filter(named)
  if (same.length === 1) return { state: 'found', item: same[0]! }
  if (same.length > 1) {
    if (ref.index !== undefined && (ref.of === same.length || ref.of === undefined)) {
      const item = same[ref.index]
      if (item) return { state: 'found', item }
    }
    if (!ref.at) return { state: 'found', item: same[0]! }
    const item = same.reduce((p, q) => (away(q, ref.at!) < away(p, ref.at!) ? q : p))
    return { state: 'likeness', item }
  }
  const at = ref.at
  if (!at) return { state: 'lost', candidates: all }
  const sorted = [...all].sort((p, q) => away(p, at) - away(q, at))
  const box = sectionBounds(b)
  const size = Math.max(box.max[0] - box.min[0], box.max[1] - box.min[1])
  const [first, second] = sorted
  const clear = first && away(first, at) < LIKE * size
  const alone = !second || away(second, at) > 2 * away(first!, at) + 1e-6
  if (clear && alone) return { state: 'likeness', item: first }
  return { state: 'lost', candidates: sorted.slice(0, 4) }
}
