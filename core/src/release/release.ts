import type { Kernel, SolidHandle } from '../kernel'
import { bad, good, type Outcome } from '../math'
import { measureMesh, type TriMesh, weldIndexed } from '../mesh'
import type { Body, State } from '../ops'
import { areaOf, liftToSolid, solidMesh, volumeOf } from '../turned'
import { unpackFile, type Workpiece } from '../workpiece'
import { sectionDrawing } from './drawing'
import { writeObj } from './obj'
import { writeStl } from './stl'
import { writeThreeMf } from './threemf'

export const FORMATS = ['step', 'stl', '3mf', 'obj', 'svg'] as const
export type Format = (typeof FORMATS)[number]

/** Chord tolerances on offer, mm, and the largest turn between facets (rad) that goes with them. */
export const FINENESS = {
  coarse: { chord: 0.2, angle: 0.35 },
  normal: { chord: 0.05, angle: 0.2 },
  fine: { chord: 0.01, angle: 0.1 },
} as const

export interface ReleasedFile {
  name: string
  mime: string
  bytes: Uint8Array
  /** What was measured on the file's geometry, in words. */
  note: string
}

const MIME: Record<Format, string> = {
  step: 'model/step',
  stl: 'model/stl',
  '3mf': 'model/3mf',
  obj: 'model/obj',
  svg: 'image/svg+xml',
}
const PLAIN_COLOR = '#d9d2c0'

/** A file name from the workpiece's name: letters, digits and dashes. */
export const fileStem = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '') || 'workpiece'

/** The file that leaves the shop. `chord` (mm) bounds the deviation of triangle formats. */
export function release(
  w: Workpiece,
  state: State,
  format: Format,
  options: { chord?: number; angle?: number; kernel?: Kernel },
): Outcome<ReleasedFile> {
  const bodies = Object.values(state.bodies)
  if (bodies.length === 0) return bad('no-body', 'There is no body to release yet.')
  const chord = options.chord ?? FINENESS.normal.chord
  if (!(chord >= 0.0005 && chord <= 10))
    return bad('chord', 'The tolerance must lie between 0.0005 and 10 mm.')
  const angle = options.angle ?? FINENESS.normal.angle
  const file = (bytes: Uint8Array, note: string): Outcome<ReleasedFile> =>
    good({ name: `${fileStem(w.name)}.${format}`, mime: MIME[format], bytes, note })
  const text = (s: string) => new TextEncoder().encode(s)
  if (format === 'step') {
    if (!options.kernel)
      return bad('no-kernel', 'STEP needs the exact kernel, which is not loaded.')
    return stepFile(w, bodies, options.kernel, file)
  }
  if (format === 'svg') {
    const turned = bodies.map((b) => b.shape).find((s) => s.kind === 'turned')
    if (!turned) return bad('no-section', 'No body here has a half-section to draw.')
    return file(text(sectionDrawing(turned.turned, w.name)), 'half-section in real millimetres')
  }
  const { kernel } = options
  if (!kernel && bodies.some((b) => b.shape.kind === 'exact'))
    return bad('no-kernel', 'A body from a file needs the exact kernel, which is not loaded.')
  const meshed = bodies.map((b) => ({
    name: b.name,
    color: w.bodies[b.id]?.color ?? PLAIN_COLOR,
    mesh:
      b.shape.kind === 'turned'
        ? (solidMesh(b.shape.turned, { chord, angle }) as TriMesh)
        : exactMesh(w, b, kernel!, { chord, angle }),
    body: b,
  }))
  const checked = meshed.map((m) => ({ ...m, measure: measureMesh(m.mesh) }))
  const open = checked.find((m) => !m.measure.closed)
  if (open)
    return bad('not-closed', `The mesh of ${open.name} is not closed, so it is not written.`)
  const triangles = checked.reduce((n, m) => n + m.measure.triangles, 0)
  const short = Math.max(...checked.map((m) => 1 - m.measure.volume / bodyMeasure(m.body).volume))
  const under = `${(100 * Math.abs(short)).toFixed(3)} % ${short < 0 ? 'over' : 'under'}`
  const note = `${triangles.toLocaleString('en-US')} triangles, at most ${chord} mm off, volume ${under}`
  if (format === 'stl') return file(writeStl(meshed.map((m) => m.mesh)), note)
  if (format === 'obj') return file(text(writeObj(meshed)), note)
  return file(writeThreeMf(meshed, w.name), note)
}

/** Largest difference a mesh within `chord` of the body can make to its volume, mm3 (area times chord). */
export const volumeDeviation = (b: Body, chord: number): number => bodyMeasure(b).area * chord

/** Volume (mm3) and area (mm2) of a body of either kind. */
export const bodyMeasure = ({ shape }: Body): { volume: number; area: number } =>
  shape.kind === 'turned'
    ? { volume: volumeOf(shape.turned), area: areaOf(shape.turned) }
    : shape.measure

/** The body in the kernel: lifted, or read again from its file. The caller frees it. */
function inKernel(w: Workpiece, b: Body, kernel: Kernel): SolidHandle {
  if (b.shape.kind === 'turned') return liftToSolid(kernel, b.shape.turned)
  const bytes = unpackFile(w.files![b.shape.file]!)
  if (!bytes.ok) throw new Error(bytes.diagnosis.message)
  return kernel.fromStep(bytes.value)
}

function exactMesh(
  w: Workpiece,
  b: Body,
  kernel: Kernel,
  { chord, angle }: { chord: number; angle: number },
): TriMesh {
  const solid = inKernel(w, b, kernel)
  try {
    return weldIndexed(kernel.tessellate(solid, chord, angle))
  } finally {
    kernel.free(solid)
  }
}

function stepFile(
  w: Workpiece,
  bodies: Body[],
  kernel: Kernel,
  file: (bytes: Uint8Array, note: string) => Outcome<ReleasedFile>,
): Outcome<ReleasedFile> {
  const solids = bodies.map((b) => ({
    solid: inKernel(w, b, kernel),
    name: b.name,
    body: b,
  }))
  try {
    for (const s of solids) {
      const m = kernel.measure(s.solid)
      const off = Math.abs(m.volume / bodyMeasure(s.body).volume - 1)
      if (!m.closed || !m.valid || off > 1e-5) {
        return bad(
          'not-exact',
          `The exact solid of ${s.name} does not measure right, so it is not written.`,
        )
      }
    }
    return file(kernel.toStep(solids), 'exact solids, closed and valid, volume checked')
  } finally {
    for (const s of solids) kernel.free(s.solid)
  }
}
