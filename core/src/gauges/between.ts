import { cross3, dot3, fixed, norm3, type P3, scale3, sub3 } from '../math'
import { type Hit, MeshTree } from '../mesh'
import type { GaugeSpec, MeasuredFace, Reading } from './spec'

/** Directions nearer to each other than this (sine) are parallel. */
const PARALLEL = 1e-6
const mm = (x: number) => `${fixed(x, 3)} mm`
const place = ({ x, y, z }: Hit): P3 => [x, y, z]

/**
 * The distance between two faces: of parallel planes that of the planes, of a plane and a place on a parallel
 * cylinder's axis or of two parallel axes told beside; else the least by their triangles.
 */
export function betweenFaces(a: MeasuredFace, b: MeasuredFace): Reading | string {
  const gap = new MeshTree(a.mesh).gap(new MeshTree(b.mesh), 1e9)
  if (!gap) return 'One of the faces has no extent.'
  const [at, to] = [place(gap.at), place(gap.to)]
  const rows: Reading['rows'] = [
    { label: 'least distance', text: mm(gap.d) },
    ...(['x', 'y', 'z'] as const).map((axis, k) => ({
      label: `along ${axis}`,
      text: mm(Math.abs(to[k]! - at[k]!)),
    })),
  ]
  const [u, v] = [a.flat ?? a.round, b.flat ?? b.round]
  let apart = gap.d
  if (u && v) {
    const sine = norm3(cross3(u.dir, v.dir))
    const off = sub3(v.origin, u.origin)
    if (a.flat && b.flat) {
      rows.push({ label: 'angle', text: `${fixed(degrees(sine, u.dir, v.dir), 3)}°` })
      if (sine < PARALLEL) apart = Math.abs(dot3(off, u.dir))
    } else if (a.round && b.round && sine < PARALLEL) {
      const across = sub3(off, scale3(u.dir, dot3(off, u.dir)))
      rows.push({ label: 'between the axes', text: mm(norm3(across)) })
    }
  }
  for (const f of [a, b]) {
    if (f.round) rows.push({ label: `radius of ${f.name}`, text: mm(f.round.radius) })
    rows.push({ label: `area of ${f.name}`, text: `${fixed(f.area, 1)} mm²` })
  }
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

/** The sharp angle between two directions, deg. */
const degrees = (sine: number, u: P3, v: P3): number =>
  (Math.atan2(sine, Math.abs(dot3(u, v))) * 180) / Math.PI

export const betweenGauge: GaugeSpec = {
  kind: 'between',
  label: 'Between two faces',
  help: 'The distance between two faces picked on the Stage: of parallel flat ones exactly, else the least by their triangles (within 0.1 mm); with their angle, axes and radii.',
  unit: 'mm',
  params: [],
  faces: betweenFaces,
}
