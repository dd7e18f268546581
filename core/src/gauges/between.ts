import { cross3, dot3, fixed, norm3, type P3, scale3, sub3 } from '../math'
import { type Hit, MeshTree } from '../mesh'
import type { GaugeSpec, Measured, Reading } from './spec'

/** Directions nearer to each other than this (sine) are parallel. */
const PARALLEL = 1e-6
const mm = (x: number) => `${fixed(x, 3)} mm`
const place = ({ x, y, z }: Hit): P3 => [x, y, z]

/**
 * The distance between two faces, edges or corners: of parallel planes and lines that of the planes and lines,
 * of a corner its height over a plane; else the least by their triangles. Angles, axes, radii, lengths and
 * areas are told beside.
 */
export function betweenPicks(a: Measured, b: Measured): Reading | string {
  const gap = new MeshTree(a.mesh).gap(new MeshTree(b.mesh), 1e9)
  if (!gap) return 'One of them has no extent.'
  const [at, to] = [a.spot ?? place(gap.at), b.spot ?? place(gap.to)]
  const least = a.spot && b.spot ? norm3(sub3(b.spot, a.spot)) : gap.d
  const rows: Reading['rows'] = [
    { label: 'least distance', text: mm(least) },
    ...(['x', 'y', 'z'] as const).map((axis, k) => ({
      label: `along ${axis}`,
      text: mm(Math.abs(to[k]! - at[k]!)),
    })),
  ]
  const angle = angleBetween(a, b)
  if (angle !== null) rows.push({ label: 'angle', text: `${fixed(angle, 3)}°` })
  if (a.round && b.round && sine(a.round.dir, b.round.dir) < PARALLEL)
    rows.push({ label: 'between the axes', text: mm(toLine(b.round.origin, a.round)) })
  for (const x of [a, b]) {
    if (x.round) rows.push({ label: `radius of ${x.name}`, text: mm(x.round.radius) })
    if (x.length !== undefined) rows.push({ label: `length of ${x.name}`, text: mm(x.length) })
    if (x.area !== undefined)
      rows.push({ label: `area of ${x.name}`, text: `${fixed(x.area, 1)} mm²` })
  }
  const apart = apartBy(a, b) ?? apartBy(b, a) ?? least
  return {
    low: apart,
    high: apart,
    text: mm(apart),
    rows,
    places: [
      { at, label: mm(apart) },
      { at: to, label: '' },
    ],
  }
}

/** How far a plane, line or corner stands from a plane or line it is parallel to, mm; null where it is not. */
function apartBy(a: Measured, b: Measured): number | null {
  const over = (p: P3) => Math.abs(dot3(sub3(p, a.flat!.origin), a.flat!.dir))
  if (a.flat) {
    if (b.spot) return over(b.spot)
    if (b.flat && sine(a.flat.dir, b.flat.dir) < PARALLEL) return over(b.flat.origin)
    if (b.straight && Math.abs(dot3(a.flat.dir, b.straight.dir)) < PARALLEL)
      return over(b.straight.origin)
  }
  if (a.straight && b.straight && sine(a.straight.dir, b.straight.dir) < PARALLEL)
    return toLine(b.straight.origin, a.straight)
  return null
}

const sine = (u: P3, v: P3): number => norm3(cross3(u, v))

function toLine(p: P3, { origin, dir }: { origin: P3; dir: P3 }): number {
  const off = sub3(p, origin)
  return norm3(sub3(off, scale3(dir, dot3(off, dir))))
}

/** The sharp angle between planes and lines, deg; null where one of them has no direction. */
function angleBetween(a: Measured, b: Measured): number | null {
  const [u, v] = [a.flat ?? a.straight, b.flat ?? b.straight]
  if (!u || !v) return null
  const between = (Math.atan2(sine(u.dir, v.dir), Math.abs(dot3(u.dir, v.dir))) * 180) / Math.PI
  return Boolean(a.flat) === Boolean(b.flat) ? between : 90 - between
}

export const betweenGauge: GaugeSpec = {
  kind: 'between',
  label: 'Between two places',
  help: 'The distance between two faces, edges or corners picked on the Stage: of parallel flat and straight ones exactly, else the least by their triangles (within 0.1 mm); with angle, axes, radii and lengths.',
  unit: 'mm',
  params: [],
  picks: betweenPicks,
}
