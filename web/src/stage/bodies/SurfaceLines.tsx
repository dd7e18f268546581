import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry } from 'three'
import { type LinesView, lathe } from '../../engine'
import { MOST_LINES, START_LINES } from '../../session/looking'
import { useSession } from '../../session/session'
import { useDisposed } from '../disposed'
import { useBehind } from './clip'

/** Lines of the surfaces of the bodies shown, read anew where the workpiece has changed; none while they are off. */
export function useLines(): { lines: LinesView[]; reading: boolean } {
  const count = useSession((s) => s.lines)
  const doc = useSession((s) => s.doc)
  const { data, isFetching } = useQuery({
    queryKey: ['lines', doc?.route, doc?.figures, doc?.bodies, count],
    queryFn: () => lathe.call('lines', { doc: doc!, count: count! }, { budget: 120_000 }),
    enabled: count !== null && doc !== null,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  })
  return { lines: count === null ? [] : (data ?? []), reading: count !== null && isFetching }
}

/** The lines of one body, cut away with it. */
export function SurfaceLines({ line }: { line: LinesView }) {
  const cutaway = useSession((s) => s.cutaway && s.picking === null)
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(line.stretches, 3))
    return g
  }, [line])
  const geometry = useDisposed(made)
  const behind = useBehind()
  return (
    <lineSegments geometry={geometry} renderOrder={2} raycast={() => undefined}>
      <lineBasicMaterial
        key={String(cutaway)}
        color="#3d352a"
        transparent
        opacity={0.55}
        clippingPlanes={cutaway ? behind : null}
      />
    </lineSegments>
  )
}

/** How many lines there are of each way on a face. */
export function LinesPanel({ reading, none }: { reading: boolean; none: boolean }) {
  const count = useSession((s) => s.lines) ?? START_LINES
  const below = useSession((s) => s.reading !== null)
  return (
    <div
      className={`absolute ${below ? 'top-12' : 'top-2'} left-1/2 flex -translate-x-1/2 items-center gap-1.5 whitespace-nowrap rounded-sm border border-rule bg-sheet/90 px-2 py-1 text-sm`}
      data-testid="lines"
    >
      <span className="font-medium">Lines of its surfaces</span>
      <label className="flex items-center gap-1">
        <input
          type="number"
          min={1}
          max={MOST_LINES}
          className="figures w-12 rounded-sm border border-rule bg-sheet px-1"
          value={count}
          onKeyDown={(e) => e.stopPropagation()}
          onChange={(e) => {
            const n = Math.round(Number(e.target.value))
            if (n >= 1) useSession.setState({ lines: Math.min(MOST_LINES, n) })
          }}
        />
        each way on a face
      </label>
      <span className="text-soft" aria-live="polite">
        {reading ? 'Reading…' : none ? 'Turned bodies and triangles have none to show.' : ''}
      </span>
    </div>
  )
}
