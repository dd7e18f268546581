import { leastStrain, type Strain } from './flat'
import {
  areaOf,
  largest,
  lineLength,
  linesIn,
  type Region,
  type SurfaceGrid,
  turning,
} from './grid'

/** How often the part of a face that stretches too much is made smaller by halves. */
const HALVES = 5
/** Lines of nodes each way that a region is flattened by while it is sought, and for what is told. */
const [ROUGH, FINE] = [9, 17]
/** The ways a region is made smaller about its middle: both sides alike, one alone. */
const WAYS: readonly (readonly [number, number])[] = [
  [1, 1],
  [1, 0],
  [0, 1],
]

/** A region of a face that a flat label lies on, its strain, its area (mm2) and its first and last side each way (mm). */
export interface LabelPanel {
  region: Region
  /** Whether it is all that lies within the outline of the face. */
  whole: boolean
  strain: Strain
  area: number
  /** The way it bends more. */
  round: [number, number]
  along: [number, number]
}

/**
 * The largest region of a face (of lines of its surface) on which a flat label lies that may be stretched or pushed together by a
 * share: all that lies within its outline where that is so, else the largest about its middle; null where not a cell of it holds.
 */
export function labelPanel(grid: SurfaceGrid, stretch: number): LabelPanel | null {
  const all = largest(grid)
  if (!all) return null
  const holds = (region: Region, lines: number): Strain | null => {
    const strain = leastStrain(grid, region, lines)
    return strain && Math.max(strain.high, -strain.low) <= stretch ? strain : null
  }
  const whole = holds(all, FINE)
  if (whole) return told(grid, all, whole, true)
  const part = (way: readonly [number, number], share: number): Region => ({
    u: about(all.u, way[0] ? share : 1),
    v: about(all.v, way[1] ? share : 1),
  })
  let best: LabelPanel | null = null
  for (const way of WAYS) {
    let [least, most] = [0, 1]
    for (let k = 0; k < HALVES; k++) {
      const share = (least + most) / 2
      if (holds(part(way, share), ROUGH)) least = share
      else most = share
    }
    // Finer lines may stretch a little more.
    for (let share = least; share > 0; share -= 0.5 ** HALVES) {
      const region = part(way, share)
      if (areaOf(grid, region) <= (best?.area ?? 0)) break
      const strain = holds(region, FINE)
      if (!strain) continue
      best = told(grid, region, strain, false)
      break
    }
  }
  return best
}

function told(grid: SurfaceGrid, region: Region, strain: Strain, whole: boolean): LabelPanel {
  const [u, v] = [sides(grid, region, 0), sides(grid, region, 1)]
  const across = turning(grid, region, 0) >= turning(grid, region, 1)
  const area = areaOf(grid, region)
  return { region, whole, strain, area, round: across ? u : v, along: across ? v : u }
}

/** A share of a span about its middle, a cell at least. */
function about([from, to]: readonly [number, number], share: number): [number, number] {
  const cells = Math.max(1, Math.round(share * (to - from)))
  const first = Math.round((from + to - cells) / 2)
  return [first, first + cells]
}

function sides(grid: SurfaceGrid, region: Region, way: 0 | 1): [number, number] {
  const lines = linesIn(grid, region, way)
  return [lineLength(grid, lines[0]!, way), lineLength(grid, lines[lines.length - 1]!, way)]
}
