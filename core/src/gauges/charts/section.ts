import type { Frame, P3 } from '../../math'
import { sliceArea, type TriMesh } from '../../mesh'

/** Area of the section and mass up to it along an axis: places (mm in space), mm2, g. */
export interface SectionCurve {
  at: number[]
  area: number[]
  /** Null while the density is open. */
  mass: number[] | null
}

const PLANES: Record<'x' | 'y' | 'z', Frame> = {
  x: { origin: [0, 0, 0], x: [0, 1, 0], y: [0, 0, 1], z: [1, 0, 0] },
  y: { origin: [0, 0, 0], x: [0, 0, 1], y: [1, 0, 0], z: [0, 1, 0] },
  z: { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] },
}
const STEPS = 300

/** The sections of a closed mesh square to an axis, from one end to the other; density in g/cm3. */
export function sectionCurve(
  mesh: TriMesh,
  along: 'x' | 'y' | 'z',
  density: number | undefined,
): SectionCurve {
  const k = 'xyz'.indexOf(along)
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (let i = k; i < mesh.positions.length; i += 3) {
    low = Math.min(low, mesh.positions[i]!)
    high = Math.max(high, mesh.positions[i]!)
  }
  // In the middle of even slabs: faces square to the axis lie between them.
  const step = (high - low) / STEPS
  const at = Array.from({ length: STEPS }, (_, i) => low + (i + 0.5) * step)
  const plane = PLANES[along]
  const area = at.map((s) => {
    const origin = [0, 1, 2].map((j) => (j === k ? s : 0)) as unknown as P3
    return sliceArea(mesh, { ...plane, origin })
  })
  let sum = 0
  const mass =
    density === undefined
      ? null
      : area.map((a) => {
          sum += (a * step * density) / 1000
          return sum
        })
  return { at, area, mass }
}
