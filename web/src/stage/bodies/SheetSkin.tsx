import { BackSide, FrontSide } from 'three'
import type { DatumView } from '../../engine'
import { useSession } from '../../session/session'
import { useBehind } from './clip'
import { looksAt, SkinLook, useSkin } from './skin'

export type SheetDatum = Extract<DatumView, { kind: 'sheet' }>

/** The sides of a sheet: where u x v looks, and the other. */
const TINTS = [
  { side: FrontSide, color: '#e3cf9f' },
  { side: BackSide, color: '#7d8f86' },
] as const

/** A skin without thickness, its two sides told apart by their tint. */
export function SheetSkin({ skin }: { skin: SheetDatum['skin'] }) {
  const reading = looksAt(useSession((s) => s.reading))
  const cutaway = useSession((s) => s.cutaway)
  const plane = useBehind()
  const behind = cutaway ? plane : null
  const geometry = useSkin(skin)
  if (reading)
    return (
      <mesh geometry={geometry} raycast={() => undefined}>
        <SkinLook reading={reading} clip={behind} />
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
