import {
  cornersAt,
  cross3,
  dot3,
  fixed,
  lerp3,
  norm3,
  type P3,
  placeAt,
  scale3,
  sub3,
  unit3,
} from '../../math'
import { MeshTree, noHit } from '../../mesh'
import type { GaugeSpec, Skin } from '../spec'
import { DIRECTIONS, leanOf, shareBelow } from './lean'

/** Faces that look along the pull, or against it, are no side: their draft is not asked for, deg from 90. */
const LEVEL = 0.5
/** How far off the skin a ray begins that looks for what stands in the way, mm. */
const OFF = 1e-3
/** A side may look against a pull by as much and still be drawn along it. */
const LEVEL_SINE = 1e-3

/** How a piece leaves its mould. */
export interface Pulls {
  /** The direction it opens in, of unit length, both ways. */
  along: P3
  /** How far along that the halves part, mm; where it is not told every place goes the way it looks. */
  parts?: number | undefined
  /** A second direction that pieces of the mould leave in, both ways. */
  second?: P3 | undefined
}

/** Areas of a skin by how it leans against the directions it is pulled in. */
export interface DraftRead {
  /** Least angle of any side, deg; under 0 where a side leans back against the pull of its half. */
  least: number
  at: P3
  /** mm2 that lean by less than what was asked. */
  under: number
  /** mm2 that lean back: they look against the pull of their half. */
  back: number
  /** mm2 that cannot be pulled any way: something stands over them. */
  caught: number
  caughtAt: P3 | null
  /** From where to where along the pull the skin turns from looking one way to the other, mm; null where it does nowhere. */
  turns: [number, number] | null
}

type Corner = readonly [at: P3, normal: P3]

/**
 * How the sides of a skin lean against what they are pulled by. The angle at each vertex is that of the true surface, against the
 * pull that is best for it; between, areas under `asked` (deg) are clipped within the triangles, which end where the halves part.
 * What lies under something else, seen along its pull, is found by rays from the middles of the triangles.
 */
export function readDraft(skin: Skin, pulls: Pulls, asked: number): DraftRead {
  const { positions, normals, triangles } = skin
  const tree = new MeshTree({ positions: Float64Array.from(positions), triangles })
  const hit = noHit()
  const out: DraftRead = {
    least: Number.POSITIVE_INFINITY,
    at: [0, 0, 0],
    under: 0,
    back: 0,
    caught: 0,
    caughtAt: null,
    turns: null,
  }
  const { along, parts, second } = pulls
  for (let t = 0; t < triangles.length / 3; t++) {
    const places = cornersAt({ positions, triangles }, t)
    const whole = places.map((p, k): Corner => [p, placeAt(normals, triangles[3 * t + k]!)])
    turning(whole, along, out)
    for (const [corners, half] of parts === undefined
      ? [[whole, 0] as const]
      : halves(whole, along, parts)) {
      const [a, b, c] = corners.map(([p]) => p) as [P3, P3, P3]
      const area = norm3(cross3(sub3(b, a), sub3(c, a))) / 2
      if (!(area > 0)) continue
      const own = corners.map(([, n]) => (half < 0 ? -1 : 1) * leanOf(n, along))
      const beside = second && corners.map(([, n]) => Math.abs(leanOf(n, second)))
      // Without a half of its own a place goes the way it looks.
      const best = own.map((x, k) => Math.max(half === 0 ? Math.abs(x) : x, beside?.[k] ?? -90))
      if (best.some((x) => x < 90 - LEVEL))
        for (const [k, x] of best.entries())
          if (x < out.least) {
            out.least = x
            out.at = corners[k]![0]
          }
      const plain = half === 0 && !beside
      out.under +=
        area * (plain ? shareBelow(own, asked) - shareBelow(own, -asked) : shareBelow(best, asked))
      out.back += half === 0 ? 0 : area * shareBelow(best, 0)
      const mean = own[0]! + own[1]! + own[2]!
      const ways = [scale3(along, half || (mean < 0 ? -1 : 1))]
      if (second) ways.push(second, scale3(second, -1))
      const n = unit3(
        [0, 1, 2].map((k) => corners.reduce((s, [, x]) => s + x[k]!, 0)) as unknown as P3,
      )
      const m: P3 = [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3 + OFF * n[k]!) as unknown as P3
      const free = ways.some(
        (w) => dot3(w, n) >= -LEVEL_SINE && !tree.along(...m, ...w, OFF, 1e9, hit),
      )
      if (!free) {
        out.caught += area
        out.caughtAt ??= m
      }
    }
  }
  return out
}

