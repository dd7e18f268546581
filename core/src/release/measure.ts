import { type ShapeStore, wallOf } from '../exact'
import { balanceOf } from '../gauges'
import { KernelError } from '../kernel'
import { bad, good, type Outcome, type P3, rounded } from '../math'
import { basinOf, type EdgeCount, measureMesh, readStl } from '../mesh'
import type { Body } from '../ops'
import { touchesItself } from '../profile'
import {
  densityOf,
  done,
  type GaugeReport,
  inPlace,
  type OpReport,
  type Rebuilt,
  readGauges,
  rebuildWith,
  wallsJob,
  wallsOf,
} from '../rebuild'
import {
  areaOf,
  brimVolume,
  cavityOf,
  centroidOf,
  solidMesh,
  spaceBounds,
  trappedVolume,
  voidVolume,
  volumeOf,
  type WallSpot,
  wallAlong,
} from '../turned'
import { readWorkpiece, type Workpiece } from '../workpiece'
import { FINENESS } from './release'

/** A place in space, mm. */
export interface SpacePlace {
  x: number
  y: number
  z: number
}
/** A place on a body's half-section: distance from its axis and height along it, mm. */
export interface SectionPlace {
  r: number
  z: number
}
export interface BodyMeasure {
  id: string
  name: string
  kind: 'turned' | 'exact' | 'mesh'
  closed: boolean
  valid: boolean
  volume_mm3: number
  area_mm2: number
  centre_of_gravity_mm: P3
  bounds: { min: P3; max: P3 }
  /** Null where no material is chosen. */
  mass_g: number | null
  wall: {
    min_mm: number
    mean_mm: number
    max_mm: number
    min_at: SectionPlace | SpacePlace
    max_at: SectionPlace | SpacePlace
  } | null
  capacity: { brim_ml: number; trapped_air_ml: number } | null
  /** Hollows closed all round, which nothing can be poured into. */
  sealed_void_ml: number
  /** Angles at which it falls over; null where it stands on no ring. */
  tipping: { empty_deg: number; filled_deg: number | null } | null
  /** How the edges of a mesh stand; only for meshes. */
  edges?: EdgeCount
}
export interface MeasureReport {
  name: string
  units: 'mm'
  bodies: BodyMeasure[]
  ops: {
    number: number
    kind: string
    status: 'ok' | 'warn' | 'fail'
    ms: number
    message: string
  }[]
  elapsed_ms: number
}

export const MAX_GEOMETRY_BYTES = 200 * 1024 * 1024

/**
 * Measures a file by its name's ending: `.lathe.json` is rebuilt, STEP and STL are read as one body.
 * `shapes` is asked for only when the exact kernel is needed.
 */
export async function measureFile(
  fileName: string,
  bytes: Uint8Array,
  shapes: () => Promise<ShapeStore>,
): Promise<Outcome<MeasureReport>> {
  const start = performance.now()
  const one = (name: string, body: BodyMeasure): Outcome<MeasureReport> =>
    good({
      name,
      units: 'mm',
      bodies: [body],
      ops: [],
      elapsed_ms: performance.now() - start,
    })
  if (bytes.length > MAX_GEOMETRY_BYTES) return bad('too-large', 'The file is larger than 200 MB.')
  const ending = fileName.toLowerCase().replace(/^.*?(\.[^.]+)$/, '$1')
  const stem = fileName.replace(/^.*[\\/]/, '').replace(/\.[^.]+$/, '')
  if (ending === '.json') {
    const w = readWorkpiece(new TextDecoder().decode(bytes))
    if (!w.ok) return w
    return good(await measureReport(w.value, shapes))
  }
  if (ending === '.stl') {
    const mesh = readStl(bytes)
    if (!mesh.ok) return mesh
    const m = measureMesh(mesh.value)
    const simple = m.closed && m.edges.many === 0 && m.volume > 0
    return one(stem, { ...plainBody(stem, 'mesh', m.closed, simple, m), edges: m.edges })
  }
  if (ending === '.step' || ending === '.stp') {
    const { kernel: k } = await shapes()
    try {
      const solid = k.fromStep(bytes)
      const m = k.measure(solid)
      k.free(solid)
      return one(stem, plainBody(stem, 'exact', m.closed, m.valid, m))
    } catch (e) {
      if (e instanceof KernelError) return bad('bad-step', e.message)
      throw e
    }
  }
  return bad('unknown-file', 'Only .lathe.json, .step, .stp and .stl files can be measured.')
}

const inSpace = ([x, y, z]: P3): SpacePlace => ({ x, y, z })

