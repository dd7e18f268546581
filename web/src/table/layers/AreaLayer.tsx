import type { P2 } from '@ivory/core/math'
import type { CellRef } from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { lathe } from '../../engine'
import { sectionOf, setInputs, useSession } from '../../session/session'
import type { Canvas } from '../useCanvasView'

/** The closed areas of the profile an op carries out: a click takes one or lets it go. */
export function AreaLayer({ op, canvas }: { op: Op; canvas: Canvas }) {
  const doc = useSession((s) => s.doc)
  const section = useSession((s) => (s.choosing?.op === op.id ? s.choosing.section : undefined))
  const { data } = useQuery({
    queryKey: ['areas', doc, op.id, section],
    queryFn: () => lathe.call('areas', { doc: doc!, op: op.id, section }),
    enabled: doc !== null,
    placeholderData: (before) => before,
  })
  const refs = ((sectionOf(op, section) ?? op.inputs).areas as CellRef[] | undefined) ?? []
  const put = (areas: CellRef[]) => {
    if (section === undefined) return setInputs(op.id, { areas })
    const sections = op.inputs.sections as object[]
    setInputs(op.id, { sections: sections.map((s, k) => (k === section ? { ...s, areas } : s)) })
  }
  const path = (loop: readonly P2[]) =>
    `${loop
      .map((p, i) => {
        const [x, y] = canvas.toScreen(p)
        return `${i === 0 ? 'M' : 'L'}${x.toFixed(2)} ${y.toFixed(2)}`
      })
      .join('')}Z`
  return (
    <g>
      {(data ?? []).map(({ ref, loops, chosen }) => (
        <path
          key={`${ref.at.join()}`}
          data-testid="area"
          data-chosen={chosen >= 0}
          d={loops.map(path).join('')}
          fillRule="evenodd"
          fill={chosen >= 0 ? '#d9a441' : '#7a5310'}
          fillOpacity={chosen >= 0 ? 0.45 : 0.06}
          stroke={chosen >= 0 ? '#7a5310' : 'none'}
          className="cursor-pointer hover:[fill-opacity:0.3]"
          onPointerDown={(e) => e.stopPropagation()}
          onClick={() => put(chosen >= 0 ? refs.filter((_, k) => k !== chosen) : [...refs, ref])}
        />
      ))}
    </g>
  )
}
