import { inSpace, type P2, type P3 } from '@ivory/core/math'
import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry } from 'three'
import type { BodyView } from '../../engine'
import { useSession } from '../../session/session'
import { Dots } from '../drawn/PathLine'

/** Marks the places of the selected op's diagnoses on the model: a ring and a label. */
export function Places({ bodies }: { bodies: BodyView[] }) {
  const report = useSession((s) => s.settled?.reports.find((r) => r.id === s.selected))
  // Places of half-sections need a body's frame; those in space need none.
  const frame = bodies[0]?.frame ?? LEVEL
  if (!report || report.kind === 'profile') return null
  const grave = report.status === 'fail'
  return (
    <>
      {report.diagnoses
        .flatMap((d) => d.places)
        .slice(0, 12)
        .map((p) => (
          <Mark key={`${p.at.join()}-${p.label ?? ''}`} at={p.at} frame={frame} grave={grave} />
        ))}
    </>
  )
}

const LEVEL: BodyView['frame'] = {
  origin: [0, 0, 0],
  x: [1, 0, 0],
  y: [0, 1, 0],
  z: [0, 0, 1],
}

interface MarkProps {
  frame: BodyView['frame']
  grave: boolean
}

/** A ring about the axis for a place on a half-section, with a dot at it; the dot alone for one in space. */
function Mark({ at, frame, grave }: MarkProps & { at: P2 | P3 }) {
  const color = grave ? '#93321d' : '#7d5600'
  if (inSpace(at)) return <Dots at={[at]} color={color} size={11} />
  return <Ring at={at} frame={frame} color={color} />
}

function Ring({ at, frame, color }: { at: P2; frame: BodyView['frame']; color: string }) {
  const [geometry, first] = useMemo(() => {
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
        <lineBasicMaterial color={color} depthTest={false} />
      </lineSegments>
      <Dots at={[first]} color={color} size={11} />
    </>
  )
}
