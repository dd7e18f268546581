import type { ExactPart } from '../../../exact'
import { bad, good, type Outcome } from '../../../math'
import { type Carrying, changingFaces } from '../../../path'
import type { Region, Seg } from '../../../profile'
import { matched, onFrame, ringOf, sidePoles, sidesOf } from '../../../surface'
import type { OpContext, Path } from '../../state'
import { closedOff } from './carried'
import { drawnRegion } from './placed'
import type { Station } from './way'

/** The section at each station: what it is drawn as there, or as at the one before; none where all are alike. */
export function otherSections(
  input: { stations: readonly { profile?: string | undefined }[] },
  first: Region,
  stations: readonly Station[],
  path: Path,
  ctx: OpContext,
): Outcome<Region[]> {
  if (!input.stations.some((s) => s.profile)) return good([])
  const out: Region[] = []
  let now = first
  for (const s of stations) {
    if (s.profile) {
      const drawn = drawnRegion(s.profile, [], ctx)
      if (!drawn.ok) return drawn
      now = drawn.value.region
    }
    out.push(now)
  }
  if (out.some((r) => r.holes.length > 0))
    return bad('with-holes', 'A section that becomes another takes no holes.')
  if (path.closed && out[0] !== out[out.length - 1])
    return bad(
      'does-not-close',
      'The path comes back to where it starts: the section has to be there what it was at first.',
    )
  return good(out)
}

const FLAT = {
  origin: [0, 0, 0] as const,
  x: [1, 0, 0] as const,
  y: [0, 1, 0] as const,
  z: [0, 0, 1] as const,
}

/** Carried along the path, the section goes over from each to the next: corner to corner as a loft does. */
export function changing(
  path: Path,
  sections: readonly Region[],
  stations: readonly Station[],
  ways: readonly Carrying[],
  ctx: OpContext,
): Outcome<ExactPart> {
  const ring = (outer: readonly Seg[]) =>
    ringOf({
      curves: outer.map((s) => onFrame(s.curve, FLAT)),
      names: outer.map((s) => s.name),
      closed: true,
    })
  const rings = matched(
    sections.map((r) => ring(r.outer)),
    sections.map(() => 0),
  )
  if (!rings.ok) return rings
  const sides = sidesOf(rings.value).map((side) => ({
    ...sidePoles(side),
    name: side.names[0] ?? `${ctx.op}:side`,
  }))
  const shares = stations.map((s) => s.at)
  const faces = ctx.once('faces', () => changingFaces(sides, shares, ways))
  return closedOff(path, faces, [sides.length], ctx)
}
