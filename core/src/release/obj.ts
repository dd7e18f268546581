import type { TriMesh } from '../mesh'

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
