import type { P3 } from '@ivory/core/math'
import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry, type Plane } from 'three'
import { useDisposed } from './disposed'
import { UNTOUCHED } from './geometry'

/** Corners under the pointer or picked. */
export function Spots({ at, clip }: { at: P3[]; clip: { clippingPlanes: Plane[] | null } }) {
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(Float32Array.from(at.flat()), 3))
    return g
  }, [at])
  const geometry = useDisposed(made)
  return (
    <points geometry={geometry} renderOrder={3} {...UNTOUCHED}>
      <pointsMaterial
        {...clip}
        color="#8a4b00"
        size={9}
        sizeAttenuation={false}
        depthTest={false}
      />
    </points>
  )
}
