import { arc, boundsOf, type Curve, endOf, type Placing, placeCurve } from '../../curve'
import { cross3, dot3, type Frame, norm3, POINT, sub3, unit3 } from '../../math'
import type { Drawing, Source, Sources } from '../../profile'
import { type Face, faceRef, facesOf, isWhole, resolveFace, type TurnedBody } from '../../turned'
import { exactOf } from '../exact'
import type { OpContext } from '../state'
import { followedEdge } from './projectedge'
import { followedCut } from './projectsection'

type Ring = 'end' | 'widest'

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

/** How a body's half-section lies on a plane along its axis, on the side its x points to; null on others. */
function sectionOn(plane: Frame, b: TurnedBody): Placing | null {
  const { origin, x, z } = b.frame
  // A whole turn shows the same section on every plane along its axis.
  const across = cross3(z, plane.z)
  const along = isWhole(b) && norm3(across) > 1 - 1e-9 ? unit3(across) : x
  const turned = dot3(along, plane.x) < -1e-9 ? ([-along[0], -along[1], -along[2]] as const) : along
  return placingOn(plane, { origin, x: turned, y: z })
}

/** Whether a plane stands square to the axis of a body, which then shows circles on it. */
const isAcross = (plane: Frame, b: TurnedBody): boolean =>
  Math.abs(dot3(plane.z, b.frame.z)) > 1 - 1e-9

/** A circle of a face as it is seen on a plane across the axis. */
function ringOn(plane: Frame, b: TurnedBody, face: Face, ring: Ring): Curve | null {
  const { curve } = face.seg
  const r = ring === 'widest' ? boundsOf(curve).max[0] : endOf(curve)[0]
  const off = sub3(b.frame.origin, plane.origin)
  return r > POINT ? arc([dot3(off, plane.x), dot3(off, plane.y)], r, 0, 2 * Math.PI) : null
}

/** What of a body can be projected on a plane: its section along the axis, its circles across it. */
export function outlineOn(
  plane: Frame,
  body: string,
  b: TurnedBody,
): { source: Source; curve: Curve }[] {
  const named = (f: Face) => {
    const { face, index } = faceRef(b, f)
    return { body, face, ...(index === undefined ? {} : { index }) }
  }
  if (!isAcross(plane, b)) {
    const placing = sectionOn(plane, b)
    return placing
      ? facesOf(b).map((f) => ({ source: named(f), curve: placeCurve(f.seg.curve, placing) }))
      : []
  }
  const radii: number[] = []
  return facesOf(b).flatMap((f) =>
    (['end', 'widest'] as const).flatMap((ring) => {
      const curve = isWhole(b) ? ringOn(plane, b, f, ring) : null
      if (curve?.kind !== 'arc' || radii.some((r) => Math.abs(r - curve.radius) < 1e-4)) return []
      radii.push(curve.radius)
      return [{ source: { ...named(f), ring }, curve }]
    }),
  )
}

/** What the projected pieces of a drawing on a plane follow: faces of bodies, pieces of other profiles. */
export function sourcesOf(drawing: Drawing, plane: Frame, ctx: OpContext): Sources {
  const none = (why: string) => ({ kind: 'none' as const, why })
  return (id) => {
    const source = drawing.entities.find((e) => e.id === id)?.source
    if (!source) return null
    if ('profile' in source) {
      const profile = ctx.profile(source.profile)
      const curve = profile?.shape.drawn.find((d) => d.id === source.piece)?.curve
      if (!profile || !curve) return none('The piece it is projected from is gone.')
      const placing = placingOn(plane, profile.frame)
      return placing
        ? placeCurve(curve, placing)
        : none('The other profile lies on a plane at an angle to this one.')
    }
    const body = ctx.body(source.body)
    if (!body) return none('The body it is projected from is not there.')
    if ('edge' in source) {
      const part = exactOf(body, ctx)
      if (!part.ok) return none(part.diagnosis.message)
      const curve = followedEdge(plane, part.value, source)
      return typeof curve === 'string' ? none(curve) : curve
    }
    if ('section' in source) {
      const part = exactOf(body, ctx)
      if (!part.ok) return none(part.diagnosis.message)
      const curve = followedCut(plane, part.value, source, ctx.kernel)
      return typeof curve === 'string' ? none(curve) : curve
    }
    if (body.shape.kind !== 'turned')
      return none('The body it is projected from is no longer turned; project it again.')
    const { turned } = body.shape
    const { face, index, ring } = source
    const found = resolveFace(turned, { face, ...(index === undefined ? {} : { index }) })
    if (found.state === 'lost') return none('The face it is projected from is gone.')
    if (found.state === 'unclear')
      return none(`${found.candidates.length} faces are named ${face} now; choose it again.`)
    if (ring) {
      if (!isAcross(plane, turned) || !isWhole(turned))
        return none('This plane does not stand across the axis of a body turned all round.')
      return ringOn(plane, turned, found.item, ring) ?? none('The circle has shrunk to a point.')
    }
    const placing = sectionOn(plane, turned)
    return placing
      ? placeCurve(found.item.seg.curve, placing)
      : none('This plane does not lie along the axis of the body.')
  }
}
