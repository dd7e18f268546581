import { freshId, mean3, placeAt, rounded } from '@ivory/core/math'
import type { CageEdit, ShownCage } from '@ivory/core/ops'

/** A row of a cage as a ring about z: how far out and how high it is on the whole, mm. */
export interface Ring {
  row: string
  radius: number
  height: number
}

/** A ring narrower than this is a place on the axis, which has no size, mm. */
const POINT = 1e-3
/** A row whose middle is farther from the z axis than this share of its radius does not go round it. */
const ASIDE = 0.25

/** The rings of a cage, in the order of its rows; none where a row does not go round the z axis. */
export function ringsOf({ rows, at }: Pick<ShownCage, 'rows' | 'at'>): Ring[] {
  const rings: Ring[] = []
  for (const { name, points } of rows) {
    const places = points.map((p) => placeAt(at, p))
    const radius = places.reduce((s, [x, y]) => s + Math.hypot(x, y), 0) / places.length
    const [x, y, height] = mean3(places)
    if (Math.hypot(x, y) > ASIDE * radius + POINT) return []
    rings.push({ row: name, radius, height })
  }
  return rings
}

/**
 * Edits after a ring was dragged to a radius and a height from where it stood: its row in the last edit is sized and lifted, where that
 * is one of rows whose figures are plain numbers; else one of rows is added.
 */
export function ringDragged(
  edits: readonly CageEdit[],
  from: Ring,
  to: { radius: number; height: number },
): CageEdit[] {
  const last = edits[edits.length - 1]
  const plain = (v: unknown, none: number) =>
    v === undefined ? none : typeof v === 'number' ? v : null
  const open = last?.kind === 'rows' && !last.off ? last : null
  const own = open?.rows.find((r) => r.row === from.row)
  const [size, lift] = [plain(own?.size, 1), plain(own?.lift, 0)]
  const fits = open !== null && size !== null && lift !== null
  const base = fits ? { ...own, size, lift } : { size: 1, lift: 0 }
  const row = {
    ...base,
    row: from.row,
    size: from.radius > POINT ? rounded((base.size * to.radius) / from.radius, 5) : base.size,
    lift: rounded(base.lift + to.height - from.height, 4),
  }
  if (fits)
    return [
      ...edits.slice(0, -1),
      { ...open, rows: [...open.rows.filter((r) => r.row !== from.row), row] },
    ]
  const id = freshId(
    edits.map((e) => e.id),
    'e',
  )
  return [...edits, { id, kind: 'rows', rows: [row] }]
}
