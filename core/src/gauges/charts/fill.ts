import { type Basin, basinOf, type TriMesh } from '../../mesh'
import { brimVolume, type Cavity, cavityOf, filledTo, type TurnedBody } from '../../turned'

/** What a vessel holds by level: heights over its inside floor (mm) and volumes (ml), both rising. */
export interface FillCurve {
  heights: number[]
  volumes: number[]
  /** Height in space of the inside floor, mm. */
  floor: number
}

const POINTS = 120

/** Of a turned body by its half-section, of others by slices; null where it holds nothing. */
export function fillCurve(body: { turned: TurnedBody } | { mesh: TriMesh }): FillCurve | null {
  if ('turned' in body) {
    const cavity = cavityOf(body.turned)
    return cavity && brimVolume(cavity) > 0 ? ofCavity(cavity, body.turned.frame.origin[2]) : null
  }
  const basin = basinOf(body.mesh)
  return basin && basin.volume > 0 ? ofBasin(basin) : null
}

function ofCavity(c: Cavity, base: number): FillCurve {
  const heights = Array.from({ length: POINTS + 1 }, (_, k) => ((c.brim - c.floor) * k) / POINTS)
  return {
    heights,
    volumes: heights.map((h) => filledTo(c, c.floor + h).volume / 1000),
    floor: base + c.floor,
  }
}

function ofBasin({ slabs, floor, brim }: Basin): FillCurve {
  const heights = Array.from({ length: POINTS + 1 }, (_, k) => ((brim - floor) * k) / POINTS)
  const upTo = (z: number) =>
    slabs.reduce((sum, s) => sum + s.area * Math.max(0, Math.min(z, s.to) - s.from), 0) / 1000
  return { heights, volumes: heights.map((h) => upTo(floor + h)), floor }
}

/** The height at which a vessel holds a volume (ml), between the points of its curve; null beyond the brim. */
export function heightFor({ heights, volumes }: FillCurve, ml: number): number | null {
  const i = volumes.findIndex((v) => v >= ml)
  if (i < 0) return null
  if (i === 0) return heights[0]!
  const [a, b] = [volumes[i - 1]!, volumes[i]!]
  return heights[i - 1]! + (b > a ? ((ml - a) / (b - a)) * (heights[i]! - heights[i - 1]!) : 0)
}
