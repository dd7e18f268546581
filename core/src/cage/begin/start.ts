import type { P3 } from '../../math'
import type { Cage, CageFace, CageRow } from '../layout'

const bare = (
  points: { name: string; at: P3 }[],
  faces: CageFace[],
  rows: CageRow[] = [],
): Cage => ({
  layout: { points: points.map((p) => p.name), faces, creases: new Map(), peaks: new Map(), rows },
  at: Float64Array.from(points.flatMap((p) => p.at)),
})

/** Rings about z, one above the other, in `startLayers`. */
export const startCylinder = (
  columns: number,
  rings: readonly { radius: number; z: number }[],
  shut: { floor: boolean; lid: boolean },
): Cage =>
  startLayers(
    rings.map(({ radius, z }) =>
      Array.from({ length: columns }, (_, c): P3 => {
        const a = (2 * Math.PI * c) / columns
        return [radius * Math.cos(a), radius * Math.sin(a), z]
      }),
    ),
    shut,
  )

/**
 * Rings of as many points, one above the other and against the clock seen from above: point `row.column`, face `frow.column` above and
 * after it. An end is left open or shut by one face, `floor` or `lid`.
 */
export function startLayers(
  rings: readonly (readonly P3[])[],
  shut: { floor: boolean; lid: boolean },
): Cage {
  const columns = rings[0]!.length
  const points = rings.flatMap((ring, r) => ring.map((at, c) => ({ name: `${r}.${c}`, at })))
  const at = (r: number, c: number) => r * columns + (c % columns)
  const round = Array.from({ length: columns }, (_, c) => c)
  const faces: CageFace[] = rings.slice(1).flatMap((_, r) =>
    round.map((c) => ({
      name: `f${r}.${c}`,
      corners: [at(r, c), at(r, c + 1), at(r + 1, c + 1), at(r + 1, c)],
    })),
  )
  if (shut.floor) faces.push({ name: 'floor', corners: round.map((c) => at(0, columns - 1 - c)) })
  if (shut.lid) faces.push({ name: 'lid', corners: round.map((c) => at(rings.length - 1, c)) })
  return bare(
    points,
    faces,
    rings.map((_, r) => ({ name: String(r), points: round.map((c) => at(r, c)) })),
  )
}

/** A grid over [-x/2, x/2] by [-y/2, y/2], m by n faces looking up: point `j.i`, rows along x. */
export function startPlane(size: readonly [number, number], m: number, n: number): Cage {
  const points = Array.from({ length: (m + 1) * (n + 1) }, (_, k) => {
    const [i, j] = [k % (m + 1), Math.floor(k / (m + 1))]
    return { name: `${j}.${i}`, at: [(i / m - 0.5) * size[0], (j / n - 0.5) * size[1], 0] as P3 }
  })
  const at = (i: number, j: number) => j * (m + 1) + i
  const faces = Array.from({ length: m * n }, (_, k) => {
    const [i, j] = [k % m, Math.floor(k / m)]
    return { name: `f${j}.${i}`, corners: [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)] }
  })
  const rows = Array.from({ length: n + 1 }, (_, j) => ({
    name: String(j),
    points: Array.from({ length: m + 1 }, (_, i) => at(i, j)),
  }))
  return bare(points, faces, rows)
}

/** A box about the z axis standing on z = 0, so many faces along each side; its points lie on a ball where it is `round`. */
export function startBox(size: P3, counts: P3, round: boolean): Cage {
  const numbers = new Map<string, number>()
  const points: { name: string; at: P3 }[] = []
  const point = (i: number, j: number, k: number): number => {
    const name = `${i}.${j}.${k}`
    const known = numbers.get(name)
    if (known !== undefined) return known
    const s = [2 * (i / counts[0]) - 1, 2 * (j / counts[1]) - 1, 2 * (k / counts[2]) - 1] as const
    const far = round ? Math.hypot(...s) : 1
    const place = s.map((x, d) => (x / far / 2) * size[d]!) as unknown as P3
    points.push({ name, at: [place[0], place[1], place[2] + size[2] / 2] })
    numbers.set(name, points.length - 1)
    return points.length - 1
  }
  const faces: CageFace[] = []
  const side = (axis: 0 | 1 | 2, end: boolean, name: string): void => {
    const [a, b] = [((axis + 1) % 3) as 0 | 1 | 2, ((axis + 2) % 3) as 0 | 1 | 2]
    for (let p = 0; p < counts[a]; p++)
      for (let q = 0; q < counts[b]; q++) {
        const at = (x: number, y: number) => {
          const ijk = [0, 0, 0]
          ijk[axis] = end ? counts[axis] : 0
          ijk[a] = x
          ijk[b] = y
          return point(ijk[0]!, ijk[1]!, ijk[2]!)
        }
        const corners = [at(p, q), at(p + 1, q), at(p + 1, q + 1), at(p, q + 1)]
        faces.push({ name: `${name}${p}.${q}`, corners: end ? corners : corners.reverse() })
      }
  }
  side(0, true, 'right')
  side(0, false, 'left')
  side(1, true, 'back')
  side(1, false, 'front')
  side(2, true, 'top')
  side(2, false, 'bottom')
  return bare(points, faces)
}

/** A ring about z: `columns` round the axis, `around` round its section; point `row.column`, rows run round the axis. */
export function startRing(radius: number, section: number, columns: number, around: number): Cage {
  const at = (r: number, c: number) => (r % around) * columns + (c % columns)
  const points = Array.from({ length: columns * around }, (_, k) => {
    const [c, r] = [k % columns, Math.floor(k / columns)]
    const [a, b] = [(2 * Math.PI * c) / columns, (2 * Math.PI * r) / around]
    const out = radius + section * Math.cos(b)
    return {
      name: `${r}.${c}`,
      at: [out * Math.cos(a), out * Math.sin(a), section * Math.sin(b)] as P3,
    }
  })
  const faces = Array.from({ length: columns * around }, (_, k) => {
    const [c, r] = [k % columns, Math.floor(k / columns)]
    return { name: `f${r}.${c}`, corners: [at(r, c), at(r, c + 1), at(r + 1, c + 1), at(r + 1, c)] }
  })
  const rows = Array.from({ length: around }, (_, r) => ({
    name: String(r),
    points: Array.from({ length: columns }, (_, c) => at(r, c)),
  }))
  return bare(points, faces, rows)
}

/** Any faces over given points; those no face has are left out. Point k is called `pk`, face k `fk`. */
export function startGiven(places: readonly P3[], faces: readonly (readonly number[])[]): Cage {
  const used = [...new Set(faces.flat())].filter((p) => p < places.length).sort((a, b) => a - b)
  const now = new Map(used.map((p, k) => [p, k]))
  return bare(
    used.map((p) => ({ name: `p${p}`, at: places[p]! })),
    // A corner that is not there is taken for the first: the table then refuses the face with its place.
    faces.map((f, k) => ({ name: `f${k}`, corners: f.map((p) => now.get(p) ?? 0) })),
  )
}
