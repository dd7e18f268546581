import { fixed, type P3 } from '@ivory/core/math'
import type { Op } from '@ivory/core/workpiece'
import { useThree } from '@react-three/fiber'
import { useMemo, useState } from 'react'
import { Vector3 } from 'three'
import { opOf, setInputs, useSession } from '../../session/session'
import { useDisposed } from '../disposed'
import { geometryAt } from '../geometry'
import { Pin } from './Pin'

/** How near to a place the pointer lets an end go there, px. */
const NEAR = 28

/** What the chosen loft matches across its sections, as threads whose ends are dragged to match otherwise; and where rails touch. */
export function Threads() {
  const op = useSession((s) => opOf(s.doc, s.selected))
  const shown = useSession((s) => s.settled?.reports.find((r) => r.id === s.selected)?.shown)
  if (op?.kind !== 'loft' || !shown?.threads) return null
  return (
    <>
      <Lines threads={shown.threads} />
      {shown.threads.flatMap((thread, k) =>
        thread.map((at, section) => (
          <End
            // biome-ignore lint/suspicious/noArrayIndexKey: threads and sections have no other names
            key={`${k} ${section}`}
            op={op}
            at={at}
            thread={k}
            section={section}
            places={
              shown.corners
                ? shown.threads!.map((t) => t[section]!)
                : (shown.outlines?.[section] ?? [])
            }
            corners={shown.corners ?? false}
          />
        )),
      )}
      {(shown.touches ?? []).map(({ at, gap }, k) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rails may touch at one place
        <Touch key={k} at={at} gap={gap} />
      ))}
    </>
  )
}

function Lines({ threads }: { threads: P3[][] }) {
  const made = useMemo(
    () => geometryAt(threads.flatMap((t) => t.slice(1).flatMap((b, i) => [...t[i]!, ...b]))),
    [threads],
  )
  const geometry = useDisposed(made)
  return (
    <lineSegments geometry={geometry} renderOrder={4}>
      <lineBasicMaterial color="#9a5b00" transparent opacity={0.75} depthTest={false} />
    </lineSegments>
  )
}

interface EndProps {
  op: Op
  at: P3
  thread: number
  section: number
  /** Where this end can go: the corners of its section, or places all round it. */
  places: readonly P3[]
  corners: boolean
}

/** An end of a thread on a section: dragged to another corner, or on along a smooth outline. */
function End({ op, at, thread, section, places, corners }: EndProps) {
  const camera = useThree((s) => s.camera)
  const canvas = useThree((s) => s.gl.domElement)
  const invalidate = useThree((s) => s.invalidate)
  const [over, setOver] = useState<number | null>(null)
  // A place has nothing to be turned on.
  if (places.length < 2) return null
  const nearest = (x: number, y: number): number | null => {
    const box = canvas.getBoundingClientRect()
    let [best, least] = [-1, NEAR]
    for (const [k, p] of places.entries()) {
      const v = new Vector3(...p).project(camera)
      const px = box.left + ((v.x + 1) / 2) * box.width
      const py = box.top + ((1 - v.y) / 2) * box.height
      const d = Math.hypot(px - x, py - y)
      if (d < least) [best, least] = [k, d]
    }
    return best < 0 ? null : best
  }
  const drop = (k: number) => {
    const sections = op.inputs.sections as { shift?: number }[]
    const by = corners ? k - thread : k / places.length
    if (by === 0) return
    setInputs(op.id, {
      sections: sections.map((s, i) =>
        i === section
          ? { ...s, shift: turnedBy(s.shift ?? 0, by, corners ? places.length : 1) }
          : s,
      ),
    })
  }
  return (
    <Pin position={[...(over === null ? at : places[over]!)]} zIndexRange={[4, 0]} center>
      <button
        type="button"
        aria-label={`Corner ${thread + 1} of section ${section + 1}`}
        title="Drag to match another place"
        data-testid="thread-end"
        className="pointer-events-auto block size-2.5 cursor-grab touch-none rounded-full border border-brass bg-sheet hover:bg-brass"
        onPointerDown={(e) => {
          e.stopPropagation()
          e.currentTarget.setPointerCapture(e.pointerId)
          setOver(corners ? thread : 0)
        }}
        onPointerMove={(e) => {
          if (over === null) return
          const k = nearest(e.clientX, e.clientY)
          if (k !== null) setOver(k)
          invalidate()
        }}
        onPointerUp={() => {
          if (over !== null) drop(over)
          setOver(null)
        }}
      />
    </Pin>
  )
}

/** A matching turned on further, kept within one round. */
function turnedBy(shift: number, by: number, round: number): number {
  const sum = (((shift + by) % round) + round) % round
  return Math.round(1e4 * (sum > round / 2 ? sum - round : sum)) / 1e4
}

/** Where a rail comes to a section: a closed ring where they touch, an open one with its gap where not. */
function Touch({ at, gap }: { at: P3; gap: number }) {
  const touches = gap <= 1e-4
  return (
    <Pin position={[...at]} zIndexRange={[3, 0]} center>
      <span className="figures pointer-events-none flex items-center gap-1 whitespace-nowrap text-xs">
        <span
          className={
            touches
              ? 'block size-4 rounded-full border-2 border-holds'
              : 'block size-4 rounded-full border-2 border-marginal border-dashed'
          }
        />
        {!touches && <span className="bg-sheet/90 px-0.5">{fixed(gap, 3)}</span>}
      </span>
    </Pin>
  )
}
