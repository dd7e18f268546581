import { breaksOf } from './basis'
import { evaluate, jet, type Patch } from './patch'

/** Steps on each span of a patch, and at most over all of it. */
const [PER, MOST] = [3, 150]

/** Triangles that show patches before they are anything else: places as three numbers, corners of triangles. */
export interface ShownSkin {
  positions: Float32Array
  triangles: Uint32Array
  /** Of the places, where they are known better than by the triangles. */
  normals?: Float32Array
}

/** Patches as even grids of triangles, as fine as their spans ask for. */
export function shownSkin(patches: readonly Patch[]): ShownSkin {
  const steps = (breaks: number) => Math.max(2, Math.min(MOST, PER * (breaks - 1)))
  const grids = patches.map(
    (s) => [steps(breaksOf(s.u).length), steps(breaksOf(s.v).length)] as const,
  )
  const places = grids.reduce((n, [a, b]) => n + (a + 1) * (b + 1), 0)
  const positions = new Float32Array(3 * places)
  const triangles = new Uint32Array(6 * grids.reduce((n, [a, b]) => n + a * b, 0))
  const j = jet()
  let [at, next] = [0, 0]
  for (const [k, s] of patches.entries()) {
    const [nu, nv] = grids[k]!
    for (let a = 0; a <= nu; a++)
      for (let b = 0; b <= nv; b++) {
        evaluate(s, a / nu, b / nv, 0, j)
        const i = at + a * (nv + 1) + b
        positions.set(j.p, 3 * i)
        if (a === nu || b === nv) continue
        triangles.set([i, i + nv + 1, i + nv + 2, i, i + nv + 2, i + 1], next)
        next += 6
      }
    at += (nu + 1) * (nv + 1)
  }
  return { positions, triangles }
}
