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

/** The meshes of an OBJ text, one an object, faces of more than three corners as fans. */
export function readObj(text: string): Outcome<TriMesh[]> {
  const positions: number[] = []
  const objects: number[][] = []
  for (const raw of text.split('\n')) {
    const [word, ...rest] = raw.trim().split(/\s+/)
    if (word === 'o' || word === 'g') objects.push([])
    else if (word === 'v') positions.push(...rest.slice(0, 3).map(Number))
    else if (word === 'f') {
      const last = objects[objects.length - 1] ?? objects[objects.push([]) - 1]!
      const corners = rest.map((c) => {
        const i = Number(c.split('/')[0])
        return i < 0 ? positions.length / 3 + i : i - 1
      })
      for (let k = 2; k < corners.length; k++) last.push(corners[0]!, corners[k - 1]!, corners[k]!)
    }
  }
  const n = positions.length / 3
  const filled = objects.filter((o) => o.length > 0)
  if (filled.length === 0) return bad('empty-obj', 'The OBJ file holds no triangle.')
  if (
    !positions.every(Number.isFinite) ||
    !filled.flat().every((i) => Number.isInteger(i) && i >= 0 && i < n)
  )
    return bad(
      'bad-obj',
      'The OBJ file holds places or corners that are not numbers, or not there.',
    )
  return good(filled.map((t) => onlyUsed(positions, t)))
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
