import type { ShownSkin } from '@ivory/core/surface'
import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry, type Plane } from 'three'
import type { Reading } from '../../session/session'
import { useDisposed } from '../disposed'
import { LookMaterial } from './Look'

/** The triangles of a skin that is no body yet, given back when it is gone. */
export function useSkin(skin: ShownSkin): BufferGeometry {
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(skin.positions, 3))
    g.setIndex(new BufferAttribute(skin.triangles, 1))
    if (skin.normals) g.setAttribute('normal', new BufferAttribute(skin.normals, 3))
    else g.computeVertexNormals()
    return g
  }, [skin])
  return useDisposed(made)
}

/** What such a skin is looked at with; how tightly it bends is told of bodies only. */
export const looksAt = (reading: Reading | null) =>
  reading && reading.kind !== 'bends' ? reading : null

/** It has no inside: for a pull each place goes the way it looks. */
export const SkinLook = ({
  reading,
  clip,
}: {
  reading: NonNullable<ReturnType<typeof looksAt>>
  clip: Plane[] | null
}) => (
  <LookMaterial
    reading={reading.kind === 'lean' ? { ...reading, parts: null } : reading}
    clip={{ clippingPlanes: clip }}
  />
)
