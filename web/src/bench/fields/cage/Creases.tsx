import { type CreaseLine, creaseLines } from '@ivory/core/cage'
import { rounded } from '@ivory/core/math'
import type { Op } from '@ivory/core/workpiece'
import { useMemo } from 'react'
import { addEdit, pickOf, pickOnly, useCage } from '../../../session/caging'
import { Button } from '../../../ui/controls'

/** Lines that are listed one by one. */
const LISTED = 24

/** All creases a cage has, whatever made them: each is found on the Stage, or dropped by an edit. */
export function Creases({ op }: { op: Op }) {
  const cage = useCage()?.cage
  const lines = useMemo(() => creaseLines(cage?.creases ?? []), [cage])
  if (!cage || lines.length === 0) return null
  const words = ({ edges }: CreaseLine) =>
    edges.map(({ a, b }) => `${cage.points[a]}~${cage.points[b]}`)
  return (
    <details>
      <summary className="cursor-pointer text-soft text-sm" data-testid="creases">
        {lines.length === 1 ? '1 crease' : `${lines.length} creases`}
      </summary>
      <ul className="mt-1 flex flex-col">
        {lines.slice(0, LISTED).map((line, i) => (
          <li key={words(line)[0]} className="flex items-baseline gap-2 text-sm">
            <span className="min-w-0 flex-1 truncate">
              {line.edges.length === 1 ? '1 edge' : `${line.edges.length} edges`}
              {line.closed ? ' all round' : ''},{' '}
              {Number.isFinite(line.sharp) ? `sharpness ${rounded(line.sharp, 2)}` : 'sharp'}
            </span>
            <Button
              tone="quiet"
              className="px-1! py-0!"
              aria-label={`Find crease ${i + 1}`}
              onClick={() => {
                pickOf('edges')
                pickOnly(words(line))
              }}
            >
              find
            </Button>
            <Button
              tone="quiet"
              className="px-1! py-0!"
              aria-label={`Drop crease ${i + 1}`}
              onClick={() => addEdit(op.id, { kind: 'crease', on: words(line), sharp: 0 })}
            >
              drop
            </Button>
          </li>
        ))}
      </ul>
      {lines.length > LISTED && (
        <p className="text-soft text-sm">and {lines.length - LISTED} shorter ones</p>
      )}
    </details>
  )
}
