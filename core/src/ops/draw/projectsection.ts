import type { Curve } from '../../curve'
import { type ExactPart, faceName, type KernelJob, realEdges } from '../../exact'
import { bad, dot3, type Frame, good, MODEL, type Outcome, type P2, sub3 } from '../../math'
import type { Source } from '../../profile'
import { resolve } from '../../refs'
import { edgeOn } from './projectedge'

type SectionSource = Extract<Source, { section: unknown }>

/** Where a plane cuts one face of a body: the edge of a part there. */
interface Cut {
  part: ExactPart
  edge: number
  face: string
  /** Its middle on the plane, mm. */
  at: P2
}

/** All edges in which a plane cuts a body, by the faces they lie on; a sentence where it does not cut it. */
function cutsOn(
  plane: Frame,
  body: ExactPart,
  kernel: (job: KernelJob) => Outcome<ExactPart[]>,
): Outcome<Cut[]> {
  const made = kernel({
    verb: 'part',
    args: { op: 'section', planes: [plane] },
    on: [body.key],
  })
  if (!made.ok)
    return made.diagnosis.code === 'misses'
      ? bad('misses', 'The plane of the drawing does not go through the body.')
      : made
  const behind = made.value.filter((p) => dot3(sub3(p.measure.centroid, plane.origin), plane.z) < 0)
  const cuts = behind.flatMap((part) =>
    realEdges(part).flatMap((edge): Cut[] => {
      const names = part.edges[edge]!.faces.map((f) => faceName(part, f))
      const face = names.find((n) => n !== 'section:cut')
      if (!face || !names.includes('section:cut')) return []
      const off = sub3(part.edges[edge]!.middle, plane.origin)
      return [{ part, edge, face, at: [dot3(off, plane.x), dot3(off, plane.y)] }]
    }),
  )
  // The kernel's own order says nothing.
  return good(
    cuts.sort((a, b) =>
      Math.abs(a.at[0] - b.at[0]) > MODEL ? a.at[0] - b.at[0] : a.at[1] - b.at[1],
    ),
  )
}

/** The section of a body on a plane, piece by piece: lines and circles exactly, others as curves. */
export function sectionPieces(
  plane: Frame,
  id: string,
  body: ExactPart,
  kernel: (job: KernelJob) => Outcome<ExactPart[]>,
): Outcome<{ source: Source; curve: Curve }[]> {
  const cuts = cutsOn(plane, body, kernel)
  if (!cuts.ok) return cuts
  return good(
    cuts.value.flatMap((cut) => {
      const curve = edgeOn(plane, cut.part, cut.edge)
      const peers = cuts.value.filter((c) => c.face === cut.face)
      const source = { body: id, section: cut.face, index: peers.indexOf(cut), of: peers.length }
      return curve ? [{ source, curve }] : []
    }),
  )
}

/** What a piece that follows a section follows now, or why it follows nothing. */
export function followedCut(
  plane: Frame,
  body: ExactPart,
  { section, index, of }: SectionSource,
  kernel: (job: KernelJob) => Outcome<ExactPart[]>,
): Curve | string {
  const cuts = cutsOn(plane, body, kernel)
  if (!cuts.ok) return cuts.diagnosis.message
  const ref = { ...(index === undefined ? {} : { index }), ...(of === undefined ? {} : { of }) }
  const named = (c: Cut) => c.face === section
  const found = resolve(ref, undefined, { all: cuts.value, named, away: () => 0, size: 1 })
  if (found.state === 'lost') return `The plane does not cut the face ${section} any more.`
  if (found.state === 'unclear')
    return `The plane cuts the face ${section} ${found.candidates.length} times now; choose it again.`
  return edgeOn(plane, found.item.part, found.item.edge) ?? 'The section has shrunk to a point.'
}
