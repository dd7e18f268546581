import { type ExactPart, formJob, type KernelJob } from '../exact'
import { gaugeSpec, READ_LINES } from '../gauges'
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

/** What gauges need read from the surfaces of bodies. */
export const gaugeJobs = (w: Workpiece, { bodies }: State): KernelJob[] =>
  w.gauges.flatMap((g) => {
    const spec = gaugeSpec(g.kind)
    if (!spec?.ofSeams && !spec?.ofLines) return []
    const shape = gaugedBody(w, bodies, g)?.shape
    if (shape?.kind !== 'exact') return []
    return [spec.ofSeams ? seamsJob(shape) : linesJob(shape)]
  })
