import { pointNormals } from '@ivory/core/cage'
import { add3, dot3, fixed, type P3, placeAt, scale3, unit3 } from '@ivory/core/math'
import type { CageEdit, ShownCage } from '@ivory/core/ops'
import { useThree } from '@react-three/fiber'
import { useMemo, useRef, useState } from 'react'
import type { Vector3 } from 'three'
import {
  addEdit,
  cageEditsOf,
  pickedPoints,
  putEdits,
  useCage,
  wordsOn,
} from '../../session/caging'
import { opOf, preview, settle, useSession } from '../../session/session'
import { Pin } from '../marks/Pin'
import { onScreen } from './under'

/** What a jaw of the caliper changes: along the normals, or along z. */
type Jaw = 'out' | 'z'
const WORDS: Record<Jaw, string> = { out: 'out', z: 'up' }
/** What is dragged falls on tenths of a millimetre. */
const STEP = 0.1
/** How far a jaw stands off the place it belongs to, px. */
const OFF = 46

/**
 * A caliper on what is picked: one jaw along the normal there, one upright. What is dragged is a Move on all that is picked, its
 * figure beside it; a further drag of the same picks goes on in the same edit.
 */
export function CageHandle() {
  const chosen = useCage()
  const picks = useSession((s) => s.caging.picks)
  const camera = useThree((s) => s.camera)
  const size = useThree((s) => s.size)
  const there = chosen !== null
  // It stays at one point while that is dragged.
  // biome-ignore lint/correctness/useExhaustiveDependencies: chosen when other things are picked
  const held = useMemo(
    () => chosen && heldPoint(chosen.cage, picks, camera.position),
    [picks, there],
  )
  if (!chosen || picks.length === 0) return null
  const { op, cage } = chosen
  const p = cage.points.indexOf(held ?? '')
  if (p === -1) return null
  const at = placeAt(cage.at, p)
  return (
    <>
      {(['out', 'z'] as const).map((jaw) => (
        <JawKnob
          key={`${op.id} ${jaw}`}
          op={op.id}
          picks={picks}
          at={at}
          way={jaw === 'out' ? pointNormals(cage)[p]! : [0, 0, 1]}
          jaw={jaw}
          size={size}
        />
      ))}
    </>
  )
}

/** Of the points that are picked the one whose normal is seen best: not straight on, and not from behind. */
function heldPoint(cage: ShownCage, picks: readonly string[], eye: Vector3): string | null {
  const normals = pointNormals(cage)
  let [best, least] = [null as string | null, Number.POSITIVE_INFINITY]
  for (const p of pickedPoints(cage, picks)) {
    const at = placeAt(cage.at, p)
    const look = unit3([eye.x - at[0], eye.y - at[1], eye.z - at[2]])
    const cost = Math.abs(dot3(normals[p]!, look) - 0.5)
    if (cost < least) [best, least] = [cage.points[p]!, cost]
  }
  return best
}

interface KnobProps {
  op: string
  picks: readonly string[]
  at: P3
  way: P3
  jaw: Jaw
  size: { width: number; height: number }
}
interface Grab {
  x: number
  y: number
  /** Pixels a millimetre along the way. */
  px: [number, number]
  /** The figure before the drag. */
  from: number
  edit: string | null
}

function JawKnob({ op: id, picks, at, way, jaw, size }: KnobProps) {
  const camera = useThree((s) => s.camera)
  const controls = useThree((s) => s.controls) as { enabled: boolean } | null
  const grab = useRef<Grab | null>(null)
  const [figure, setFigure] = useState<number | null>(null)
  const px = onScreen(at, way, camera, size.width, size.height)
  const long = Math.hypot(...px)
  const off = OFF / Math.max(long, 1e-6)
  const knob = add3(at, scale3(way, Math.min(off, 1e4)))

  const openMove = () => {
    const op = opOf(useSession.getState().doc, id)
    const last = cageEditsOf(op).at(-1)
    const same = last?.kind === 'move' && !last.off && wordsOn(last).join('\n') === picks.join('\n')
    return same && typeof last[jaw] === 'number' ? last : null
  }
  const put = (value: number) => {
    const g = grab.current
    if (!g) return
    if (g.edit === null) {
      g.edit = addEdit(
        id,
        { kind: 'move', on: [...picks], x: 0, y: 0, z: 0, out: 0, reach: 0, [jaw]: value },
        preview,
      )
      return
    }
    putEdits(
      id,
      (all) => all.map((e) => (e?.id === g.edit ? ({ ...e, [jaw]: value } as CageEdit) : e)),
      preview,
    )
  }
  return (
    <Pin position={[...knob]} zIndexRange={[6, 0]} center>
      <span className="pointer-events-none flex items-center gap-1">
        <button
          type="button"
          aria-label={`Drag ${WORDS[jaw]}`}
          title={`Drag what is picked ${jaw === 'out' ? 'along its normals' : 'up or down'}`}
          className="pointer-events-auto grid size-5 cursor-grab touch-none place-items-center rounded-sm border-2 border-brass bg-sheet text-brass text-xs leading-none shadow-sm hover:bg-brass hover:text-sheet"
          onPointerDown={(e) => {
            e.stopPropagation()
            e.currentTarget.setPointerCapture(e.pointerId)
            if (controls) controls.enabled = false
            const open = openMove()
            grab.current = {
              x: e.clientX,
              y: e.clientY,
              px,
              from: open ? (open[jaw] as number) : 0,
              edit: open?.id ?? null,
            }
          }}
          onPointerMove={(e) => {
            const g = grab.current
            if (!g) return
            const along =
              ((e.clientX - g.x) * g.px[0] + (e.clientY - g.y) * g.px[1]) /
              Math.max(g.px[0] ** 2 + g.px[1] ** 2, 0.01)
            const value = Math.round((g.from + along) / STEP) * STEP
            const tidy = Math.round(value * 1e6) / 1e6
            if (tidy === figure) return
            setFigure(tidy)
            put(tidy)
          }}
          onPointerUp={() => {
            grab.current = null
            setFigure(null)
            if (controls) controls.enabled = true
            settle()
          }}
        >
          {jaw === 'out' ? '⊣' : '⊥'}
        </button>
        {figure !== null && (
          <span className="figures whitespace-nowrap rounded-sm bg-sheet/90 px-1 text-sm">
            {WORDS[jaw]} {fixed(figure, 1)}
          </span>
        )}
      </span>
    </Pin>
  )
}
