import { bad, good, type Outcome } from '../../math'
import type { TriMesh } from '../types'
import { closeSeams, weld } from '../weld'

/** Binary STL: 80-byte header, count, then 50 bytes a triangle. Coordinates in mm. */
export function writeStl(meshes: readonly TriMesh[], header = 'Ivory Lathe, mm'): Uint8Array {
  const count = meshes.reduce((n, m) => n + m.triangles.length / 3, 0)
  const out = new Uint8Array(84 + 50 * count)
  out.set(new TextEncoder().encode(header.slice(0, 79)))
  const view = new DataView(out.buffer)
  view.setUint32(80, count, true)
  let o = 84
  for (const { positions: p, triangles: t } of meshes) {
    for (let i = 0; i < t.length; i += 3) {
      const [a, b, c] = [3 * t[i]!, 3 * t[i + 1]!, 3 * t[i + 2]!]
      const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!]
      const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!]
      const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
      const size = Math.hypot(n[0]!, n[1]!, n[2]!) || 1
      for (const x of n) {
        view.setFloat32(o, x / size, true)
        o += 4
      }
      for (const v of [a, b, c]) {
        for (let k = 0; k < 3; k++) {
          view.setFloat32(o, p[v + k]!, true)
          o += 4
        }
      }
      o += 2
    }
  }
  return out
}

/**
 * A mesh from a binary or text STL file, equal vertices joined. A text is never taken for a binary file: what stands where that counts
 * its triangles would be 150 million of them. What follows the last triangle is left out.
 */
export function readStl(bytes: Uint8Array): Outcome<TriMesh> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length >= 84 && bytes.length >= 84 + 50 * view.getUint32(80, true)) {
    const n = view.getUint32(80, true)
    const soup = new Float32Array(9 * n)
    for (let i = 0; i < n; i++) {
      for (let k = 0; k < 9; k++) soup[9 * i + k] = view.getFloat32(84 + 50 * i + 12 + 4 * k, true)
    }
    return checked(soup)
  }
  const text = new TextDecoder().decode(bytes)
  if (!/^\s*solid\b/i.test(text))
    return bad('not-stl', 'The file is not an STL file, or it is cut short.')
  const soup = [...text.matchAll(/vertex\s+(\S+)\s+(\S+)\s+(\S+)/gi)].flatMap((m) =>
    [m[1], m[2], m[3]].map(Number),
  )
  return checked(Float32Array.from(soup))
}

function checked(soup: Float32Array): Outcome<TriMesh> {
  if (soup.length === 0 || soup.length % 9 !== 0)
    return bad('empty-stl', 'The STL file holds no whole triangle.')
  if (!soup.every(Number.isFinite))
    return bad('bad-stl', 'The STL file holds coordinates that are not numbers.')
  return good(closeSeams(weld(soup)))
}
