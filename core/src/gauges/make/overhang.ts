import {
  add3,
  cornersAt,
  cross3,
  dot3,
  fixed,
  norm3,
  type P3,
  placeAt,
  scale3,
  sub3,
} from '../../math'
import { Groups } from '../../mesh'
import type { GaugeSpec, Skin } from '../spec'
import { reach, type Span } from './ceiling'
import { DIRECTIONS, leanOf, shareBelow } from './lean'

/** What lies as near the lowest place (mm) stands on the bed. */
const BED = 0.01
/** What looks down within this of level is a ceiling, deg: the crown of a flat arch is laid into the air as a level one is. */
const LEVEL = 15
/** Places of one height, mm. */
const SAME = 1e-4
/** A normal that looks down at all, as a share. */
const DOWN = 1e-6

/** How a piece stands when it is built up in layers. */
export interface OverhangRead {
  /** mm2 that lean out farther than asked, what stands on the bed left out. */
  area: number
  /** The steepest of it, deg from upright, and where; null where nothing looks down. */
  steepest: { angle: number; at: P3 } | null
  /** mm2 on the bed. */
  foot: number
  /** Where something begins in the air. */
  starts: P3[]
  /** The place of a ceiling farthest from what holds it up, mm. */
  ceiling: Span | null
}

/** What leans how far, triangle by triangle. */
function surveyed(skin: Skin, up: P3, asked: number) {
  const { positions, triangles } = skin
  const count = triangles.length / 3
  const heights = Float64Array.from({ length: positions.length / 3 }, (_, v) =>
    dot3(placeAt(positions, v), up),
  )
  const bed = heights.reduce((m, h) => Math.min(m, h), Number.POSITIVE_INFINITY) + BED
  const ceilings = new Uint8Array(count)
  let [area, foot] = [0, 0]
  let steepest: OverhangRead['steepest'] = null
  for (let t = 0; t < count; t++) {
    const corners = cornersAt(skin, t)
    const n = cross3(sub3(corners[1], corners[0]), sub3(corners[2], corners[0]))
    const own = norm3(n) / 2
    if (!(own > 0)) continue
    const of = [0, 1, 2].map((k) => triangles[3 * t + k]!)
    const lean = leanOf(scale3(n, 1 / (2 * own)), up)
    if (lean < 0 && of.every((v) => heights[v]! < bed)) {
      foot += own
      continue
    }
    if (lean < LEVEL - 90) ceilings[t] = 1
    const leans = of.map((v) => leanOf(placeAt(skin.normals, v), up))
    area += own * shareBelow(leans, -asked)
    for (const [k, x] of leans.entries())
      if (x < 0 && -x > (steepest?.angle ?? 0)) steepest = { angle: -x, at: corners[k]! }
  }
  return { area, foot, steepest, heights, bed, ceilings }
}

/**
 * What overhangs when a piece is built up along `up` (unit length, along an axis): leans are those of the true surface at the corners
 * of the triangles, and areas beyond `asked` (deg from upright) are clipped between them.
 */
export function readOverhang(skin: Skin, up: P3, asked: number): OverhangRead {
  const { area, foot, steepest, heights, bed, ceilings } = surveyed(skin, up, asked)
  const joined = joinedPoints(skin.positions)
  return {
    area,
    foot,
    steepest,
    starts: startsOf(skin, joined, heights, bed, up),
    ceiling: reach(skin, joined, ceilings, up),
  }
}

/** For each point the first that lies in the same place. */
function joinedPoints(positions: Float32Array): Uint32Array {
  const first = new Map<string, number>()
  return Uint32Array.from({ length: positions.length / 3 }, (_, v) => {
    const key = `${positions[3 * v]},${positions[3 * v + 1]},${positions[3 * v + 2]}`
    const known = first.get(key) ?? v
    first.set(key, known)
    return known
  })
}