const plainBody = (
  name: string,
  kind: 'exact' | 'mesh',
  closed: boolean,
  valid: boolean,
  m: { volume: number; area: number; centroid: P3; bounds: { min: P3; max: P3 } },
): BodyMeasure => ({
  id: 'body1',
  name,
  kind,
  closed,
  valid,
  volume_mm3: m.volume,
  area_mm2: m.area,
  centre_of_gravity_mm: m.centroid,
  bounds: m.bounds,
  mass_g: null,
  wall: null,
  capacity: null,
  sealed_void_ml: 0,
  tipping: null,
})

/** Rebuilds a workpiece and measures its bodies: the report alone, with the time it took. */
export async function measureReport(
  w: Workpiece,
  shapes: () => Promise<ShapeStore>,
): Promise<MeasureReport> {
  const start = performance.now()
  const { report } = await measureWorkpiece(w, shapes)
  return { ...report, units: 'mm', elapsed_ms: performance.now() - start }
}

/** Rebuilds a workpiece and measures its bodies and gauges. */
export async function measureWorkpiece(
  w: Workpiece,
  shapes: () => Promise<ShapeStore>,
): Promise<{ report: Omit<MeasureReport, 'units' | 'elapsed_ms'>; gauges: GaugeReport[] }> {
  const run = inPlace(w, shapes)
  const built = await rebuildWith(w, run)
  const all = Object.values(built.state.bodies)
  for (const { shape } of all) {
    const job = shape.kind === 'exact' ? wallsJob(shape, 'in') : null
    if (job) await done(job, run, built.exact)
  }
  const bodies = all.map((b) => measureBody(w, b, built.exact))
  const ops = built.reports.flatMap(opLine)
  return { report: { name: w.name, bodies, ops }, gauges: readGauges(w, built) }
}

function measureBody(w: Workpiece, b: Body, exact: Rebuilt['exact']): BodyMeasure {
  const density = densityOf(w, b)
  const mass = (volume: number) => (density === undefined ? null : (volume / 1000) * density)
  if (b.shape.kind !== 'turned') {
    const m = b.shape.measure
    const plain = plainBody(b.name, b.shape.kind, m.closed, m.valid, m)
    const read = b.shape.kind === 'exact' ? wallsOf(b.shape, 'in', exact) : wallOf(b.shape)
    const walls = typeof read === 'string' ? null : read
    const basin = basinOf(b.shape.mesh)
    return {
      ...plain,
      id: b.id,
      mass_g: mass(m.volume),
      wall: walls && {
        min_mm: walls.min.wall,
        mean_mm: walls.mean,
        max_mm: walls.max.wall,
        min_at: inSpace(walls.min.at),
        max_at: inSpace(walls.max.at),
      },
      capacity:
        basin && basin.volume > 0 ? { brim_ml: basin.volume / 1000, trapped_air_ml: 0 } : null,
      sealed_void_ml: (basin?.sealed ?? 0) / 1000,
    }
  }
  const t = b.shape.turned
  const cavity = cavityOf(t)
  const wall = wallAlong(t)
  const balance = balanceOf({ turned: t, density, cavity })
  const deg = (rad: number) => (rad * 180) / Math.PI
  const place = ({ at: [r, z] }: WallSpot): SectionPlace => ({ r, z })
  const volume = volumeOf(t)
  return {
    id: b.id,
    name: b.name,
    kind: 'turned',
    closed: measureMesh(solidMesh(t, FINENESS.coarse)).closed,
    valid: volume > 0 && touchesItself(t.regions).length === 0,
    volume_mm3: volume,
    area_mm2: areaOf(t),
    centre_of_gravity_mm: centroidOf(t),
    bounds: spaceBounds(t),
    mass_g: mass(volume),
    wall: wall && {
      min_mm: wall.min.wall,
      mean_mm: wall.mean,
      max_mm: wall.max.wall,
      min_at: place(wall.min),
      max_at: place(wall.max),
    },
    capacity: cavity && {
      brim_ml: brimVolume(cavity) / 1000,
      trapped_air_ml: trappedVolume(cavity) / 1000,
    },
    sealed_void_ml: voidVolume(t) / 1000,
    tipping:
      typeof balance === 'string'
        ? null
        : {
            empty_deg: deg(balance.empty.angle),
            filled_deg: balance.filled && deg(balance.filled.angle),
          },
  }
}

/** Nothing waits for the kernel any more; ops that are left out are not told. */
const opLine = ({ number, kind, status, ms, diagnoses, consequence }: OpReport) =>
  status === 'skipped' || status === 'waits'
    ? []
    : [
        {
          number,
          kind,
          status,
          ms: rounded(ms, 3),
          message: diagnoses.map((d) => d.message).join(' ') || consequence,
        },
      ]
