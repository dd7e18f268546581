import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'
import { zipSync } from 'fflate'
import type { ShapeStore } from '../exact'
import { KernelError } from '../kernel'
import { bad, fixed, good, type Outcome } from '../math'
import {
  countEdges,
  measureMesh,
  type TriMesh,
  weldIndexed,
  writeObj,
  writeStl,
  writeThreeMf,
} from '../mesh'
import type { Body } from '../ops'
import type { Rebuilt } from '../rebuild'
import { areaOf, solidMesh, volumeOf } from '../turned'
import type { Workpiece } from '../workpiece'
import { PLAIN_COLOR } from './color'
import { sectionDrawing } from './drawing'
import { rereadMeshes } from './readback'
import { sheetOf } from './sheet/seen'
import { sheetSvg } from './sheet/svg'
import { type ExactShapes, stepFile } from './step'

export const FORMATS = ['step', 'stl', 'zip', '3mf', 'obj', 'svg', 'pdf'] as const
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

/** The SHA-256 of a file's bytes (FIPS 180-4), as hexadecimal digits. */
export const digestOf = (bytes: Uint8Array): string => bytesToHex(sha256(bytes))

const MIME: Record<Format, string> = {
  step: 'model/step',
  stl: 'model/stl',
  zip: 'application/zip',
  '3mf': 'model/3mf',
  obj: 'model/obj',
  svg: 'image/svg+xml',
  pdf: 'application/pdf',
}

/** A file name from the workpiece's name: letters, digits and dashes. */
export const fileStem = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '') || 'workpiece'

/** What is made of the bodies; `without` names those that stay; all others that are not put away leave. */
export interface ReleaseOptions {
  /** Bounds the deviation of triangle formats, mm. */
  chord?: number
  angle?: number
  shapes?: ShapeStore
  without?: readonly string[]
}

/** The file that leaves the shop. */
export async function releaseFile(
  w: Workpiece,
  built: Pick<Rebuilt, 'state' | 'exact'>,
  format: Format,
  options: ReleaseOptions,
): Promise<Outcome<ReleasedFile>> {
  const bodies = leaving(w, built, options.without)
  if (!bodies.ok) return bodies
  if (format !== 'pdf') return release(w, built, format, options)
  // What writes PDF is large and seldom wanted.
  const { sheetPdf } = await import('./sheet/pdf')
  return good({
    name: `${fileStem(w.name)}.pdf`,
    mime: MIME.pdf,
    bytes: await sheetPdf(sheetOf(w, bodies.value)),
    note: VIEWS,
  })
}
const VIEWS =
  'three views, first angle, and a section through the middle, in real size at its scale'

/** The bodies that leave. */
function leaving(
  w: Workpiece,
  built: Pick<Rebuilt, 'state'>,
  without: readonly string[] = [],
): Outcome<Body[]> {
  const all = Object.values(built.state.bodies).filter(
    (b) => !w.bodies[b.id]?.away && !w.bodies[b.id]?.content,
  )
  if (all.length === 0) return bad('no-body', 'There is no body to release yet.')
  const bodies = all.filter((b) => !without.includes(b.id))
  return bodies.length === 0 ? bad('no-body', 'Choose the bodies that leave.') : good(bodies)
}

