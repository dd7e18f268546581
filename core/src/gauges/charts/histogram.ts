import { cellArea, type WallField } from '../../mesh'

/** How much of a surface lies over walls of a width: bands (mm) and their share of what has a wall. */
export interface WallHistogram {
  from: number[]
  to: number[]
  share: number[]
}

const BANDS = 30

/** A wall as it was read all over a surface in even bands, weighed by area. */
export function wallHistogram({ cells, walls, min, max }: WallField): WallHistogram {
  const width = Math.max(1e-3, (max.wall - min.wall) / BANDS)
  const share = Array.from({ length: BANDS }, () => 0)
  let whole = 0
  for (let c = 0; c < walls.length; c++) {
    const wall = walls[c]!
    if (Number.isNaN(wall)) continue
    const area = cellArea(cells, 9 * c)
    whole += area
    const band = Math.min(BANDS - 1, Math.max(0, Math.floor((wall - min.wall) / width)))
    share[band]! += area
  }
  const from = share.map((_, i) => min.wall + i * width)
  return { from, to: from.map((f) => f + width), share: share.map((s) => s / (whole || 1)) }
}
