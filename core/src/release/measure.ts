import type { Kernel } from '../kernel'
import { KernelError } from '../kernel'
import { bad, good, type Outcome, type P3 } from '../math'
import { measureMesh } from '../mesh'
import type { Body } from '../ops'
import { type GaugeReport, type OpReport, readGauges, rebuildWith } from '../rebuild'
import {
  areaOf,
  brimVolume,
  cavityOf,
  solidMesh,
  spaceBounds,
  volumeOf,
  wallAlong,
} from '../turned'
import { readWorkpiece, type Workpiece } from '../workpiece'
import { FINENESS } from './release'
import { readStl } from './stl'

export interface BodyMeasure {
  id: string
  name: string
  kind: 'turned' | 'exact' | 'mesh'
  closed: boolean
  valid: boolean
  volume_mm3: number
  area_mm2: number
  bounds: { min: P3; max: P3 }
  wall: { min_mm: number; mean_mm: number; max_mm: number } | null
  capacity: { brim_ml: number } | null
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
 * `kernel` is asked for only when STEP needs it.
 */
export async function measureFile(
  fileName: string,
  bytes: Uint8Array,
  kernel: () => Promise<Kernel>,
): Promise<Outcome<MeasureReport>> {
  const start = performance.now()
  const done = (r: Omit<MeasureReport, 'units' | 'elapsed_ms'>): Outcome<MeasureReport> =>
    good({
      name: r.name,
      units: 'mm',
      bodies: r.bodies,
      ops: r.ops,
      elapsed_ms: performance.now() - start,
    })
  if (bytes.length > MAX_GEOMETRY_BYTES) return bad('too-large', 'The file is larger than 200 MB.')
  const ending = fileName.toLowerCase().replace(/^.*?(\.[^.]+)$/, '$1')
  const stem = fileName.replace(/^.*[\\/]/, '').replace(/\.[^.]+$/, '')
  if (ending === '.json') {
    const w = readWorkpiece(new TextDecoder().decode(bytes))
    if (!w.ok) return w
    return done((await measureWorkpiece(w.value, kernel)).report)
  }
  if (ending === '.stl') {
    const mesh = readStl(bytes)
    if (!mesh.ok) return mesh
    const m = measureMesh(mesh.value)
    return done({ name: stem, ops: [], bodies: [plainBody(stem, 'mesh', m.closed, m.closed, m)] })
  }
  if (ending === '.step' || ending === '.stp') {
    const k = await kernel()
    try {
      const solid = k.fromStep(bytes)
      const m = k.measure(solid)
      k.free(solid)
      return done({ name: stem, ops: [], bodies: [plainBody(stem, 'exact', m.closed, m.valid, m)] })
    } catch (e) {
      if (e instanceof KernelError) return bad('bad-step', e.message)
      throw e
    }
  }
  return bad('unknown-file', 'Only .lathe.json, .step, .stp and .stl files can be measured.')
}

const plainBody = (
  name: string,
  kind: 'exact' | 'mesh',
  closed: boolean,
  valid: boolean,
  m: { volume: number; area: number; bounds: { min: P3; max: P3 } },
): BodyMeasure => ({
  id: 'body1',
  name,
  kind,
  closed,
  valid,
  volume_mm3: m.volume,
  area_mm2: m.area,
  bounds: m.bounds,
  wall: null,
  capacity: null,
})

/** Rebuilds a workpiece and measures its bodies and gauges. */
export async function measureWorkpiece(
  w: Workpiece,
  kernel: () => Promise<Kernel>,
): Promise<{ report: Omit<MeasureReport, 'units' | 'elapsed_ms'>; gauges: GaugeReport[] }> {
  const built = await rebuildWith(w, kernel)
  const bodies = Object.values(built.state.bodies).map(measureBody)
  const ops = built.reports.filter((r) => r.status !== 'skipped').map(opLine)
  return { report: { name: w.name, bodies, ops }, gauges: readGauges(w, built) }
}

function measureBody(b: Body): BodyMeasure {
  if (b.shape.kind === 'exact') {
    const m = b.shape.measure
    return { ...plainBody(b.name, 'exact', m.closed, m.valid, m), id: b.id }
  }
  const t = b.shape.turned
  const cavity = cavityOf(t)
  const wall = wallAlong(t, cavity)
  return {
    id: b.id,
    name: b.name,
    kind: 'turned',
    closed: measureMesh(solidMesh(t, FINENESS.coarse)).closed,
    valid: volumeOf(t) > 0,
    volume_mm3: volumeOf(t),
    area_mm2: areaOf(t),
    bounds: spaceBounds(t),
    wall: wall && { min_mm: wall.min.wall, mean_mm: wall.mean, max_mm: wall.max.wall },
    capacity: cavity && { brim_ml: brimVolume(cavity) / 1000 },
  }
}

const opLine = (r: OpReport): MeasureReport['ops'][number] => ({
  number: r.number,
  kind: r.kind,
  status: r.status === 'skipped' ? 'ok' : r.status,
  ms: Number(r.ms.toFixed(3)),
  message: r.diagnoses.map((d) => d.message).join(' ') || r.consequence,
})
