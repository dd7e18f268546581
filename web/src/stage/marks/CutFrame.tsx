import { add3, dot3, type P3, scale3, sub3 } from '@ivory/core/math'
import { type ThreeEvent, useThree } from '@react-three/fiber'
import { useMemo, useRef } from 'react'
import type { BodyView } from '../../engine'
import { cutPlane } from '../../session/cut'
import { useSession } from '../../session/session'
import { useDisposed } from '../disposed'
import { geometryAt } from '../geometry'

/** The plane bodies are cut at: a brass frame with a knob that is dragged along its normal. */
export function CutFrame({ bodies }: { bodies: readonly BodyView[] }) {
  const cut = useSession((s) => s.cut)
  const plane = useSession(cutPlane)
  const controls = useThree((s) => s.controls) as { enabled: boolean } | null
  const grabbed = useRef<{ at: number; offset: number } | null>(null)
  const { middle, half } = useMemo(() => spread(bodies), [bodies])
  // About the foot of the bodies' middle on the plane.
  const centre = sub3(middle, scale3(plane.z, dot3(sub3(middle, plane.origin), plane.z)))
  // As far as the bodies reach along the plane, with some air.
  const reach = (v: P3): number =>
    4 + 1.1 * [0, 1, 2].reduce((sum, k) => sum + Math.abs(v[k]!) * half[k]!, 0)
  const [wide, high] = [reach(plane.x), reach(plane.y)]
  const key = [...centre, ...plane.x, ...plane.y, wide, high].join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all of it
  const made = useMemo(() => {
    const corner = (u: number, v: number): P3 =>
      add3(centre, add3(scale3(plane.x, u * wide), scale3(plane.y, v * high)))
    const ring = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)]
    const ends = ring.flatMap((p, i) => [...p, ...ring[(i + 1) % 4]!])
    return geometryAt(ends)
  }, [key])
  const frame = useDisposed(made)
  if (!cut || bodies.length === 0) return null
  const knob = add3(centre, scale3(plane.y, high))

  /** How far along the normal through the knob the pointer's ray comes nearest. */
  const along = ({ ray }: ThreeEvent<PointerEvent>): number => {
    const o: P3 = [ray.origin.x, ray.origin.y, ray.origin.z]
    const d: P3 = [ray.direction.x, ray.direction.y, ray.direction.z]
    const [w, b] = [sub3(knob, o), dot3(plane.z, d)]
    return (b * dot3(d, w) - dot3(plane.z, w)) / Math.max(1e-6, 1 - b * b)
  }
  const move = (e: ThreeEvent<PointerEvent>) => {
    if (!grabbed.current) return
    e.stopPropagation()
    // The knob goes with the plane: what is read is how far it still has to go.
    const offset = cut.offset + along(e) - grabbed.current.at
    useSession.setState({ cut: { ...cut, offset: Math.round(offset * 10) / 10 } })
  }
  return (
    <>
      <lineSegments geometry={frame} renderOrder={4}>
        <lineBasicMaterial color="#9a5b00" depthTest={false} />
      </lineSegments>
      <mesh
        position={[...knob]}
        onPointerDown={(e) => {
          e.stopPropagation()
          ;(e.target as Element).setPointerCapture(e.pointerId)
          if (controls) controls.enabled = false
          grabbed.current = { at: along(e), offset: cut.offset }
        }}
        onPointerMove={move}
        onPointerUp={() => {
          grabbed.current = null
          if (controls) controls.enabled = true
        }}
        renderOrder={5}
      >
        <sphereGeometry args={[0.05 * Math.max(wide, high), 16, 12]} />
        <meshBasicMaterial color="#b8862f" depthTest={false} />
      </mesh>
    </>
  )
}

/** The middle of what is shown and half its size along x, y and z. */
function spread(bodies: readonly BodyView[]): { middle: P3; half: P3 } {
  const shown = bodies.filter((b) => !b.hidden && !b.away)
  if (shown.length === 0) return { middle: [0, 0, 0], half: [20, 20, 20] }
  const low = [0, 1, 2].map((k) => Math.min(...shown.map((b) => b.bounds.min[k]!)))
  const high = [0, 1, 2].map((k) => Math.max(...shown.map((b) => b.bounds.max[k]!)))
  return {
    middle: low.map((x, k) => (x + high[k]!) / 2) as unknown as P3,
    half: low.map((x, k) => (high[k]! - x) / 2) as unknown as P3,
  }
}
