import type { ExactPart } from '../../../exact'
import type { Outcome } from '../../../math'
import { type Carrying, type SweptFace, sweptFaces } from '../../../path'
import type { Region } from '../../../profile'
import type { OpContext, Path } from '../../state'
import { endOf, type NamedPatch, quilted } from '../quilted'
import { sectionCurves } from '../section'

/** By surfaces of our own along frames that turn least. */
export function carried(
  path: Path,
  region: Region,
  ways: readonly Carrying[],
  reach: number,
  ctx: OpContext,
): Outcome<ExactPart> {
  const loops = [region.outer, ...region.holes].map(sectionCurves)
  const faces = sweptFaces(loops.flat(), ways, reach)
  return closedOff(
    path,
    faces,
    loops.map((l) => l.length),
    ctx,
  )
}

/** Faces swept by a section's loops of so many curves each along the pieces of a path, sewn with both ends of an open one. */
export function closedOff(
  path: Path,
  faces: readonly SweptFace[],
  loops: readonly number[],
  ctx: OpContext,
): Outcome<ExactPart> {
  const word = (f: SweptFace) => (path.pieces.length === 1 ? f.section : `${f.section}@${f.along}`)
  const patches = faces.map((f): NamedPatch => ({ patch: f.patch, names: [word(f)] }))
  const end = (from: number, last: boolean, name: string) => {
    let at = from
    const rows = loops.map((n) => {
      at += n
      return patches.slice(at - n, at).map((p) => p.patch)
    })
    return endOf(rows, last, [`${ctx.op}:${name}`])
  }
  const per = loops.reduce((n, l) => n + l, 0)
  const ends = path.closed ? [] : [end(0, false, 'start'), end(patches.length - per, true, 'end')]
  return quilted(patches, ends, ctx)
}
