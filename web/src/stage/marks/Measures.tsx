import { inSpace, type P3 } from '@ivory/core/math'
import { useMemo } from 'react'
import { useSession } from '../../session/session'
import { useDisposed } from '../disposed'
import { geometryAt } from '../geometry'
import { Pin } from './Pin'

/** What gauges between faces or bodies read: a line from place to place with its figure. */
export function Measures() {
  const gauges = useSession((s) => s.settled?.gauges)
  return (gauges ?? []).flatMap((g) => {
    if (g.kind !== 'between' && g.kind !== 'clearance') return []
    const [a, b] = (g.reading?.places ?? []).map((p) => p.at)
    if (!a || !b || !inSpace(a) || !inSpace(b)) return []
    return [<Span key={g.id} a={a} b={b} text={g.reading!.text} />]
  })
}

function Span({ a, b, text }: { a: P3; b: P3; text: string }) {
  const made = useMemo(() => {
    return geometryAt([...a, ...b])
  }, [a, b])
  const geometry = useDisposed(made)
  return (
    <>
      <lineSegments geometry={geometry} renderOrder={6}>
        <lineBasicMaterial color="#2b2620" depthTest={false} />
      </lineSegments>
      <Pin
        position={[0, 1, 2].map((k) => (a[k]! + b[k]!) / 2) as [number, number, number]}
        zIndexRange={[5, 0]}
      >
        <span className="figures pointer-events-none whitespace-nowrap rounded-sm border border-rule bg-sheet/90 px-1 text-sm">
          {text}
        </span>
      </Pin>
    </>
  )
}
