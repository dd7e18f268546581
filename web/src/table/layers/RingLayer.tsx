import { type Frame, fixed, type P2 } from '@ivory/core/math'
import type { CageEdit } from '@ivory/core/ops'
import { type PointerEvent, useMemo, useRef, useState } from 'react'
import { cageEditsOf, openEdit, putEdits, useCage } from '../../session/caging'
import { type Ring, ringDragged, ringsOf } from '../../session/rings'
import { opOf, preview, settle, useSession } from '../../session/session'
import type { Canvas } from '../useCanvasView'

/** Rings that are dragged fall on tenths of a millimetre. */
const SNAP = 0.1

interface Grab {
  ring: Ring
  /** Where the pointer took hold, in the plane. */
  from: P2
  edits: CageEdit[]
  moved?: true
}

/** Whether heights of a plane are heights in space, and its middle is on the z axis. */
const upright = ({ origin, y, z }: Frame): boolean =>
  Math.abs(y[2] - 1) < 1e-9 && Math.abs(z[2]) < 1e-9 && Math.hypot(origin[0], origin[1]) < 1e-9

/** The outline of the rings of the chosen cage: each can be dragged out and up, and its row follows. */
export function RingLayer({ canvas, frame }: { canvas: Canvas; frame: Frame }) {
  const chosen = useCage()
  const box = useRef<SVGSVGElement>(null)
  const grab = useRef<Grab | null>(null)
  const [held, setHeld] = useState<string | null>(null)
  const cage = chosen?.cage
  const rings = useMemo(() => (cage ? ringsOf(cage) : []), [cage])
  if (!chosen || rings.length < 2 || !upright(frame)) return null
  const up = frame.origin[2]
  const put = ({ radius, height }: Ring, side = 1): P2 =>
    canvas.toScreen([side * radius, height - up])
  const at = (e: PointerEvent): P2 => {
    const r = box.current!.getBoundingClientRect()
    return canvas.toPlane([e.clientX - r.left, e.clientY - r.top])
  }
  const tell = ({ row, radius, height }: Ring) =>
    useSession.setState({ hover: `row ${row}: out ${fixed(radius, 1)}, up ${fixed(height, 1)}` })
  const move = (e: PointerEvent) => {
    const g = grab.current
    if (!g) return
    const [x, y] = at(e)
    const whole = (v: number) => Math.round(v / SNAP) * SNAP
    const to = {
      radius: Math.max(0, whole(g.ring.radius + x - g.from[0])),
      height: whole(g.ring.height + y - g.from[1]),
    }
    g.moved = true
    tell({ ...g.ring, ...to })
    putEdits(chosen.op.id, () => ringDragged(g.edits, g.ring, to), preview)
  }
  return (
    <svg
      ref={box}
      width="100%"
      height="100%"
      className="pointer-events-none absolute inset-0"
      aria-hidden="true"
    >
      {[1, -1].map((side) => (
        <polyline
          key={side}
          points={rings.map((r) => put(r, side).join()).join(' ')}
          fill="none"
          stroke="#9a5b00"
          strokeDasharray={side === 1 ? undefined : '4 4'}
          opacity={side === 1 ? 0.9 : 0.4}
        />
      ))}
      {rings.map((r) => {
        const [x, y] = put(r)
        return (
          <circle
            key={r.row}
            cx={x}
            cy={y}
            r={held === r.row ? 6 : 4.5}
            data-testid={`ring-${r.row}`}
            className="pointer-events-auto cursor-grab fill-sheet stroke-brass hover:fill-brass-wash"
            strokeWidth={1.6}
            onPointerEnter={() => tell(r)}
            onPointerDown={(e) => {
              if (e.button !== 0) return
              e.stopPropagation()
              e.currentTarget.setPointerCapture(e.pointerId)
              const op = opOf(useSession.getState().doc, chosen.op.id)
              grab.current = { ring: r, from: at(e), edits: cageEditsOf(op) }
              setHeld(r.row)
            }}
            onPointerMove={(e) => {
              e.stopPropagation()
              move(e)
            }}
            onPointerUp={(e) => {
              e.stopPropagation()
              const { moved } = grab.current ?? {}
              grab.current = null
              setHeld(null)
              if (!moved) return
              settle()
              const edits = cageEditsOf(opOf(useSession.getState().doc, chosen.op.id))
              openEdit(edits.at(-1)?.id ?? null)
            }}
          />
        )
      })}
    </svg>
  )
}
