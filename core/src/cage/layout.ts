/** A face of a cage: its name and its points by number, running so that it looks out. */
export interface CageFace {
  readonly name: string
  readonly corners: readonly number[]
}
/** A ring of points that are shaped together, in its order. */
export interface CageRow {
  readonly name: string
  readonly points: readonly number[]
}

/** How the points of a cage hang together. Never changed in place. */
export interface Layout {
  /** Names of the points. */
  readonly points: readonly string[]
  readonly faces: readonly CageFace[]
  /** Sharpness of creased edges by `edgeKey`; `ENDLESS` and more never smooths out. */
  readonly creases: ReadonlyMap<string, number>
  /** Sharpness of points that stay corners. */
  readonly peaks: ReadonlyMap<number, number>
  readonly rows: readonly CageRow[]
}

/** A control mesh: a layout and three numbers (mm) a point. */
export interface Cage {
  readonly layout: Layout
  readonly at: Float64Array
}

/** Creases this sharp never smooth out. */
export const ENDLESS = 10

/** An edge by its points, whichever comes first. */
export const edgeKey = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`)
export const edgeOfKey = (key: string): [number, number] => {
  const [a, b] = key.split(' ')
  return [Number(a), Number(b)]
}

/** The edges of faces by their keys, each as the first face runs along it. */
export function edgesOf(
  faces: readonly { readonly corners: readonly number[] }[],
): Map<string, [number, number]> {
  const out = new Map<string, [number, number]>()
  for (const { corners } of faces)
    for (const [i, p] of corners.entries()) {
      const q = corners[(i + 1) % corners.length]!
      const key = edgeKey(p, q)
      if (!out.has(key)) out.set(key, [p, q])
    }
  return out
}

/** Points beside each point, by edges. */
export function neighbours({ layout }: Pick<Cage, 'layout'>): number[][] {
  const out: number[][] = layout.points.map(() => [])
  for (const [p, q] of edgesOf(layout.faces).values()) {
    out[p]!.push(q)
    out[q]!.push(p)
  }
  return out
}

/** The faces at each edge, by its key. */
export function facesAtEdges(
  faces: readonly { readonly corners: readonly number[] }[],
  of: Iterable<number> = faces.keys(),
): Map<string, number[]> {
  const out = new Map<string, number[]>()
  for (const f of of)
    for (const [i, p] of faces[f]!.corners.entries()) {
      const key = edgeKey(p, faces[f]!.corners[(i + 1) % faces[f]!.corners.length]!)
      const there = out.get(key)
      if (there) there.push(f)
      else out.set(key, [f])
    }
  return out
}
