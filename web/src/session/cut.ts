import { add3, type Frame, scale3, sub3 } from '@ivory/core/math'
import { START } from '@ivory/core/ops'
import type { View } from '../engine'
import { FRONT } from '../table/frame'

/** A plane to cut at: one of the first three or a datum, turned about its upright line, off it by a distance. */
export interface Cut {
  on: string
  /** deg */
  turn: number
  /** mm, along the normal. */
  offset: number
}

/** The frame of the plane bodies are cut at. Made anew only where something of it changes. */
export function cutPlane({ cut, view }: { cut: Cut | null; view: View | null }): Frame {
  if (!cut) return FRONT
  const datum = view?.datums.find((d) => d.kind === 'plane' && d.id === cut.on)
  const base = datum?.kind === 'plane' ? datum.frame : (START.planes[cut.on]?.frame ?? FRONT)
  if (made && made.cut === cut && made.base === base) return made.frame
  const a = (cut.turn * Math.PI) / 180
  const [c, s] = [Math.cos(a), Math.sin(a)]
  const x = add3(scale3(base.x, c), scale3(base.z, s))
  const z = sub3(scale3(base.z, c), scale3(base.x, s))
  const frame = { origin: add3(base.origin, scale3(z, cut.offset)), x, y: base.y, z }
  made = { cut, base, frame }
  return frame
}
let made: { cut: Cut; base: Frame; frame: Frame } | null = null
