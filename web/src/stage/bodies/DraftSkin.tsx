import { DoubleSide } from 'three'
import type { View } from '../../engine'
import { useSession } from '../../session/session'
import { looksAt, SkinLook, useSkin } from './skin'

type Skin = NonNullable<NonNullable<View['reports'][number]['shown']>['skin']>

/**
 * Skins that ops have worked out while the exact kernel has still to make bodies of them, and cages as they stand before an edit that
 * fails: seen at once, in a drag too, with the stripes or the lean that bodies are looked at with.
 */
export function DraftSkins() {
  const reports = useSession((s) => s.view?.reports)
  return (reports ?? []).map((r) =>
    r.shown?.skin && (r.status === 'waits' || (r.status === 'fail' && r.shown.cage)) ? (
      <DraftSkin key={r.id} skin={r.shown.skin} />
    ) : null,
  )
}

function DraftSkin({ skin }: { skin: Skin }) {
  const reading = looksAt(useSession((s) => s.reading))
  const geometry = useSkin(skin)
  return (
    <mesh geometry={geometry} raycast={() => undefined} renderOrder={3}>
      {reading ? (
        <SkinLook reading={reading} clip={null} />
      ) : (
        <meshStandardMaterial
          color="#d8b56a"
          transparent
          opacity={0.6}
          side={DoubleSide}
          depthWrite={false}
        />
      )}
    </mesh>
  )
}
