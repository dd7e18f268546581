import { good, type Outcome } from '../../math'
import type { TriMesh } from '../types'
import { readObj } from './obj'
import { readPly } from './ply'
import { readStl } from './stl'
import { readThreeMf } from './threemfread'

export type MeshFormat = 'stl' | 'obj' | '3mf' | 'ply'

/** The meshes of a triangle file, mm; STL and PLY know no bodies, so all of it is one. */
export function readMeshes(format: MeshFormat, bytes: Uint8Array): Outcome<TriMesh[]> {
  if (format === 'obj') return readObj(new TextDecoder().decode(bytes))
  if (format === '3mf') return readThreeMf(bytes)
  const mesh = format === 'ply' ? readPly(bytes) : readStl(bytes)
  return mesh.ok ? good([mesh.value]) : mesh
}
