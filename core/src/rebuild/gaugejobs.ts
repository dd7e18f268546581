import { ballSpots, type ExactPart, formJob, type KernelJob, wallOf } from '../exact'
import { gaugeSpec, READ_LINES, stretchOf } from '../gauges'
import type { Side } from '../kernel'
import type { MeshWallSpot, WallField } from '../mesh'
import type { Body, State } from '../ops'
import type { GaugeDoc, Workpiece } from '../workpiece'

/** The body a gauge looks at: the one it names, else the first that is neither put away nor content. */
export const gaugedBody = (w: Workpiece, bodies: State['bodies'], g: GaugeDoc): Body | undefined =>
  g.body
    ? bodies[g.body]
    : Object.values(bodies).find((b) => !w.bodies[b.id]?.away && !w.bodies[b.id]?.content)

/** Has all seams of a part read. */
export const seamsJob = (part: ExactPart): KernelJob =>
  formJob(part.key, { seams: true, ribbons: [] })

/** Has lines of the surfaces of a part read. */
export const linesJob = (part: ExactPart, lines = READ_LINES): KernelJob =>
  formJob(part.key, { seams: false, ribbons: [], lines })

/** Has labels sought on the largest curved faces of a part that may be stretched by a share. */
export function panelsJob({ key, faces }: ExactPart, stretch: number): KernelJob {
  const curved = faces
    .map((f, face) => ({ face, area: f.kind === 'plane' ? 0 : f.area }))
    .filter((f) => f.area > 0)
    .sort((a, b) => b.area - a.area)
  const panels = { faces: curved.slice(0, LABELLED).map((f) => f.face), stretch }
  return formJob(key, { seams: false, ribbons: [], panels })
}
const LABELLED = 6

/** Has it read how the surfaces of a part bend. */
export const bentJob = (part: ExactPart): KernelJob =>
  formJob(part.key, { seams: false, ribbons: [], bent: true })

/** Has the wall of a part, or the gaps in it, read on its surfaces, where its triangles tell that it is thin and thick; null where it has none. */
export function wallsJob(part: ExactPart, side: Side): KernelJob | null {
  const known = jobs[side].get(part)
  if (known !== undefined) return known
  const field = wallOf(part, side)
  const balls = field && ballSpots(part, followed(field).flat(), side)
  const job = balls && formJob(part.key, { seams: false, ribbons: [], balls })
  jobs[side].set(part, job)
  return job
}
/** The thinnest places, and the thickest, that are followed on the surfaces. */
export const followed = ({ thin, thick }: WallField): [MeshWallSpot[], MeshWallSpot[]] => [
  thin.slice(0, FOLLOWED),
  thick.slice(0, FOLLOWED),
]
const FOLLOWED = 8
const jobs: Record<Side, WeakMap<ExactPart, KernelJob | null>> = {
  in: new WeakMap(),
  out: new WeakMap(),
}

/** What gauges need read from the surfaces of bodies. */
export const gaugeJobs = (w: Workpiece, { bodies }: State): KernelJob[] =>
  w.gauges.flatMap((g) => {
    const spec = gaugeSpec(g.kind)
    const shape = gaugedBody(w, bodies, g)?.shape
    if (shape?.kind !== 'exact') return []
    if (spec?.ofSeams) return [seamsJob(shape)]
    if (spec?.ofLines) return [linesJob(shape)]
    if (spec?.ofPanels) return [panelsJob(shape, stretchOf(g.params))]
    if (spec?.ofBent) return [bentJob(shape)]
    return spec?.ofWalls ? (wallsJob(shape, spec.side ?? 'in') ?? []) : []
  })
