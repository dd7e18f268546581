import { fixed } from '../math'
import { basinOf, type TriMesh } from '../mesh'
import { solidMesh, type TurnedBody } from '../turned'
import { nothing, reading } from './capacity'
import type { GaugeSpec, Reading } from './spec'

/** Of turned bodies the triangles a tilt is read on, kept while the body is. */
const coarse = new WeakMap<TurnedBody, TriMesh>()
const FACETS = { chord: 0.05, angle: 0.2 }
function facetsOf(turned: TurnedBody): TriMesh {
  const known = coarse.get(turned) ?? (solidMesh(turned, FACETS) as TriMesh)
  coarse.set(turned, known)
  return known
}

/** Tilted meshes by tilt, kept while the upright one is. */
const tilts = new WeakMap<TriMesh, Map<string, TriMesh>>()

/** The mesh leaning by `tilt` rad towards `toward` rad from x, about the upright line through the origin's foot. */
function leaning(mesh: TriMesh, tilt: number, toward: number): TriMesh {
  const key = `${tilt} ${toward}`
  const own = tilts.get(mesh) ?? new Map<string, TriMesh>()
  tilts.set(mesh, own)
  const known = own.get(key)
  if (known) return known
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)]
  const [u, v] = [Math.cos(toward), Math.sin(toward)]
  const positions = new Float64Array(mesh.positions.length)
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!]
    // Along the direction it leans to, and across it.
    const [p, q] = [u * x + v * y, -v * x + u * y]
    const [a, b] = [c * p + s * z, -s * p + c * z]
    positions[i] = u * a - v * q
    positions[i + 1] = v * a + u * q
    positions[i + 2] = b
  }
  const made = { positions, triangles: mesh.triangles }
  own.set(key, made)
  return made
}

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
  ofSection: ({ turned }, params) => tilted(facetsOf(turned), params),
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
