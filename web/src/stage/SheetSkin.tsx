import { useMemo } from 'react'
import { BackSide, BufferAttribute, BufferGeometry, FrontSide } from 'three'
import type { DatumView } from '../engine'
import { useSession } from '../session/session'
import { useBehind } from './clip'
import { useDisposed } from './disposed'
import { LookMaterial } from './Look'

export type SheetDatum = Extract<DatumView, { kind: 'sheet' }>

/** The sides of a sheet: where u x v looks, and the other. */
const TINTS = [
  { side: FrontSide, color: '#e3cf9f' },
  { side: BackSide, color: '#7d8f86' },
] as const

/** A skin without thickness, its two sides told apart by their tint. */
export function SheetSkin({ skin }: { skin: SheetDatum['skin'] }) {
  const reading = useSession((s) => s.reading)
  const cutaway = useSession((s) => s.cutaway)
  const plane = useBehind()
  const behind = cutaway ? plane : null
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(skin.positions, 3))
    g.setIndex(new BufferAttribute(skin.triangles, 1))
    g.computeVertexNormals()
    return g
  }, [skin])
  const geometry = useDisposed(made)
  if (reading && reading.kind !== 'bends')
    return (
      <mesh geometry={geometry} raycast={() => undefined}>
        <LookMaterial
          reading={reading.kind === 'lean' ? { ...reading, parts: null } : reading}
          clip={{ clippingPlanes: behind }}
        />
      </mesh>
    )
  return TINTS.map(({ side, color }) => (
    <mesh key={color} geometry={geometry} raycast={() => undefined}>
      <meshStandardMaterial
        color={color}
        side={side}
        clippingPlanes={behind}
        roughness={0.7}
        polygonOffset
        polygonOffsetFactor={1}
        polygonOffsetUnits={1}
      />
    </mesh>
  ))
}
