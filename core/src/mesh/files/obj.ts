import earcut from 'earcut'
import { add3, bad, cross3, dot3, good, type Outcome, type P3, placeAt, sub3 } from '../../math'
import type { TriMesh } from '../types'

/** Wavefront OBJ text, one named object a body, mm. */
export function writeObj(bodies: readonly { name: string; mesh: TriMesh }[]): string {
  const out = ['# mm']
  let base = 1
  for (const { name, mesh } of bodies) {
    out.push(`o ${name.replace(/\s+/g, '_')}`)
    const { positions: p, triangles: t } = mesh
    for (let i = 0; i < p.length; i += 3)
      out.push(`v ${p[i]!.toFixed(6)} ${p[i + 1]!.toFixed(6)} ${p[i + 2]!.toFixed(6)}`)
    for (let i = 0; i < t.length; i += 3)
      out.push(`f ${t[i]! + base} ${t[i + 1]! + base} ${t[i + 2]! + base}`)
    base += p.length / 3
  }
  return `${out.join('\n')}\n`
}

/**
 * The places of an OBJ text and its faces as they are, object by object (groups are parts of one); corners count from 0. What follows
 * a # is a comment, a line that ends with a stroke goes on in the next.
 */
export function readObjFaces(
  text: string,
): Outcome<{ positions: number[]; objects: number[][][] }> {
  const positions: number[] = []
  const objects: number[][][] = []
  for (const raw of text.replace(/\\\r?\n/g, ' ').split('\n')) {
    const [word, ...rest] = raw.replace(/#.*/, '').trim().split(/\s+/)
    if (word === 'o') objects.push([])
    else if (word === 'v') positions.push(...rest.slice(0, 3).map(Number))
    else if (word === 'f') {
      const last = objects[objects.length - 1] ?? objects[objects.push([]) - 1]!
      last.push(
        rest.map((c) => {
          const i = Number(c.split('/')[0])
          return i < 0 ? positions.length / 3 + i : i - 1
        }),
      )
    }
  }
  const n = positions.length / 3
  const filled = objects.filter((o) => o.some((f) => f.length > 2))
  if (filled.length === 0) return bad('empty-obj', 'The OBJ file holds no triangle.')
  if (
    !positions.every(Number.isFinite) ||
    !filled.flat(2).every((i) => Number.isInteger(i) && i >= 0 && i < n)
  )
    return bad(
      'bad-obj',
      'The OBJ file holds places or corners that are not numbers, or not there.',
    )
  return good({ positions, objects: filled })
}

/** The meshes of an OBJ text, one an object, corners that lie on each other as one. */
export function readObj(text: string): Outcome<TriMesh[]> {
  const read = readObjFaces(text)
  if (!read.ok) return read
  const { positions, objects } = read.value
  return good(
    objects.map((faces) =>
      weldSame(
        onlyUsed(
          positions,
          faces.flatMap((f) => parted(positions, f)),
        ),
      ),
    ),
  )
}

/** A face as triangles: one of many corners, which may turn in, is parted in the plane it looks out of most. */
function parted(all: readonly number[], face: readonly number[]): number[] {
  if (face.length < 3) return []
  if (face.length === 3) return [...face]
  const at = (c: number) => placeAt(all, c)
  let out: P3 = [0, 0, 0]
  for (const [i, c] of face.entries())
    out = add3(out, cross3(at(c), at(face[(i + 1) % face.length]!)))
  const size = out.map(Math.abs)
  const away = size.indexOf(Math.max(...size))
  const [u, v] = [0, 1, 2].filter((k) => k !== away) as [0 | 1 | 2, 0 | 1 | 2]
  const found = earcut(face.flatMap((c) => [at(c)[u], at(c)[v]]))
  // It gives triangles of either turn: they are to look where the face looks.
  return found.flatMap((_, i) => {
    if (i % 3 !== 0) return []
    const [a, b, c] = [0, 1, 2].map((k) => face[found[i + k]!]!) as [number, number, number]
    const n = cross3(sub3(at(b), at(a)), sub3(at(c), at(a)))
    return dot3(n, out) >= 0 ? [a, b, c] : [a, c, b]
  })
}

/** The mesh with corners at equal places as one, in the precision they have. */
function weldSame({ positions: p, triangles }: TriMesh): TriMesh {
  const index = new Map<string, number>()
  const to = Array.from({ length: p.length / 3 }, (_, v) => {
    const key = placeAt(p, v).join()
    if (!index.has(key)) index.set(key, v)
    return index.get(key)!
  })
  return onlyUsed(
    Array.from(p),
    Array.from(triangles, (v) => to[v]!),
  )
}

/** A mesh of the vertices its triangles use, out of a longer list. */
function onlyUsed(all: readonly number[], triangles: readonly number[]): TriMesh {
  const at = new Map<number, number>()
  const positions: number[] = []
  const numbered = triangles.map((v) => {
    const known = at.get(v)
    if (known !== undefined) return known
    const i = positions.push(all[3 * v]!, all[3 * v + 1]!, all[3 * v + 2]!) / 3 - 1
    at.set(v, i)
    return i
  })
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(numbered) }
}
