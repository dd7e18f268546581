import type { ShownCage } from '@ivory/core/ops'
import { useThree } from '@react-three/fiber'
import { useEffect, useRef } from 'react'
import { MOUSE } from 'three'
import { type Spot, wordOf } from '../../session/cagestate'
import { pickAlso, pickOn } from '../../session/caging'
import { useSession } from '../../session/session'
import { cageUnder, cageWithin, seenPlaces } from './under'

/** A pointer that moved by more between down and up turned the view, px. */
const STILL = 4
/** Places of a loop that are nearer to each other than this are one, px. */
const APART = 3

/** The corners of the frame between two places. */
const frameOf = ([a, b]: Spot, [c, d]: Spot): Spot[] => [
  [a, b],
  [c, b],
  [c, d],
  [a, d],
]

/** What the mouse buttons do to the view. */
interface Turning {
  mouseButtons: { LEFT?: MOUSE | null; MIDDLE?: MOUSE | null; RIGHT?: MOUSE | null }
}

/**
 * Picks things of a cage with the mouse, by a click, in a frame or a loop that is drawn, or by a brush that passes over them; tells
 * what is under the pointer. While something is drawn the view turns by the right button.
 */
export function useCagePointer(cage: ShownCage): string | null {
  const over = useSession((s) => s.overCage)
  const { what, by, through } = useSession((s) => s.caging)
  // The cage may be made anew between a press and its release: what is drawn goes on over the new one.
  const now = useRef({ cage, what, by, through })
  now.current = { cage, what, by, through }
  const { camera, gl } = useThree()
  const controls = useThree((s) => s.controls) as unknown as Turning | null

  useEffect(() => {
    if (!controls || by === 'click') return
    const before = controls.mouseButtons
    controls.mouseButtons = { LEFT: null, MIDDLE: MOUSE.DOLLY, RIGHT: MOUSE.ROTATE }
    return () => {
      controls.mouseButtons = before
    }
  }, [controls, by])

  // What was under the pointer is nothing any more once another op is open.
  useEffect(() => () => useSession.setState({ hover: '', overCage: null }), [])

  useEffect(() => {
    const canvas = gl.domElement
    let drawn: Spot[] | null = null
    const spotOf = (e: PointerEvent): Spot => {
      const box = canvas.getBoundingClientRect()
      return [e.clientX - box.left, e.clientY - box.top]
    }
    const seen = () => {
      const { cage } = now.current
      const { width, height } = canvas.getBoundingClientRect()
      camera.updateMatrixWorld()
      return seenPlaces(cage.at, cage.points.length, camera, width, height)
    }
    const under = (e: PointerEvent) =>
      cageUnder(now.current.cage, seen(), now.current.what, ...spotOf(e))
    const shown = (loop: Spot[] | null) => useSession.setState({ loop })
    const brush = (e: PointerEvent) => {
      const word = under(e)
      if (word) pickAlso([word])
    }
    const move = (e: PointerEvent) => {
      const { cage, what, by } = now.current
      if (drawn && by !== 'click') {
        if (by === 'brush') brush(e)
        else {
          const to = spotOf(e)
          const from = drawn[drawn.length - 1]!
          if (by === 'frame') drawn = [drawn[0]!, to]
          else if (Math.hypot(to[0] - from[0], to[1] - from[1]) > APART) drawn.push(to)
          shown(by === 'frame' ? frameOf(drawn[0]!, to) : [...drawn])
        }
        return
      }
      const word = e.buttons === 0 ? under(e) : null
      const before = useSession.getState().overCage
      if (word !== before) useSession.setState({ overCage: word, ...(word ? {} : { hover: '' }) })
      if (word) {
        const free = what === 'points' && cage.free.some((p) => cage.points[p] === word)
        useSession.setState({
          hover: `${wordOf(word, what)}${free ? ', let go of the symmetry' : ''}`,
        })
      }
    }
    const press = (e: PointerEvent) => {
      if (e.button !== 0) return
      const { by } = now.current
      drawn = [spotOf(e)]
      if (by === 'click') return
      canvas.setPointerCapture(e.pointerId)
      if (by === 'brush') brush(e)
    }
    const lift = (e: PointerEvent) => {
      const from = drawn?.[0]
      const own = drawn
      drawn = null
      shown(null)
      if (!from || !own || e.button !== 0) return
      const { cage, what, by, through } = now.current
      const to = spotOf(e)
      if (by === 'brush') return
      if (Math.hypot(to[0] - from[0], to[1] - from[1]) < STILL && own.length < 3) {
        const word = under(e)
        if (word) pickOn(word)
        return
      }
      if (by === 'click') return
      const loop = by === 'frame' ? frameOf(from, to) : own
      pickAlso(cageWithin(cage, seen(), what, loop, through))
    }
    const leave = () => useSession.setState({ overCage: null })
    const end = () => {
      drawn = null
      shown(null)
    }
    canvas.addEventListener('pointermove', move)
    canvas.addEventListener('pointerdown', press)
    canvas.addEventListener('pointerup', lift)
    canvas.addEventListener('pointercancel', end)
    canvas.addEventListener('pointerleave', leave)
    return () => {
      end()
      canvas.removeEventListener('pointermove', move)
      canvas.removeEventListener('pointerdown', press)
      canvas.removeEventListener('pointerup', lift)
      canvas.removeEventListener('pointercancel', end)
      canvas.removeEventListener('pointerleave', leave)
    }
  }, [camera, gl])
  return over
}
