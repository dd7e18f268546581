import type { DisplayMesh } from '@ivory/core/turned'
import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { DoubleSide, type Plane } from 'three'
import { useGhost } from '../../session/ghost'
import { useDisposed } from '../disposed'
import { geometryOf, linesOf, UNTOUCHED } from '../geometry'
import { useBehind } from './clip'

/** What a proof's bodies look like beside those of now: cool and hatched by their edges. */
const COLOR = '#5f7f8c'

/** The bodies of the proof that is compared: seen through what there is now, or in the half that is cut away. */
export function Ghost() {
  const { bodies, how } = useGhost()
  const { invalidate } = useThree()
  const behind = useBehind()
  const before = useMemo(() => behind.map((p) => p.clone().negate()), [behind])
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn follows these
  useEffect(() => invalidate(), [bodies, how, behind])
  return bodies.map(
    (b) => b.mesh && <Body key={b.id} mesh={b.mesh} planes={how === 'half' ? before : null} />,
  )
}

function Body({ mesh, planes }: { mesh: DisplayMesh; planes: Plane[] | null }) {
  const { geometry } = useMemo(() => geometryOf(mesh, () => true), [mesh])
  const lines = useMemo(() => linesOf(mesh, () => true), [mesh])
  useDisposed(geometry)
  useDisposed(lines)
  const solid = planes !== null
  return (
    <group>
      <mesh geometry={geometry} renderOrder={solid ? 0 : 5} {...UNTOUCHED}>
        <meshStandardMaterial
          key={String(solid)}
          color={COLOR}
          roughness={0.7}
          side={DoubleSide}
          transparent={!solid}
          opacity={solid ? 1 : 0.3}
          depthWrite={solid}
          clippingPlanes={planes}
        />
      </mesh>
      <lineSegments geometry={lines} renderOrder={6} {...UNTOUCHED}>
        <lineBasicMaterial color="#2f4d5a" transparent opacity={0.8} clippingPlanes={planes} />
      </lineSegments>
    </group>
  )
}
