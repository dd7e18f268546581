/** Triangles with the normals (out of the material) of the surface at their corners. */
export interface NormalMesh {
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
  /** The face of each triangle; all are of one where it is left out. */
  faceOf?: Uint32Array
}

/** Principal curvatures at each vertex, 1/mm: positive where the surface bulges out of the material, `most` >= `least`. */
export interface Bends {
  most: Float32Array
  least: Float32Array
}

/** Below this share of a full fit the edges about a vertex all run nearly one way, and say nothing of the other. */
const THIN = 1e-3

/** Share of what the normals turn that a fit may leave unexplained; beyond it the normal there is none, as at a pole. */
const ASTRAY = 0.2

/**
 * Principal curvatures from how the normals turn along the edges about each vertex: the second fundamental form by least
 * squares, edges weighed by their inverse square length (after S. Rusinkiewicz, "Estimating curvatures and their derivatives
 * on triangle meshes", 2004). Exact on planes, cylinders and spheres with true normals, of first order in the length of the
 * edges elsewhere. Vertices are not shared between faces that meet at an angle, so an edge of the body bends nothing. Where a
 * surface has no normal (a pole, the tip of a cone) the mean of what lies beside is told.
 */
export function bendsOf(mesh: NormalMesh): Bends {
  const { positions, normals, triangles } = mesh
  const count = positions.length / 3
  const frames = new Float64Array(6 * count)
  for (let v = 0; v < count; v++) frameAt(normals, v, frames)
  const out = { most: new Float32Array(count), least: new Float32Array(count) }
  const nowhere = new Uint8Array(count)
  let left = fit(mesh, frames, nowhere, out)
  const astray = worstAbout(triangles, left)
  markUnsure(mesh, out, astray)
  // Those beside a pole are read again without it.
  if (astray.includes(1)) left = fit(mesh, frames, astray, out)
  for (let v = 0; v < count; v++) if (Number.isNaN(left[v])) astray[v] = 1
  smoothOver(astray, triangles, out)
  return out
}

/** Fits the form at each vertex by its edges to vertices that are not left out; gives the share it leaves unexplained, NaN where there is no fit. */
function fit(
  { positions, normals, triangles }: NormalMesh,
  frames: Float64Array,
  without: Uint8Array,
  { most, least }: Bends,
): Float32Array {
  // Sums of the normal equations of (L, M, N) at each vertex: aa, ab, bb, the three of the right side, and of the normals.
  const sums = new Float64Array(SUMS * most.length)
  for (let i = 0; i < triangles.length; i++) {
    const v = triangles[i]!
    const next = triangles[i % 3 === 2 ? i - 2 : i + 1]!
    if (without[v] || without[next]) continue
    // Inner edges come twice, edges of the rim once: both ways each time.
    addEdge(positions, normals, frames, sums, v, next)
    addEdge(positions, normals, frames, sums, next, v)
  }
  const left = new Float32Array(most.length)
  for (let v = 0; v < most.length; v++) {
    const k = SUMS * v
    const [aa, ab, bb] = [sums[k]!, sums[k + 1]!, sums[k + 2]!]
    const [p, q, r] = [sums[k + 3]!, sums[k + 4]!, sums[k + 5]!]
    // | aa ab 0 | | ab aa+bb ab | | 0 ab bb | (L, M, N) = (p, q, r)
    const size = aa + bb
    const det = aa * (size * bb - ab * ab) - ab * (ab * bb)
    left[v] = Number.NaN
    if (!(det > THIN * size ** 3)) continue
    const L = (p * (size * bb - ab * ab) - ab * (q * bb - ab * r)) / det
    const M = (aa * (q * bb - ab * r) - p * ab * bb) / det
    const N = (aa * (size * r - ab * q) - ab * ab * r + p * ab * ab) / det
    const turned = sums[k + 6]!
    left[v] = turned > 0 ? 1 - (L * p + M * q + N * r) / turned : 0
    const mean = (L + N) / 2
    const half = Math.hypot((L - N) / 2, M)
    most[v] = mean + half
    least[v] = mean - half
  }
  return left
}

/** Normals in one place that differ by more are of faces that meet at an edge, rad. */
const EDGE = 0.3
/** Share of a curvature by which it may be off for what normals in one place disagree by. */
const OFF = 0.1

/**
 * Marks places at which a face is told to have several normals that are nearly one, or three faces do: there is none, as at a
 * pole. Where two faces meet at a slight kink each has its own.
 */
