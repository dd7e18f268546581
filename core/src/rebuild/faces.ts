import { SHOWN } from '../exact'
import type { MeasuredFace } from '../gauges'
import { bad, good, type Outcome, type P3, toSpace } from '../math'
import { measureMesh } from '../mesh'
import type { Body } from '../ops'
import { displayMesh, facesOf, type TurnedBody } from '../turned'

/** All of a body that bears a face's name, to be measured. */
export function measuredFace(body: Body, name: string): Outcome<MeasuredFace> {
  if (name === '') return bad('no-face', 'Pick two faces on the Stage.')
  const { shape } = body
  const found =
    shape.kind === 'turned'
      ? turnedFace(shape.turned, name)
      : {
          ...shape.shown,
          wanted: (f: number) => shape.faces[f]!.names.includes(name),
          like: shape.faces.filter((f) => f.names.includes(name)),
        }
  const own: number[] = []
  for (const [t, f] of found.faceOf.entries())
    if (found.wanted(f))
      own.push(found.triangles[3 * t]!, found.triangles[3 * t + 1]!, found.triangles[3 * t + 2]!)
  if (own.length === 0) return bad('no-face', `${body.name} has no face ${name} now.`)
  const mesh = { positions: found.positions, triangles: Uint32Array.from(own) }
  // A plane or an axis is told where all of the face lies on it.
  const [first, ...others] = found.like
  const same = others.every((f) => f.kind === first?.kind && f.kind !== 'free')
  return good({
    name,
    mesh,
    area: measureMesh(mesh).area,
    flat: same ? first?.flat : undefined,
    round: same ? first?.round : undefined,
  })
}

interface Surface {
  kind: string
  flat?: MeasuredFace['flat']
  round?: MeasuredFace['round']
}

function turnedFace(b: TurnedBody, name: string) {
  const shown = displayMesh(b, SHOWN)
  const { origin, z } = b.frame
  const like = facesOf(b).flatMap((f): Surface[] => {
    if (f.seg.name !== name) return []
    const { curve } = f.seg
    if (curve.kind !== 'line') return [{ kind: 'free' }]
    const [[r, low], [s, high]] = [curve.a, curve.b]
    if (Math.abs(high - low) < 1e-9)
      return [{ kind: 'plane', flat: { origin: toSpace(b.frame, 0, 0, low), dir: z } }]
    if (Math.abs(r - s) < 1e-9)
      return [{ kind: 'cylinder', round: { origin: origin as P3, dir: z, radius: r } }]
    return [{ kind: 'free' }]
  })
  return { ...shown, wanted: (f: number) => shown.faces[f] === name, like }
}
