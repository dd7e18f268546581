import { SHOWN } from '../../exact'
import { toSpace } from '../../math'
import type { Body } from '../../ops'
import { triangleMesh } from '../../rebuild'
import { cornersOf, displayMesh, isSharp, isWhole, spaceBounds } from '../../turned'
import type { Workpiece } from '../../workpiece'
import type { Sheet } from './paper'
import type { Round } from './rounds'
import { viewsSheet } from './sheet'

/** Three views and a section of bodies, drawn from their triangles. */
export const sheetOf = (w: Workpiece, bodies: readonly Body[]): Sheet =>
  viewsSheet(
    bodies.map((b) => ({
      mesh: triangleMesh(b),
      edges: edgeLines(b),
      rounds: roundsOf(b),
      bounds: b.shape.kind === 'turned' ? spaceBounds(b.shape.turned) : b.shape.measure.bounds,
    })),
    {
      name: w.name,
      material: w.brief.material ?? 'material open',
      bodies: bodies.map((b) => b.name || b.id),
    },
  )

/** The sharp circles all round on a body. */
function roundsOf({ shape }: Body): Round[] {
  if (shape.kind === 'turned') {
    const b = shape.turned
    return isWhole(b)
      ? cornersOf(b)
          .filter((c) => isSharp(c) && c.at[0] > 1e-6)
          .map(({ at: [r, z] }) => ({
            origin: toSpace(b.frame, 0, 0, z),
            dir: b.frame.z,
            radius: r,
          }))
      : []
  }
  const circles = new Map<string, { round: Round; length: number }>()
  for (const { circle, length, bend } of shape.edges) {
    if (!circle || bend === 'smooth') continue
    const key = [...circle.origin, circle.radius].map((x) => x.toFixed(4)).join()
    const known = circles.get(key)
    circles.set(key, { round: circle, length: length + (known?.length ?? 0) })
  }
  // A circle may be in several edges; an arc is none.
  return [...circles.values()].flatMap(({ round, length }) =>
    length > 2 * Math.PI * round.radius * (1 - 1e-6) ? [round] : [],
  )
}

/** The lines of a body's sharp edges, six numbers a piece. */
function edgeLines({ shape }: Body): Float32Array {
  if (shape.kind === 'turned') return displayMesh(shape.turned, SHOWN).lines
  const { lines, edgeOf } = shape.shown
  const sharp: number[] = []
  for (let i = 0; i < edgeOf.length; i++)
    if (shape.edges[edgeOf[i]!]!.bend !== 'smooth') sharp.push(...lines.subarray(6 * i, 6 * i + 6))
  return Float32Array.from(sharp)
}
