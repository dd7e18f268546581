import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry, DoubleSide } from 'three'
import type { View } from '../engine'
import { useSession } from '../session/session'
import { useDisposed } from './disposed'
import { LookMaterial } from './Look'

type Skin = NonNullable<NonNullable<View['reports'][number]['shown']>['skin']>

/**
 * Skins that lofts and sweeps have worked out while the exact kernel has still to make bodies of them: seen at once, in a drag too,
 * with the stripes or the lean that bodies are looked at with.
 */
export function DraftSkins() {
  const reports = useSession((s) => s.view?.reports)
  return (reports ?? []).map((r) =>
    r.status === 'waits' && r.shown?.skin ? <DraftSkin key={r.id} skin={r.shown.skin} /> : null,
  )
}

function DraftSkin({ skin }: { skin: Skin }) {
  const reading = useSession((s) => s.reading)
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(skin.positions, 3))
    g.setIndex(new BufferAttribute(skin.triangles, 1))
    g.computeVertexNormals()
    return g
  }, [skin])
  const geometry = useDisposed(made)
  return (
    <mesh geometry={geometry} raycast={() => undefined} renderOrder={3}>
      {reading && reading.kind !== 'bends' ? (
        // Which side is out is not known before there is a body: it goes the way it looks.
        <LookMaterial
          reading={reading.kind === 'lean' ? { ...reading, parts: null } : reading}
          clip={{ clippingPlanes: null }}
        />
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
