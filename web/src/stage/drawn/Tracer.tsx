import { add3, dot3, type Frame, fixed, type P3, scale3, sub3 } from '@ivory/core/math'
import { useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef, useState } from 'react'
import { type EventDispatcher, Raycaster, Vector2 } from 'three'
import { useSession } from '../../session/session'
import { addStop, sheetOf, tipOf, trace, turnSheet } from '../../session/tracing'
import { useDisposed } from '../disposed'
import { geometryAt } from '../geometry'
import { Pin } from '../marks/Pin'
import { Dots } from './PathLine'

/** Half of the sheet's side and the step of its ruling, mm. */
const HALF = 100
const STEP = 10
/** Places fall on whole millimetres of the sheet. */
const SNAP = 1
/** A sheet seen nearly from its edge takes no place, as the cosine. */
const EDGE_ON = 0.08
/** A pointer that moved by more between down and up turned the view, px. */
const STILL = 4

/** The ruled sheet a path is drawn on, what the next click would add, and a plumb line to the level plane. */
export function Tracer() {
  const tracing = useSession((s) => s.tracing)
  const datums = useSession((s) => s.settled?.datums)
  const { camera, gl, invalidate } = useThree()
  const controls = useThree((s) => s.controls) as EventDispatcher<{ change: object }> | null
  const [over, setOver] = useState<P3 | null>(null)
  /** Where the pointer last was on the Stage: a sheet or a view that is turned under it is read at once. */
  const last = useRef<PointerEvent | null>(null)
  const tip = tracing ? tipOf(datums, tracing.op) : null
  const laid = tracing ? sheetOf(tracing, datums) : null
  const key = laid && [laid.origin, laid.x, laid.z].join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all of it
  const sheet = useMemo(() => laid, [key])

  useEffect(() => {
    if (!tracing || !sheet) return
    const canvas = gl.domElement
    const caster = new Raycaster()
    let down: { x: number; y: number } | null = null
    const place = (e: PointerEvent): P3 | null => {
      const box = canvas.getBoundingClientRect()
      const at = new Vector2(
        (2 * (e.clientX - box.left)) / box.width - 1,
        1 - (2 * (e.clientY - box.top)) / box.height,
      )
      // A view that has just been turned is drawn later.
      camera.updateMatrixWorld()
      caster.setFromCamera(at, camera)
      const { origin: o, direction: d } = caster.ray
      return onSheet(sheet, [o.x, o.y, o.z], [d.x, d.y, d.z])
    }
    const move = (e: PointerEvent) => {
      last.current = e
      if (tracing.laying) return setOver(null)
      const at = place(e)
      setOver(at)
      useSession.setState({
        hover: at ? said(at) : 'The sheet is seen from its edge: turn it (Q), or the view.',
      })
      invalidate()
    }
    const leave = () => {
      last.current = null
      setOver(null)
    }
    const press = (e: PointerEvent) => {
      down = { x: e.clientX, y: e.clientY }
    }
    const lift = (e: PointerEvent) => {
      const still = down && Math.hypot(e.clientX - down.x, e.clientY - down.y) < STILL
      down = null
      const at = still && e.button === 0 && !tracing.laying ? place(e) : null
      if (at) addStop(tracing.op, at, tracing.by)
    }
    const keys = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement) return
      if (e.key === 'q') turnSheet()
      if (e.key === 'Escape') trace(null)
    }
    canvas.addEventListener('pointermove', move)
    canvas.addEventListener('pointerleave', leave)
    canvas.addEventListener('pointerdown', press)
    canvas.addEventListener('pointerup', lift)
    window.addEventListener('keydown', keys)
    const again = () => last.current && move(last.current)
    again()
    controls?.addEventListener('change', again)
    return () => {
      controls?.removeEventListener('change', again)
      canvas.removeEventListener('pointermove', move)
      canvas.removeEventListener('pointerleave', leave)
      canvas.removeEventListener('pointerdown', press)
      canvas.removeEventListener('pointerup', lift)
      window.removeEventListener('keydown', keys)
      setOver(null)
    }
  }, [tracing, sheet, camera, controls, gl, invalidate])

  if (!tracing || !sheet) return null
  if (tracing.laying)
    return tracing.laying.picks.length > 0 ? (
      <Dots at={tracing.laying.picks} color="#9a5b00" size={9} />
    ) : null
  const foot: P3 | null = over && [over[0], over[1], 0]
  return (
    <>
      <Ruling sheet={sheet} />
      {over && tip && <Stroke from={tip} to={over} color="#9a5b00" />}
      {over && foot && Math.abs(over[2]) > 1e-6 && <Stroke from={over} to={foot} color="#8d8370" />}
      {over && (
        <>
          <Dots at={foot ? [over, foot] : [over]} color="#b8862f" size={7} />
          <Pin position={[...over]} zIndexRange={[5, 0]} style={{ pointerEvents: 'none' }}>
            <span className="figures ml-3 block w-max rounded-sm bg-sheet/90 px-1 text-sm">
              {said(over)}
            </span>
          </Pin>
        </>
      )}
    </>
  )
}

const said = (p: P3): string => p.map((c) => fixed(c, 0)).join(', ')

/** Where a ray meets the sheet, on whole millimetres of it. */
function onSheet(f: Frame, o: P3, d: P3): P3 | null {
  const lean = dot3(d, f.z)
  if (Math.abs(lean) < EDGE_ON) return null
  const k = dot3(sub3(f.origin, o), f.z) / lean
  if (k <= 0) return null
  const at = sub3(add3(o, scale3(d, k)), f.origin)
  const whole = (v: P3) => Math.round(dot3(at, v) / SNAP) * SNAP
  return add3(f.origin, add3(scale3(f.x, whole(f.x)), scale3(f.y, whole(f.y))))
}

function Ruling({ sheet: f }: { sheet: Frame }) {
  const made = useMemo(() => {
    const at = (u: number, v: number) => add3(f.origin, add3(scale3(f.x, u), scale3(f.y, v)))
    const ends: number[] = []
    for (let k = -HALF; k <= HALF; k += STEP)
      ends.push(...at(k, -HALF), ...at(k, HALF), ...at(-HALF, k), ...at(HALF, k))
    return geometryAt(ends)
  }, [f])
  const geometry = useDisposed(made)
  return (
    <lineSegments geometry={geometry} renderOrder={2}>
      <lineBasicMaterial color="#b8862f" transparent opacity={0.35} />
    </lineSegments>
  )
}

function Stroke({ from, to, color }: { from: P3; to: P3; color: string }) {
  const key = [...from, ...to].join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all of it
  const made = useMemo(() => {
    return geometryAt([...from, ...to])
  }, [key])
  const geometry = useDisposed(made)
  return (
    <lineSegments geometry={geometry} renderOrder={4}>
      <lineBasicMaterial color={color} depthTest={false} />
    </lineSegments>
  )
}
