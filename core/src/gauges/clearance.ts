import { dot3, fixed, outAt, type P3, placeAt } from '../math'
import { type Hit, type MeshTree, noHit, type TriMesh, treeOf } from '../mesh'
import type { GaugeSpec } from './spec'

/** Whether a corner of one mesh lies in the material of another: a ray from it leaves the material first. */
function liesIn(mesh: TriMesh, other: MeshTree, of: TriMesh): boolean {
  const p = corner(mesh, 0, 0)
  // A way that runs along no face of ordinary goods.
  const way: P3 = [0.3713906763541037, 0.5570860145311556, 0.7427813527082074]
  const hit = noHit()
  if (!other.along(...p, ...way, 1e-6, 1e9, hit)) return false
  return dot3(outAt(of, hit.triangle), way) > 0
}

const corner = ({ positions, triangles }: TriMesh, triangle: number, k: number): P3 =>
  placeAt(positions, triangles[3 * triangle + k]!)
const place = ({ x, y, z }: Hit): P3 => [x, y, z]

export const clearanceGauge: GaugeSpec = {
  kind: 'clearance',
  label: 'Clearance',
  help: 'The least distance to another body, or to all others, by their triangles (within 0.1 mm); 0 where they touch or overlap.',
  unit: 'mm',
  params: [],
  pair: true,
  between(own, others) {
    if (others.length === 0) return 'There is no other body to be clear of.'
    let best: { name: string; d: number; at: P3; to: P3; overlap: boolean } | null = null
    for (const { name, mesh } of others) {
      const [a, b] = [treeOf(own), treeOf(mesh)]
      const within = liesIn(own, b, mesh) ? own : liesIn(mesh, a, own) ? mesh : null
      const gap = a.gap(b, best?.d ?? 1e9)
      if (within || gap?.d === 0) {
        const at = within ? corner(within, 0, 0) : place(gap!.at)
        best = { name, d: 0, at, to: at, overlap: true }
        break
      }
      if (gap) best = { name, d: gap.d, at: place(gap.at), to: place(gap.to), overlap: false }
    }
    if (!best) return 'There is no other body to be clear of.'
    const text = best.overlap ? `0, overlaps ${best.name}` : `${fixed(best.d, 2)} mm`
    return {
      low: best.d,
      high: best.d,
      text,
      rows: [
        { label: 'nearest', text: best.name },
        ...(['x', 'y', 'z'] as const).map((axis, k) => ({
          label: `along ${axis}`,
          text: `${fixed(Math.abs(best.to[k]! - best.at[k]!), 2)} mm`,
        })),
      ],
      places: [
        { at: best.at, label: text },
        { at: best.to, label: best.name },
      ],
    }
  },
}
