import type { P2, P3 } from '@ivory/core/math'
import { Html } from '@react-three/drei'
import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry } from 'three'
import type { BodyView } from '../engine'
import { useSession } from '../session/session'

/** Marks the places of the selected op's diagnoses on the model: a ring and a label. */
export function Places({ bodies }: { bodies: BodyView[] }) {
  const report = useSession((s) => s.view?.reports.find((r) => r.id === s.selected))
  const frame = bodies[0]?.frame
  if (!frame || !report || report.kind === 'profile') return null
  const grave = report.status === 'fail'
  return (
    <>
      {report.diagnoses
        .flatMap((d) => d.places)
        .slice(0, 12)
        .map((p) => (
          <Ring key={`${p.at.join()}-${p.label ?? ''}`} at={p.at} frame={frame} grave={grave} />
        ))}
    </>
  )
}

function Ring({ at, frame, grave }: { at: P2; frame: BodyView['frame']; grave: boolean }) {
  const [geometry, label] = useMemo(() => {
    const n = 64
    const point = (k: number): P3 => {
      const a = (2 * Math.PI * k) / n
      const [c, s] = [at[0] * Math.cos(a), at[0] * Math.sin(a)]
      return [0, 1, 2].map(
        (i) => frame.origin[i]! + frame.x[i]! * c + frame.y[i]! * s + frame.z[i]! * at[1],
      ) as unknown as P3
    }
    const g = new BufferGeometry()
    const flat = Array.from({ length: n }, (_, k) => [...point(k), ...point(k + 1)]).flat()
    g.setAttribute('position', new BufferAttribute(Float32Array.from(flat), 3))
    return [g, point(0)] as const
  }, [at, frame])
  return (
    <>
      <lineSegments geometry={geometry} renderOrder={4}>
        <lineBasicMaterial color={grave ? '#93321d' : '#7d5600'} depthTest={false} />
      </lineSegments>
      <Html position={label as [number, number, number]} style={{ pointerEvents: 'none' }}>
        <span
          className={`block size-2.5 -translate-x-1/2 -translate-y-1/2 rounded-full ${grave ? 'bg-out' : 'bg-marginal'}`}
        />
      </Html>
    </>
  )
}