/** Places over the bed from which the piece only rises: level patches and points that look down and have nothing lower beside them. */
function startsOf(
  { positions, normals, triangles }: Skin,
  joined: Uint32Array,
  heights: Float64Array,
  over: number,
  up: P3,
): P3[] {
  const level = new Groups(joined.length)
  const held = new Uint8Array(joined.length)
  const down = new Uint8Array(joined.length)
  for (let i = 0; i < triangles.length; i++) {
    const [v, w] = [triangles[i]!, triangles[i - (i % 3) + ((i + 1) % 3)]!]
    const [a, b] = [joined[v]!, joined[w]!]
    const rise = heights[b]! - heights[a]!
    if (Math.abs(rise) <= SAME) level.join(a, b)
    else held[rise > 0 ? b : a] = 1
    if (dot3(placeAt(normals, v), up) < -DOWN) down[a] = 1
  }
  return level
    .lists()
    .filter(
      (all) => heights[all[0]!]! > over && all.some((v) => down[v]) && !all.some((v) => held[v]),
    )
    .map((all) =>
      scale3(
        all.reduce<P3>((sum, v) => add3(sum, placeAt(positions, v)), [0, 0, 0]),
        1 / all.length,
      ),
    )
}

const WAYS = ([1, 2, 3, -1, -2, -3] as const).map((way) => ({
  way,
  up: scale3(DIRECTIONS[Math.abs(way) - 1]!, Math.sign(way)),
  name: `${way < 0 ? '−' : ''}${'xyz'[Math.abs(way) - 1]}`,
}))

/** The parameter of gauges that asks which way a piece is built up. */
export const UP_PARAM: GaugeSpec['params'][number] = {
  name: 'up',
  label: 'Built along',
  help: '1 for x, 2 for y, 3 for z; −1, −2, −3 for the other way.',
  start: 3,
}
/** The way a piece is built up by that parameter, or why there is none. */
export const builtAlong = ({ up }: Readonly<Record<string, unknown>>) =>
  WAYS.find((w) => w.way === Math.round(Number(up ?? 3))) ??
  'It is built along 1 (x), 2 (y) or 3 (z), or −1, −2, −3.'

/** What begins in the air, as a row of a reading. */
export const startsRow = (starts: readonly P3[]) => ({
  label: 'begins in the air',
  text: starts.length === 0 ? 'nothing' : `${starts.length} ×`,
  ...(starts[0] ? { at: starts[0] } : {}),
})

export const overhangGauge: GaugeSpec = {
  kind: 'overhang',
  label: 'Overhang',
  help: 'What leans out too far to be built up in layers without support, what stands on the bed, what begins in the air, and how far ceilings reach from what holds them. 45° from upright is common practice, no source; what your printer and material do counts.',
  unit: 'mm²',
  params: [
    UP_PARAM,
    {
      name: 'asked',
      label: 'Beyond',
      help: 'Degrees from upright that are built without support.',
      start: 45,
    },
  ],
  ofSkin(skin, params) {
    const built = builtAlong(params)
    if (typeof built === 'string') return built
    const asked = Number(params.asked ?? 45)
    if (!(asked >= 0 && asked < 90)) return 'The overhang lies between 0 and 90 degrees.'
    const read = readOverhang(skin, built.up, asked)
    const { steepest, ceiling, starts } = read
    const area = (a: number) => `${fixed(a, 1)} mm²`
    const others = WAYS.filter((w) => w !== built).map((w) => ({
      name: w.name,
      area: surveyed(skin, w.up, asked).area,
    }))
    const least = others.reduce((a, b) => (b.area < a.area ? b : a))
    return {
      low: read.area,
      high: read.area,
      text: area(read.area),
      rows: [
        ...(steepest
          ? [{ label: 'steepest', text: `${fixed(steepest.angle, 1)}°`, at: steepest.at }]
          : []),
        { label: 'stands on', text: area(read.foot) },
        startsRow(starts),
        ...(ceiling
          ? [
              {
                label: 'ceiling, from what holds it',
                text: `up to ${fixed(ceiling.far, 2)} mm`,
                at: ceiling.at,
              },
            ]
          : []),
        ...(least.area < read.area - 0.05
          ? [{ label: `built along ${least.name}`, text: area(least.area) }]
          : []),
      ],
      places: [
        ...(read.area > 0 && steepest
          ? [{ at: steepest.at, label: `${fixed(steepest.angle, 0)}°` }]
          : []),
        ...starts.slice(0, 20).map((at) => ({ at, label: 'begins in the air' })),
      ],
    }
  },
}
