import { lerp3, type P3 } from '@ivory/core/math'
import type { DisplayMesh } from '@ivory/core/turned'
import type { ThreeEvent } from '@react-three/fiber'
import {
  type Camera,
  type Intersection,
  LineSegments,
  type OrthographicCamera,
  type PerspectiveCamera,
  type Raycaster,
  Vector3,
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
  // A little more than the face: edges lie on its rim, and it may lean away.
  const deep = e.distance + 2 * NEAR.edge * pixelAt(e.camera, e.distance, height)
  const { origin, direction } = e.ray
  const spot = new Vector3()
  const seen = ([x, y, z]: P3): [number, number, number] => {
    spot.set(x, y, z)
    const far = spot.sub(origin).dot(direction)
    spot.set(x, y, z)
    spot.project(e.camera)
    return [((spot.x + 1) / 2) * width, ((1 - spot.y) / 2) * height, far]
  }
  let best: { d: number; under: Under } = { d: Number.POSITIVE_INFINITY, under: { face } }
  if (wanted.vertices)
    for (const [i, { at }] of body.vertices.entries()) {
      const [x, y, far] = seen(at)
      const d = Math.hypot(x - offsetX, y - offsetY)
      if (d < NEAR.vertex && d < best.d && far < deep) best = { d, under: { vertex: i } }
    }
  if (!('face' in best.under) || !wanted.edges) return best.under
  const { lines, edgeOf } = mesh
  for (let i = 0; i < edgeOf.length; i++) {
    const end = (k: number): P3 => [lines[6 * i + k]!, lines[6 * i + k + 1]!, lines[6 * i + k + 2]!]
    const [p, q] = [end(0), end(3)]
    const [a, b] = [seen(p), seen(q)]
    const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
    const long = ux * ux + uy * uy
    const t = long > 0 ? ((offsetX - a[0]) * ux + (offsetY - a[1]) * uy) / long : 0
    const k = Math.min(1, Math.max(0, t))
    const d = Math.hypot(a[0] + k * ux - offsetX, a[1] + k * uy - offsetY)
    if (d < NEAR.edge && d < best.d && seen(lerp3(p, q, k))[2] < deep)
      best = { d, under: { edge: edgeOf[i]! } }
  }
  return best.under
}