/** Takes in where a triangle turns from looking along the pull to looking against it. */
function turning(corners: readonly Corner[], along: P3, out: DraftRead): void {
  for (const [k, [p, n]] of corners.entries()) {
    const [q, m] = corners[(k + 1) % 3]!
    const [a, b] = [dot3(n, along), dot3(m, along)]
    if (!(a * b < 0)) continue
    const at = dot3(p, along) + (a / (a - b)) * dot3(sub3(q, p), along)
    out.turns = [Math.min(out.turns?.[0] ?? at, at), Math.max(out.turns?.[1] ?? at, at)]
  }
}

/** The parts of a triangle over (1) and under (-1) where the halves of a mould part. */
function halves(corners: readonly Corner[], along: P3, parts: number): [Corner[], 1 | -1][] {
  const over = corners.map(([p]) => dot3(p, along) - parts)
  const of = (side: 1 | -1): [Corner[], 1 | -1][] => {
    const kept: Corner[] = []
    for (const [k, c] of corners.entries()) {
      const next = corners[(k + 1) % 3]!
      const [h, g] = [side * over[k]!, side * over[(k + 1) % 3]!]
      if (h >= 0) kept.push(c)
      if (h * g < 0) {
        const t = h / (h - g)
        kept.push([lerp3(c[0], next[0], t), unit3(lerp3(c[1], next[1], t))])
      }
    }
    return kept.slice(2).map((c, i) => [[kept[0]!, kept[i + 1]!, c], side])
  }
  return [...of(1), ...of(-1)]
}

export const draftGauge: GaugeSpec = {
  kind: 'draft',
  label: 'Draft',
  help: 'How the sides lean against the directions the piece leaves its mould in; flats that look along them do not count. Without a place where the halves part every place goes the way it looks. The limit is the least lean asked for; what leans back or is caught under something else is told.',
  unit: '°',
  params: [
    { name: 'along', label: 'Along', help: '1 for x, 2 for y, 3 for z.', start: 3 },
    { name: 'asked', label: 'Asked', help: 'Degrees a side has to lean.', start: 1 },
    {
      name: 'parts',
      label: 'Parts at',
      help: 'How far along the pull the two halves part, mm; empty where each place goes the way it looks.',
      start: '',
    },
    {
      name: 'second',
      label: 'Second pull',
      help: '1 for x, 2 for y, 3 for z; empty where there is none.',
      start: '',
    },
  ],
  ofSkin(skin, params) {
    const along = DIRECTIONS[Math.round(Number(params.along ?? 3)) - 1]
    if (!along) return 'The piece is pulled along 1 (x), 2 (y) or 3 (z).'
    const told = (name: string) => (params[name] ?? '') !== ''
    const second = told('second') ? DIRECTIONS[Math.round(Number(params.second)) - 1] : undefined
    if (told('second') && (!second || second === along))
      return 'The second pull goes along another of 1 (x), 2 (y) and 3 (z).'
    const parts = told('parts') ? Number(params.parts) : undefined
    if (parts !== undefined && !Number.isFinite(parts)) return 'The halves part at a height in mm.'
    const asked = Number(params.asked ?? 1)
    if (!(asked >= 0 && asked < 90)) return 'The lean asked for lies between 0 and 90 degrees.'
    const read = readDraft(skin, { along, parts, second }, asked)
    const least = Number.isFinite(read.least) ? read.least : 90
    const area = (a: number) => `${fixed(a, 1)} mm²`
    return {
      low: least,
      high: least,
      text: `${fixed(least, 2)}°`,
      rows: [
        { label: `under ${asked}°`, text: area(read.under) },
        ...(parts === undefined ? [] : [{ label: 'leans back', text: area(read.back) }]),
        { label: 'caught, pulls no way', text: area(read.caught) },
        ...(read.turns
          ? [
              {
                label: 'turns over',
                text: `from ${fixed(read.turns[0], 2)} to ${fixed(read.turns[1], 2)} mm along it`,
              },
            ]
          : []),
      ],
      places: [
        ...(Number.isFinite(read.least) ? [{ at: read.at, label: `${fixed(least, 2)}°` }] : []),
        ...(read.caughtAt ? [{ at: read.caughtAt, label: 'caught' }] : []),
      ],
    }
  },
}
