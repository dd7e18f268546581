import { type ExactPart, edgeCurve } from '../../../exact'
import { dot3, type Frame, frameAlong, type Outcome, scale3, sub3 } from '../../../math'
import {
  bandAlong,
  combine,
  JOIN,
  loopsOf,
  type Region,
  regionsOf,
  type Seg,
} from '../../../profile'
import { offFrame } from '../../../surface'
import { areaSum, prismOf } from '../../form/prism'
import type { OpContext } from '../../state'

/** How much a volume may differ from an area times a height to be that of a straight piece, as a share. */
const STRAIGHT = 1e-6
/** Normals look against each other, as the cosine. */
const OPPOSITE = -1 + 1e-9

/** A straight piece: areas on a plane that are carried along its normal. */
interface Prism {
  frame: Frame
  areas: Region[]
  height: number
}

/** A part as areas carried straight out, the longest way it can be seen so; null where it is no such thing. */
function asPrism(part: ExactPart): Prism | null {
  let best: Prism | null = null
  for (const [i, low] of part.faces.entries()) {
    const high = part.faces.find((f) => f.kind === 'plane' && dot3(f.normal, low.normal) < OPPOSITE)
    if (low.kind !== 'plane' || !high) continue
    const frame = frameAlong(low.middle, scale3(low.normal, -1))
    const height = dot3(sub3(high.middle, low.middle), frame.z)
    if (!(height > (best?.height ?? 0))) continue
    const segs = part.edges.flatMap((e, k): Seg[] => {
      const curve = e.faces.includes(i) ? edgeCurve(part, k) : null
      return curve ? [{ curve: offFrame(curve, frame), name: `e${k}` }] : []
    })
    const areas = regionsOf(segs)
    // By the outline's own area: that of a face among free curves is not told as exactly.
    const off = areas.ok ? (areaSum(areas.value) * height) / part.measure.volume - 1 : 1
    if (areas.ok && Math.abs(off) < STRAIGHT) best = { frame, areas: areas.value, height }
  }
  return best
}

/**
 * A straight piece grown all round: its areas by `wall` mm, and as far beyond both ends, sharp there. Null where it is no straight
 * piece.
 */
export function grownPrism(
  part: ExactPart,
  wall: number,
  ctx: OpContext,
): Outcome<ExactPart> | null {
  const prism = asPrism(part)
  if (!prism) return null
  let grown: Region[] = prism.areas
  for (const loop of loopsOf(prism.areas)) {
    const name = (n: string) => `${ctx.op}:about(${n})`
    const band = bandAlong(loop, wall, { left: name, right: name, end: name })
    if (!band.ok) return band
    grown = combine(grown, band.value, JOIN)
  }
  return prismOf(prism.frame, grown, -wall, prism.height + wall, ctx)
}