/** The same for all formats that need no waiting. */
export function release(
  w: Workpiece,
  built: Pick<Rebuilt, 'state' | 'exact'>,
  format: Exclude<Format, 'pdf'>,
  options: ReleaseOptions,
): Outcome<ReleasedFile> {
  const chosen = leaving(w, built, options.without)
  if (!chosen.ok) return chosen
  const bodies = chosen.value
  const chord = options.chord ?? FINENESS.normal.chord
  if (!(chord >= 0.0005 && chord <= 10))
    return bad('chord', 'The tolerance must lie between 0.0005 and 10 mm.')
  const angle = options.angle ?? FINENESS.normal.angle
  const exact = options.shapes && { store: options.shapes, made: built.exact }
  const file = (bytes: Uint8Array, note: string): Outcome<ReleasedFile> =>
    good({ name: `${fileStem(w.name)}.${format}`, mime: MIME[format], bytes, note })
  const text = (s: string) => new TextEncoder().encode(s)
  if (format === 'step') {
    if (!exact) return bad('no-kernel', 'STEP needs the exact kernel, which is not loaded.')
    const made = stepFile(w, bodies, exact)
    return made.ok ? file(made.value.bytes, made.value.note) : made
  }
  if (format === 'svg') {
    const turned = bodies.map((b) => b.shape).find((s) => s.kind === 'turned')
    if (!turned) return file(text(sheetSvg(sheetOf(w, bodies))), VIEWS)
    return file(text(sectionDrawing(turned.turned, w.name)), 'half-section in real millimetres')
  }
  if (!exact && bodies.some((b) => b.shape.kind !== 'turned'))
    return bad('no-kernel', 'An exact body needs the exact kernel, which is not loaded.')
  const meshed = bodies.map((b) => ({
    name: b.name,
    color: w.bodies[b.id]?.color ?? PLAIN_COLOR,
    mesh:
      b.shape.kind === 'turned'
        ? (solidMesh(b.shape.turned, { chord, angle }) as TriMesh)
        : exactMesh(b.shape.key, exact!, { chord, angle }),
    body: b,
  }))
  const meshes = meshed.map((m) => m.mesh)
  if (format === 'zip') return zipped(w, meshed)
  const bytes =
    format === 'stl'
      ? writeStl(meshes)
      : format === 'obj'
        ? text(writeObj(meshed))
        : writeThreeMf(meshed, w.name)
  const read = rereadMeshes(
    format,
    bytes,
    meshed.map((m) => ({ name: m.name, volume: measureMesh(m.mesh).volume, solids: 1 })),
  )
  if (!read.ok) return read
  const sum = (of: { volume: number }[]) => of.reduce((v, m) => v + m.volume, 0)
  const triangles = read.value.reduce((n, m) => n + m.triangles, 0)
  const short = 1 - sum(read.value) / sum(bodies.map(bodyMeasure))
  const under = `${fixed(100 * Math.abs(short), 3)} % ${short < 0 ? 'over' : 'under'}`
  const many = read.value.reduce((n, m) => n + m.edges.many, 0)
  // In one file bodies share what lies in one place: that is no fault of any of them.
  const own = meshes.reduce((n, m) => n + countEdges(weldIndexed(m)).many, 0)
  const touching = many > 0 && own > 0 ? `; it touches itself along ${own} edges` : ''
  const between = many > own ? `; bodies that lie side by side share ${many - own} edges` : ''
  return file(
    bytes,
    `read again: ${triangles.toLocaleString('en-US')} triangles, closed, volume ${under} for a chord of ${chord} mm${touching}${between}`,
  )
}

/** An STL file a body, all in the workpiece's own place and way up, in one archive; each is read again. */
function zipped(
  w: Workpiece,
  meshed: readonly { name: string; mesh: TriMesh }[],
): Outcome<ReleasedFile> {
  const files: Record<string, Uint8Array> = {}
  for (const [i, { name, mesh }] of meshed.entries()) {
    const bytes = writeStl([mesh])
    const leaving = { name, volume: measureMesh(mesh).volume, solids: 1 }
    const read = rereadMeshes('stl', bytes, [leaving])
    if (!read.ok) return read
    const stem = fileStem(name)
    files[`${stem}${`${stem}.stl` in files ? `-${i + 1}` : ''}.stl`] = bytes
  }
  const n = meshed.length
  return good({
    name: `${fileStem(w.name)}-stl.zip`,
    mime: MIME.zip,
    bytes: zipSync(files),
    note: `${n} STL ${n === 1 ? 'file' : 'files'}, each read again and closed`,
  })
}

/** Largest difference a mesh within `chord` of the body can make to its volume, mm3 (area times chord). */
export const volumeDeviation = (b: Body, chord: number): number => bodyMeasure(b).area * chord

/** Volume (mm3) and area (mm2) of a body of either kind. */
export const bodyMeasure = ({ shape }: Body): { volume: number; area: number } =>
  shape.kind === 'turned'
    ? { volume: volumeOf(shape.turned), area: areaOf(shape.turned) }
    : shape.measure

const exactMesh = (
  key: string,
  exact: ExactShapes,
  { chord, angle }: { chord: number; angle: number },
): TriMesh => {
  exact.store.learn(exact.made.recipesFor([key]))
  const mesh = exact.store.triangles(key, chord, angle)
  if (!mesh.ok) throw new KernelError(mesh.diagnosis.message)
  return mesh.value
}
