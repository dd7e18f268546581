import { fixed, type P3 } from '../math'
import { basinOf, movedMesh, type TriMesh } from '../mesh'
import { shownMesh } from '../turned'
import { nothing, reading } from './capacity'
import type { GaugeSpec, Reading } from './spec'

/** The last tilted mesh, kept while the upright one is: what it holds is kept by it. */
const last = new WeakMap<TriMesh, { tilt: number; toward: number; mesh: TriMesh }>()

/** The mesh leaning by `tilt` rad towards `toward` rad from x. */
function leaning(mesh: TriMesh, tilt: number, toward: number): TriMesh {
  const before = last.get(mesh)
  if (before?.tilt === tilt && before.toward === toward) return before.mesh
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)]
  const [u, v] = [Math.cos(toward), Math.sin(toward)]
  // Turned about the level line square to the way it leans (Rodrigues).
  const m: [P3, P3, P3] = [
    [c * u * u + v * v, (c - 1) * u * v, s * u],
    [(c - 1) * u * v, c * v * v + u * u, s * v],
    [-s * u, -s * v, c],
  ]
  const made = movedMesh({ ...mesh, faceOf: NO_FACES }, { m, t: [0, 0, 0] })
  last.set(mesh, { tilt, toward, mesh: made })
  return made
}
const NO_FACES = new Uint32Array(0)

export const tiltedGauge: GaugeSpec = {
  kind: 'tilted',
  label: 'Held when tilted',
  help: 'What stays in it when it leans: filled to the brim, then tilted, the rest runs over.',
  unit: 'ml',
  params: [
    { name: 'tilt', label: 'Tilt, deg', help: 'How far it leans.', start: 30 },
    {
      name: 'toward',
      label: 'Toward, deg',
      help: 'Which way, from the right to the back.',
      start: 0,
    },
  ],
  ofSection: ({ turned }, params) => tilted(shownMesh(turned), params),
  ofSolid: ({ mesh }, params) => (mesh ? tilted(mesh, params) : 'Its triangles are not there.'),
}

function tilted(
  mesh: TriMesh,
  params: Readonly<Record<string, number | string>>,
): Reading | string {
  const [tilt, toward] = [Number(params.tilt ?? 30), Number(params.toward ?? 0)]
  if (!(tilt >= 0 && tilt < 90)) return 'The tilt must lie between 0 and 90 deg.'
  const rad = (x: number) => (x * Math.PI) / 180
  const upright = basinOf(mesh)
  const basin = basinOf(leaning(mesh, rad(tilt), rad(toward)))
  if (!basin || basin.volume === 0)
    return upright && upright.volume > 0
      ? reading(0, [{ label: 'of what it holds upright', text: '0 %' }], [])
      : nothing(basin?.sealed ?? 0)
  const share = upright ? basin.volume / upright.volume : 1
  return reading(
    basin.volume,
    [
      { label: 'of what it holds upright', text: `${fixed(100 * share, 1)} %` },
      { label: 'read from slices of its triangles', text: 'to about 0.1 %' },
    ],
    [],
  )
}
