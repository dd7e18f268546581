import type { P3 } from '@ivory/core/math'
import { useMemo } from 'react'
import type { Plane } from 'three'
import { useDisposed } from '../disposed'
import { geometryAt, UNTOUCHED } from '../geometry'

/** Corners under the pointer or picked. */
export function Spots({ at, clip }: { at: P3[]; clip: { clippingPlanes: Plane[] | null } }) {
  const made = useMemo(() => {
    return geometryAt(at.flat())
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
