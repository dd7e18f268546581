import type { Manifold, ManifoldToplevel } from 'manifold-3d'
import type { P3 } from '../math'
import { countEdges, edgeWords } from './edges'
import { type FacedMesh, weldFaced } from './faced'
import type { TriMesh } from './types'

/** A mesh that is no closed body, with where it is not. */
export class MeshError extends Error {
  override name = 'MeshError'
  readonly places: readonly P3[]
  constructor(message: string, places: readonly P3[] = []) {
    super(message)
    this.places = places
  }
}

/** A result, and for each of its faces the mesh and the face it comes from; null for one newly made. */
export interface MeshCombined {
  mesh: FacedMesh
  from: ({ mesh: number; face: number } | null)[]
}

/** Loads what combines meshes. In a browser `wasmUrl` says where its WebAssembly file is served. */
export async function loadMeshSolids(wasmUrl?: string): Promise<MeshSolids> {
  const { default: load } = await import('manifold-3d')
  const made = await load(wasmUrl ? { locateFile: () => wasmUrl } : undefined)
  made.setup()
  return new MeshSolids(made)
}

/** Closed meshes combined, cut and taken apart; every result closes. Coordinates are single precision. */
export class MeshSolids {
  readonly #of: ManifoldToplevel
  constructor(of: ManifoldToplevel) {
    this.#of = of
  }

  /** The first joined with, cut by or met with all the others. Throws `MeshError`. */
  combine(how: 'join' | 'cut' | 'meet', meshes: readonly FacedMesh[]): MeshCombined {
    return this.#with(meshes, (given, base) =>
      this.#taken(this.#combined(how, given), base, meshes.length),
    )
  }

  #combined(how: 'join' | 'cut' | 'meet', given: readonly Manifold[]): Manifold {
    const { Manifold } = this.#of
    const [first, ...others] = given as [Manifold, ...Manifold[]]
    if (how === 'join') return Manifold.union([...given])
    return how === 'cut' ? Manifold.difference([...given]) : first.intersect(Manifold.union(others))
  }

  /** The parts of a mesh on either side of a plane, the one its normal points to first. */
  cutAt(mesh: FacedMesh, normal: P3, height: number): [MeshCombined, MeshCombined] {
    return this.#with([mesh], ([m], base) => {
      const [front, back] = m!.splitByPlane(normal, height)
      return [this.#taken(front, base, 1), this.#taken(back, base, 1)]
    })
  }

  /** The pieces of a mesh that do not hang together. */
  apart(mesh: FacedMesh): MeshCombined[] {
    return this.#with([mesh], ([m], base) => m!.decompose().map((x) => this.#taken(x, base, 1)))
  }

  /** The mesh with fewer triangles, moved by no more than `off` mm. */
  simplified(mesh: TriMesh, off: number): TriMesh {
    const whole = { ...mesh, faceOf: new Uint32Array(mesh.triangles.length / 3) }
    return this.#with([whole], ([m], base) => this.#taken(m!.simplify(off), base, 1).mesh)
  }

  /**
   * What meshes make together, and what another (none where it is null) has more and less than that; null for what holds less than
   * `nothing` mm3. Throws `MeshError`.
   */
  against(
    how: 'join' | 'cut' | 'meet',
    meshes: readonly FacedMesh[],
    own: FacedMesh | null,
    nothing: number,
  ): { made: TriMesh; more: TriMesh | null; less: TriMesh | null } {
    return this.#with(own ? [own, ...meshes] : meshes, (all) => {
      const [other, given] = own ? [all[0]!, all.slice(1)] : [null, all]
      const made = this.#combined(how, given)
      const rest = (m: Manifold) => {
        const mesh = m.volume() < nothing ? null : plain(m)
        m.delete()
        return mesh
      }
      const more = other && rest(other.subtract(made))
      const mesh = plain(made)
      // Against none, all of it is missing.
      const less = rest(other ? made.subtract(other) : made)
      if (other) made.delete()
      return { made: mesh, more, less }
    })
  }

  /** The volume two closed meshes share, mm3. */
  shared(a: FacedMesh, b: FacedMesh): number {
    return this.#with([a, b], ([x, y]) => {
      const both = x!.intersect(y!)
      const volume = both.volume()
      both.delete()
      return volume
    })
  }

  /** The least distance between two closed meshes, mm, as far as `most`; 0 where they touch or cross. */
  gap(a: FacedMesh, b: FacedMesh, most: number): number {
    return this.#with([a, b], ([x, y]) => x!.minGap(y!, most))
  }

  #with<T>(meshes: readonly FacedMesh[], work: (given: Manifold[], base: number) => T): T {
    const { Manifold, Mesh } = this.#of
    const base = Manifold.reserveIDs(meshes.length)
    const given: Manifold[] = []
    try {
      for (const [i, m] of meshes.entries()) {
        const welded = weldFaced(m)
        const mesh = new Mesh({
          numProp: 3,
          vertProperties: Float32Array.from(welded.positions),
          triVerts: welded.triangles,
          faceID: welded.faceOf,
          runIndex: Uint32Array.of(0, welded.triangles.length),
          runOriginalID: Uint32Array.of(base + i),
        })
        try {
          given.push(Manifold.ofMesh(mesh))
        } catch {
          const edges = countEdges(welded)
          throw new MeshError(`The mesh is not closed: ${edgeWords(edges)}.`, edges.places)
        }
      }
      return work(given, base)
    } finally {
      for (const m of given) m.delete()
    }
  }

  /** The result as plain arrays, its faces numbered by what they come from. */
  #taken(made: Manifold, base: number, count: number): MeshCombined {
    const { vertProperties, triVerts, faceID, runIndex, runOriginalID } = made.getMesh()
    made.delete()
    const from: MeshCombined['from'] = []
    const numbers = new Map<string, number>()
    const faceOf = new Uint32Array(triVerts.length / 3)
    for (let r = 0; r < runOriginalID.length; r++) {
      const mesh = runOriginalID[r]! - base
      const old = mesh >= 0 && mesh < count
      for (let t = runIndex[r]! / 3; t < runIndex[r + 1]! / 3; t++) {
        const key = old ? `${mesh} ${faceID[t]}` : 'new'
        let n = numbers.get(key)
        if (n === undefined) {
          n = from.push(old ? { mesh, face: faceID[t]! } : null) - 1
          numbers.set(key, n)
        }
        faceOf[t] = n
      }
    }
    return { mesh: { positions: vertProperties, triangles: triVerts, faceOf }, from }
  }
}

/** A result as plain triangles. */
function plain(m: Manifold): TriMesh {
  const { vertProperties, triVerts } = m.getMesh()
  return { positions: vertProperties, triangles: triVerts }
}
