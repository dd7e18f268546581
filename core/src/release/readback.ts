import type { Kernel } from '../kernel'
import { bad, fixed, good, MODEL, type Outcome, type P3 } from '../math'
import { edgeWords, type MeshFormat, type MeshMeasure, measureMesh, readMeshes } from '../mesh'

/** What a body is known to be before it leaves. */
export interface Leaving {
  name: string
  /** "#rrggbb", of formats that carry colours. */
  color?: string
  /** mm3, of what is written: the solid, or its triangles. */
  volume: number
  /** Loose parts it consists of. */
  solids: number
  /** mm2, of a solid whose surfaces are only kept to the modelling tolerance, as offset ones are. */
  area?: number
}

/**
 * Volumes read back may differ by this share: single-precision coordinates of thin walls for meshes; for
 * solids what the kernel's own quadrature is off near poles.
 */
const SAME = { mesh: 1e-5, step: 2e-6 }

/** Reads the bytes of a triangle file again: every body there, closed, of the volume that was written. */
export function rereadMeshes(
  format: MeshFormat,
  bytes: Uint8Array,
  bodies: readonly Leaving[],
): Outcome<MeshMeasure[]> {
  const read = readMeshes(format, bytes)
  if (!read.ok) return read
  const measures = read.value.map(measureMesh)
  // STL knows no bodies: all of it is one mesh.
  const wanted =
    format === 'stl'
      ? [{ name: 'the piece', volume: bodies.reduce((v, b) => v + b.volume, 0) }]
      : bodies
  if (measures.length !== wanted.length)
    return refused(`it holds ${measures.length} bodies, not ${wanted.length}`)
  for (const [i, m] of measures.entries()) {
    const { name, volume } = wanted[i]!
    if (!m.closed)
      return refused(`${name} is not closed: ${edgeWords(m.edges)}${placeWords(m.edges.places)}`)
    const off = Math.abs(m.volume / volume - 1)
    if (!(off <= SAME.mesh)) return refused(`the volume of ${name} is off by ${percent(off)}`)
  }
  return good(measures)
}

/** Reads the bytes of a STEP file again: as many solids, each closed, valid and of the volume written. */
export function rereadStep(
  kernel: Kernel,
  bytes: Uint8Array,
  bodies: readonly Leaving[],
): Outcome<{ off: number }> {
  const unsaid = unsaidIn(new TextDecoder().decode(bytes), bodies)
  if (unsaid) return refused(unsaid)
  const back = kernel.fromStep(bytes)
  const parts = kernel.solidsOf(back)
  try {
    const measures = parts.map((p) => kernel.measure(p))
    const solids = bodies.reduce((n, b) => n + b.solids, 0)
    if (measures.length !== solids)
      return refused(`${measures.length} solids come back where ${solids} were written`)
    let off = 0
    for (const { name, volume, solids: own, area = 0 } of bodies) {
      const mine = measures.splice(0, own)
      if (mine.some((m) => !m.closed)) return refused(`${name} comes back open`)
      if (mine.some((m) => !m.valid)) return refused(`${name} comes back broken`)
      const share = Math.abs(mine.reduce((v, m) => v + m.volume, 0) / volume - 1)
      const allowed = Math.max(SAME.step, (MODEL * area) / volume)
      if (!(share <= allowed) || mine.some((m) => !(m.volume > 0)))
        return refused(`the volume of ${name} is off by ${percent(share)}`)
      off = Math.max(off, share)
    }
    return good({ off })
  } finally {
    for (const h of [back, ...parts]) kernel.free(h)
  }
}

/** Which name or colour a STEP text does not carry, if any. */
function unsaidIn(text: string, bodies: readonly Leaving[]): string | null {
  const inks = [...text.matchAll(/COLOUR_RGB\('[^']*',([^)]*)\)/g)].map((m) =>
    m[1]!.split(',').map(Number),
  )
  for (const { name, color } of bodies) {
    const quoted = name.replace(/\\/g, '\\\\').replace(/'/g, "''")
    if (!text.includes(`PRODUCT('${quoted}'`)) return `the name ${name} is not in it`
    if (!color) continue
    const parts = [1, 3, 5].map((k) => Number.parseInt(color.slice(k, k + 2), 16) / 255)
    // Pure colours are written by their names.
    const pure = parts.every((c) => c === 0 || c === 1)
    if (!pure && !inks.some((ink) => parts.every((c, k) => Math.abs(c - ink[k]!) < 2e-3)))
      return `the colour of ${name} is not in it`
  }
  return null
}

const refused = (why: string) =>
  bad(
    'reads-wrong',
    `Read again, the file is not what it should be, so it is not given out: ${why}.`,
  )

const percent = (x: number): string => `${Number((100 * x).toPrecision(3))} %`

/** " (near 1.2 / 0.4 / 3.0)": where something is, for a sentence. */
export const placeWords = (places: readonly P3[]): string =>
  places.length === 0
    ? ''
    : ` (near ${places.map((p) => p.map((x) => fixed(x, 1)).join(' / ')).join('; ')})`
