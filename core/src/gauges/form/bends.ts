import type { BentSkin } from '../../kernel'
import { cornersAt, cross3, fixed, norm3, type P3, placeAt, sub3 } from '../../math'
import { type Bends, bendsOf } from '../../mesh'
import type { GaugeSpec, Reading, Skin } from '../spec'

/** Curvatures under this are flat: radii over 10 m, 1/mm. */
const FLAT = 1e-4

/** The tightest places of a skin, and how much of it bends how. */
export interface BendsRead {
  /** Least radius where it bulges out and where it is hollow, mm, with its place; null where it does neither. */
  bulge: { radius: number; at: P3 } | null
  hollow: { radius: number; at: P3 } | null
  /** mm2 flat, bent one way only (what a sheet can be laid on), and bent both ways. */
  flat: number
  single: number
  double: number
  /** mm2 in which the bulges, and the hollows, are tighter than what was asked. */
  under: { bulge: number; hollow: number }
}

/**
 * How a skin bends, read at the corners of its triangles. `asked` in mm. A triangle bends both ways where the lesser of its
 * curvatures turns it by more than a hundredth of what the greater does.
 */
export function readBends(skin: Skin, asked: number): BendsRead {
  return readOver({ ...skin, ...bendsOf(skin) }, asked)
}

/** The same of true surfaces, whose tightest places are known. */
export function readBent({ bulge, hollow, ...skin }: BentSkin, asked: number): BendsRead {
  const told = (x: BentSkin['bulge']) => (x && x.k > FLAT ? { radius: 1 / x.k, at: x.at } : null)
  return { ...readOver(skin, asked), bulge: told(bulge), hollow: told(hollow) }
}

function readOver(
  { positions, triangles, most, least }: Omit<Skin, 'normals'> & Bends,
  asked: number,
): BendsRead {
  const out: BendsRead = {
    bulge: null,
    hollow: null,
    flat: 0,
    single: 0,
    double: 0,
    under: { bulge: 0, hollow: 0 },
  }
  for (let v = 0; v < most.length; v++) {
    const [k, m] = [most[v]!, -least[v]!]
    if (k > FLAT && !(1 / k >= (out.bulge?.radius ?? Number.POSITIVE_INFINITY)))
      out.bulge = { radius: 1 / k, at: placeAt(positions, v) }
    if (m > FLAT && !(1 / m >= (out.hollow?.radius ?? Number.POSITIVE_INFINITY)))
      out.hollow = { radius: 1 / m, at: placeAt(positions, v) }
  }
  for (let t = 0; t < triangles.length / 3; t++) {
    const [a, b, c] = cornersAt({ positions, triangles }, t)
    const area = norm3(cross3(sub3(b, a), sub3(c, a))) / 2
    let [high, low] = [0, 0]
    for (let k = 0; k < 3; k++) {
      const v = triangles[3 * t + k]!
      high += most[v]! / 3
      low += least[v]! / 3
      if (most[v]! * asked > 1 + SLACK) out.under.bulge += area / 3
      if (-least[v]! * asked > 1 + SLACK) out.under.hollow += area / 3
    }
    const [more, less] = [
      Math.max(Math.abs(high), Math.abs(low)),
      Math.min(Math.abs(high), Math.abs(low)),
    ]
    if (more < FLAT) out.flat += area
    else if (less < Math.max(FLAT, 0.01 * more)) out.single += area
    else out.double += area
  }
  return out
}

/** A radius this near to what was asked is what was asked: places are kept to single precision. */
const SLACK = 1e-3

const radius = (x: { radius: number } | null): string =>
  x ? `${fixed(x.radius, 2)} mm` : 'nowhere'

export const bendsGauge: GaugeSpec = {
  kind: 'bends',
  label: 'Least radius',
  help: 'How tightly the surface bends, read on its surfaces; of bodies of triangles at their corners (exactly on planes, cylinders and balls, within some 2 % elsewhere): hollows let in a round cutter no larger, bulges take a wall inside no thicker before it folds. The limit is held against the side asked for.',
  unit: 'mm',
  params: [
    { name: 'side', label: 'Of', help: '1 for bulges, 2 for hollows.', start: 2 },
    {
      name: 'asked',
      label: 'Asked',
      help: 'Radius in mm; the area bent tighter is told.',
      start: 3,
    },
  ],
  ofBent: (bent, params) => reading((asked) => readBent(bent, asked), params),
  ofSkin: (skin, params) => reading((asked) => readBends(skin, asked), params),
}

function reading(
  of: (asked: number) => BendsRead,
  params: Readonly<Record<string, number | string>>,
): Reading | string {
  const side = Math.round(Number(params.side ?? 2))
  if (side !== 1 && side !== 2) return 'The side is 1 (bulges) or 2 (hollows).'
  const asked = Number(params.asked ?? 3)
  if (!(asked > 0)) return 'The radius asked for is a length above 0.'
  const read = of(asked)
  const own = side === 1 ? read.bulge : read.hollow
  if (!own) return side === 1 ? 'It bulges nowhere.' : 'It is hollow nowhere.'
  const under = side === 1 ? read.under.bulge : read.under.hollow
  return {
    low: own.radius,
    high: own.radius,
    text: radius(own),
    rows: [
      ...(read.bulge
        ? [{ label: 'bulges', text: radius(read.bulge), at: read.bulge.at }]
        : [{ label: 'bulges', text: 'nowhere' }]),
      ...(read.hollow
        ? [{ label: 'hollows', text: radius(read.hollow), at: read.hollow.at }]
        : [{ label: 'hollows', text: 'nowhere' }]),
      {
        label: `tighter than ${fixed(asked, 2)} mm`,
        text: `${fixed(under, 1)} mm²`,
      },
      {
        label: 'flat, bent one way, both ways',
        text: `${fixed(read.flat, 0)}, ${fixed(read.single, 0)}, ${fixed(read.double, 0)} mm²`,
      },
    ],
    places: [{ at: own.at, label: radius(own) }],
  }
}