function markUnsure(
  { positions, normals, triangles, faceOf }: NormalMesh,
  { most, least }: Bends,
  astray: Uint8Array,
): void {
  const reach = new Float32Array(astray.length).fill(Number.POSITIVE_INFINITY)
  const face = new Uint32Array(astray.length)
  for (let i = 0; i < triangles.length; i++) {
    const [v, w] = [triangles[i]!, triangles[i % 3 === 2 ? i - 2 : i + 1]!]
    face[v] = faceOf?.[Math.floor(i / 3)] ?? 0
    const l = apartAt(positions, v, w)
    if (l < reach[v]!) reach[v] = l
    if (l < reach[w]!) reach[w] = l
  }
  const disagree = (v: number, w: number): boolean => {
    const apart = apartAt(normals, v, w)
    const bend = Math.max(...[v, w].flatMap((x) => [Math.abs(most[x]!), Math.abs(least[x]!)]))
    const off = apart / Math.min(reach[v]!, reach[w]!)
    return apart < EDGE && off > OFF * bend && off > FLATTER
  }
  const at = new Map<string, number[]>()
  for (let v = 0; v < astray.length; v++) {
    const key = `${positions[3 * v]} ${positions[3 * v + 1]} ${positions[3 * v + 2]}`
    const there = at.get(key)
    if (there) there.push(v)
    else at.set(key, [v])
  }
  for (const there of at.values()) {
    if (there.length === 1) continue
    const others = there.filter((v) => there.some((w) => w !== v && disagree(v, w)))
    const alone = new Set(others.map((v) => face[v])).size === others.length
    if (others.length > 2 || !alone) for (const v of others) astray[v] = 1
  }
}
/** Curvatures under this are flat and may be off by as much, 1/mm. */
const FLATTER = 1e-4

const apartAt = (p: Float32Array, v: number, w: number): number =>
  Math.hypot(p[3 * v]! - p[3 * w]!, p[3 * v + 1]! - p[3 * w + 1]!, p[3 * v + 2]! - p[3 * w + 2]!)

/** Vertices that go astray, and more so than any beside them: these only have it from them. */
function worstAbout(triangles: Uint32Array, left: Float32Array): Uint8Array {
  const out = Uint8Array.from(left, (x) => (x > ASTRAY ? 1 : 0))
  for (let i = 0; i < triangles.length; i++) {
    const [v, w] = [triangles[i]!, triangles[i % 3 === 2 ? i - 2 : i + 1]!]
    if (left[v]! > left[w]!) out[w] = 0
    else if (left[w]! > left[v]!) out[v] = 0
  }
  return out
}

/** Gives vertices that went astray the mean of those beside them. */
function smoothOver(astray: Uint8Array, triangles: Uint32Array, { most, least }: Bends): void {
  const sums = new Map<number, [number, number, number]>()
  for (let i = 0; i < triangles.length; i++) {
    const v = triangles[i]!
    if (!astray[v]) continue
    const sum = sums.get(v) ?? [0, 0, 0]
    sums.set(v, sum)
    const t = i - (i % 3)
    for (let k = 0; k < 3; k++) {
      const w = triangles[t + k]!
      if (astray[w]) continue
      sum[0] += most[w]!
      sum[1] += least[w]!
      sum[2]++
    }
  }
  for (const [v, [m, l, n]] of sums) {
    most[v] = n > 0 ? m / n : 0
    least[v] = n > 0 ? l / n : 0
  }
}
const SUMS = 7

/** Two directions square to the normal of a vertex and to each other. */
function frameAt(normals: Float32Array, v: number, out: Float64Array): void {
  const [x, y, z] = [normals[3 * v]!, normals[3 * v + 1]!, normals[3 * v + 2]!]
  // Away from the axis the normal lies nearest to.
  const ax = Math.abs(x) <= Math.abs(y) && Math.abs(x) <= Math.abs(z)
  const ay = !ax && Math.abs(y) <= Math.abs(z)
  let [u0, u1, u2] = ax ? [0, z, -y] : ay ? [-z, 0, x] : [y, -x, 0]
  const l = Math.hypot(u0!, u1!, u2!) || 1
  u0 = u0! / l
  u1 = u1! / l
  u2 = u2! / l
  out[6 * v] = u0
  out[6 * v + 1] = u1
  out[6 * v + 2] = u2
  out[6 * v + 3] = y * u2 - z * u1
  out[6 * v + 4] = z * u0 - x * u2
  out[6 * v + 5] = x * u1 - y * u0
}

function addEdge(
  positions: Float32Array,
  normals: Float32Array,
  frames: Float64Array,
  sums: Float64Array,
  v: number,
  w: number,
): void {
  const dx = positions[3 * w]! - positions[3 * v]!
  const dy = positions[3 * w + 1]! - positions[3 * v + 1]!
  const dz = positions[3 * w + 2]! - positions[3 * v + 2]!
  const l2 = dx * dx + dy * dy + dz * dz
  if (!(l2 > 0)) return
  const mx = normals[3 * w]! - normals[3 * v]!
  const my = normals[3 * w + 1]! - normals[3 * v + 1]!
  const mz = normals[3 * w + 2]! - normals[3 * v + 2]!
  const f = 6 * v
  const a = dx * frames[f]! + dy * frames[f + 1]! + dz * frames[f + 2]!
  const b = dx * frames[f + 3]! + dy * frames[f + 4]! + dz * frames[f + 5]!
  const m = mx * frames[f]! + my * frames[f + 1]! + mz * frames[f + 2]!
  const n = mx * frames[f + 3]! + my * frames[f + 4]! + mz * frames[f + 5]!
  const k = SUMS * v
  sums[k]! += (a * a) / l2
  sums[k + 1]! += (a * b) / l2
  sums[k + 2]! += (b * b) / l2
  sums[k + 3]! += (a * m) / l2
  sums[k + 4]! += (b * m + a * n) / l2
  sums[k + 5]! += (b * n) / l2
  sums[k + 6]! += (m * m + n * n) / l2
}
