import { bad, good, type Outcome } from '../../math'
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

/** The places of an OBJ text and its faces as they are, object by object; corners count from 0. */
export function readObjFaces(
  text: string,
): Outcome<{ positions: number[]; objects: number[][][] }> {
  const positions: number[] = []
  const objects: number[][][] = []
  for (const raw of text.split('\n')) {
    const [word, ...rest] = raw.trim().split(/\s+/)
    if (word === 'o' || word === 'g') objects.push([])
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

/** The meshes of an OBJ text, one an object, faces of more than three corners as fans. */
export function readObj(text: string): Outcome<TriMesh[]> {
  const read = readObjFaces(text)
  if (!read.ok) return read
  const { positions, objects } = read.value
  return good(
    objects.map((faces) =>
      onlyUsed(
        positions,
        faces.flatMap((f) => f.slice(2).flatMap((c, k) => [f[0]!, f[k + 1]!, c])),
      ),
    ),
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
