import type { DisplayMesh } from '@ivory/core/turned'
import type { ThreeEvent } from '@react-three/fiber'
import {
  type Camera,
  type Intersection,
  LineSegments,
  Matrix4,
  type OrthographicCamera,
  type PerspectiveCamera,
  type Raycaster,
} from 'three'
import type { BodyView } from '../engine'

/** How near the pointer counts as on an edge or a corner, pixels. */
const NEAR = { edge: 6, vertex: 9 }

/** How many mm a pixel is at a distance from the eye, in a view so many pixels high. */
function pixelAt(camera: Camera, distance: number, height: number): number {
  if ((camera as PerspectiveCamera).isPerspectiveCamera)
    return (2 * distance * Math.tan(((camera as PerspectiveCamera).fov * Math.PI) / 360)) / height
  const { top, bottom, zoom } = camera as OrthographicCamera
  return (top - bottom) / zoom / height
}

/** Lines take the pointer from as near as edges do, in pixels of a view so high. */
export const castNear = (height: number) =>
  function (this: LineSegments, ray: Raycaster, hits: Intersection[]): void {
    const { boundingSphere } = this.geometry
    const away = boundingSphere?.center.distanceTo(ray.ray.origin) ?? 0
    const before = ray.params.Line.threshold
    ray.params.Line.threshold = NEAR.edge * pixelAt(ray.camera, away, height)
    LineSegments.prototype.raycast.call(this, ray, hits)
    ray.params.Line.threshold = before
  }

const view = new Matrix4()
const spots = new Float64Array(4)

/** What of a body lies under the pointer: a corner before an edge before a face. */
export type Under = { vertex: number } | { edge: number } | { face: number }

/**
 * The corner (number in the body's list), edge or face (numbers in the mesh) under the pointer, of those that
 * are wanted; what lies behind the place it is on is not meant.
 */
export function thingUnder(
  e: ThreeEvent<PointerEvent | MouseEvent>,
  body: BodyView,
  mesh: DisplayMesh,
  face: number,
  wanted: { edges: boolean; vertices: boolean },
): Under {
  const canvas = e.nativeEvent.target as HTMLCanvasElement
  const { width, height } = canvas.getBoundingClientRect()
  const { offsetX, offsetY } = e.nativeEvent
  const { origin, direction } = e.ray
  // A little more than the face: edges lie on its rim, and it may lean away.
  const deep = e.distance + 2 * NEAR.edge * pixelAt(e.camera, e.distance, height)
  const m = view.multiplyMatrices(e.camera.projectionMatrix, e.camera.matrixWorldInverse).elements
  const hidden = (x: number, y: number, z: number) =>
    (x - origin.x) * direction.x + (y - origin.y) * direction.y + (z - origin.z) * direction.z >
    deep
  /** Pixels from the left and the top, put at `to` of `spots`. */
  const seen = (x: number, y: number, z: number, to: number) => {
    const w = m[3]! * x + m[7]! * y + m[11]! * z + m[15]!
    spots[to] = (((m[0]! * x + m[4]! * y + m[8]! * z + m[12]!) / w + 1) / 2) * width
    spots[to + 1] = ((1 - (m[1]! * x + m[5]! * y + m[9]! * z + m[13]!) / w) / 2) * height
  }
  let best: { d: number; under: Under } = { d: Number.POSITIVE_INFINITY, under: { face } }
  if (wanted.vertices)
    for (const [i, { at }] of body.vertices.entries()) {
      seen(at[0], at[1], at[2], 0)
      const d = Math.hypot(spots[0]! - offsetX, spots[1]! - offsetY)
      if (d < NEAR.vertex && d < best.d && !hidden(at[0], at[1], at[2]))
        best = { d, under: { vertex: i } }
    }
  if (!('face' in best.under) || !wanted.edges) return best.under
  const { lines, edgeOf } = mesh
  for (let i = 0; i < edgeOf.length; i++) {
    const o = 6 * i
    seen(lines[o]!, lines[o + 1]!, lines[o + 2]!, 0)
    seen(lines[o + 3]!, lines[o + 4]!, lines[o + 5]!, 2)
    const [ax, ay] = [spots[0]! - offsetX, spots[1]! - offsetY]
    const [ux, uy] = [spots[2]! - spots[0]!, spots[3]! - spots[1]!]
    const long = ux * ux + uy * uy
    const k = long > 0 ? Math.min(1, Math.max(0, -(ax * ux + ay * uy) / long)) : 0
    const d = Math.hypot(ax + k * ux, ay + k * uy)
    if (!(d < NEAR.edge && d < best.d)) continue
    const along = (c: number) => lines[o + c]! + k * (lines[o + 3 + c]! - lines[o + c]!)
    if (!hidden(along(0), along(1), along(2))) best = { d, under: { edge: edgeOf[i]! } }
  }
  return best.under
}
