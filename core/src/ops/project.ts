import { type Curve, type Placing, placeCurve } from '../curve'
import { dot3, type Frame, sub3 } from '../math'
import type { Drawing, Sources } from '../profile'
import { resolveFace } from '../turned'
import type { OpContext } from './state'

/** How a plane's own coordinates lie in another; null when the planes are not parallel. */
function placingOn(
  to: Frame,
  from: { origin: Frame['origin']; x: Frame['x']; y: Frame['y'] },
): Placing | null {
  const at = (v: Frame['x']): [number, number] => [dot3(v, to.x), dot3(v, to.y)]
  const [x, y] = [at(from.x), at(from.y)]
  const square = Math.hypot(...x) > 1 - 1e-9 && Math.hypot(...y) > 1 - 1e-9
  return square ? { origin: at(sub3(from.origin, to.origin)), x, y } : null
}

/** What the projected pieces of a drawing on a plane follow: faces of bodies, pieces of other profiles. */
export function sourcesOf(drawing: Drawing, plane: Frame, ctx: OpContext): Sources {
  const none = (why: string) => ({ kind: 'none' as const, why })
  return (id) => {
    const source = drawing.entities.find((e) => e.id === id)?.source
    if (!source) return null
    let curve: Curve | undefined
    let placing: Placing | null
    if ('body' in source) {
      const body = ctx.body(source.body)
      if (body?.shape.kind !== 'turned') return none('The body it is projected from is not there.')
      const { turned } = body.shape
      const face = resolveFace(turned, {
        face: source.face,
        ...(source.index === undefined ? {} : { index: source.index }),
      })
      if (face.state === 'lost') return none('The face it is projected from is gone.')
      curve = face.item.seg.curve
      placing = placingOn(plane, {
        origin: turned.frame.origin,
        x: turned.frame.x,
        y: turned.frame.z,
      })
      if (!placing) return none('This plane does not lie along the axis of the body.')
    } else {
      const profile = ctx.profile(source.profile)
      curve = profile?.shape.drawn.find((d) => d.id === source.piece)?.curve
      if (!profile || !curve) return none('The piece it is projected from is gone.')
      placing = placingOn(plane, profile.frame)
      if (!placing) return none('The other profile lies on a plane at an angle to this one.')
    }
    return placeCurve(curve, placing)
  }
}
