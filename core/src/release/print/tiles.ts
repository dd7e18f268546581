import type { P2 } from '../../math'

/** Papers by name, mm, upright. */
export const PAPERS = {
  A4: [210, 297],
  A3: [297, 420],
  Letter: [215.9, 279.4],
} as const satisfies Record<string, P2>
export type Paper = keyof typeof PAPERS

/** What stays free at each edge of a sheet, and how far one sheet shows what the next shows too, mm. */
export const MARGIN = 10
export const OVERLAP = 8
/** Room under the drawing for the bar and the words, mm. */
export const FOOT = 14

/** One sheet of several: its column and row from the lower left, and where its window begins on the whole drawing, mm. */
export interface Tile {
  column: number
  row: number
  from: P2
}
export interface Tiling {
  /** The sheet, mm: turned where fewer are needed so. */
  sheet: P2
  /** What a sheet shows of the drawing, mm. */
  window: P2
  columns: number
  rows: number
  tiles: Tile[]
}

const countOf = (long: number, window: number): number =>
  Math.max(1, Math.ceil((long - OVERLAP - 1e-6) / (window - OVERLAP)))

/** Sheets that a drawing of a size in mm goes on, each overlapping those beside it. */
export function tiling(size: P2, paper: Paper): Tiling {
  const [short, long] = PAPERS[paper]
  const ways = [
    [short, long],
    [long, short],
  ].map(([w, h]) => {
    const window: P2 = [w! - 2 * MARGIN, h! - 2 * MARGIN - FOOT]
    const [columns, rows] = [countOf(size[0], window[0]), countOf(size[1], window[1])]
    return { sheet: [w!, h!] as P2, window, columns, rows }
  })
  const best = ways.reduce((a, b) => (b.columns * b.rows < a.columns * a.rows ? b : a))
  const step = [best.window[0] - OVERLAP, best.window[1] - OVERLAP] as const
  const tiles = Array.from({ length: best.columns * best.rows }, (_, k): Tile => {
    const [column, row] = [k % best.columns, Math.floor(k / best.columns)]
    return { column, row, from: [column * step[0], row * step[1]] }
  })
  return { ...best, tiles }
}
