import { type ExactPart, formJob, type KernelJob } from '../exact'
import { gaugeSpec } from '../gauges'
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

/** What gauges need read from the surfaces of bodies. */
export const gaugeJobs = (w: Workpiece, { bodies }: State): KernelJob[] =>
  w.gauges.flatMap((g) => {
    const shape = gaugeSpec(g.kind)?.ofSeams && gaugedBody(w, bodies, g)?.shape
    return shape && shape.kind === 'exact' ? [seamsJob(shape)] : []
  })
