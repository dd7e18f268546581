import { bad, good, type Outcome } from '../../math'
import type { TriMesh } from '../types'
import { ofPolygons } from './polygons'

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
  return good(objects.map((faces) => ofPolygons(positions, faces)))
}
