import { freshId } from '@ivory/core/math'
import type { GaugeDoc, Workpiece } from '@ivory/core/workpiece'
import type { Draft } from 'immer'
import { edit, useSession } from './session'

/** Puts a gauge on the bench under an id of its own, which is given. */
export function addGauge(d: Draft<Workpiece>, gauge: Omit<GaugeDoc, 'id'>): string {
  const id = freshId(
    d.gauges.map((g) => g.id),
    'gauge',
  )
  d.gauges.push({ id, ...withPrinter(d, gauge) })
  return id
}

/** What the brief's printer and process ask is what a new gauge of them reads against. */
function withPrinter(d: Draft<Workpiece>, gauge: Omit<GaugeDoc, 'id'>): Omit<GaugeDoc, 'id'> {
  const { printer, limits } = d.brief
  if (gauge.kind === 'overhang' && printer)
    return { ...gauge, params: { ...gauge.params, asked: printer.angle } }
  const of = (side: 'min' | 'max', value: number | undefined) =>
    value === undefined ? gauge : { ...gauge, limits: { ...gauge.limits, [side]: value } }
  if (gauge.kind === 'bridge') return of('max', printer?.bridge)
  if (gauge.kind === 'draft') return of('min', limits?.draft)
  return gauge.kind === 'bends' ? of('min', limits?.radius) : gauge
}

/** Puts a gauge between two places on the bench and asks for them on the Stage. */
export function measureBetween(): void {
  const { doc } = useSession.getState()
  if (!doc) return
  let id = ''
  edit((d) => {
    id = addGauge(d, { kind: 'between', params: {} })
  })
  useSession.setState({ measuring: { gauge: id, next: 'face' }, picking: null })
}

/** What is clicked on the Stage (a face's name, or a reference as JSON) becomes the next of the gauge's two. */
export function takeThing(body: string, thing: string): void {
  const { measuring } = useSession.getState()
  if (!measuring) return
  const { gauge: id, next } = measuring
  edit((d) => {
    const gauge = d.gauges.find((g) => g.id === id)
    if (!gauge) return
    if (next === 'face') {
      gauge.body = body
      gauge.params = { face: thing }
    } else gauge.params = { ...gauge.params, other: body, with: thing }
  })
  useSession.setState({ measuring: next === 'face' ? { gauge: id, next: 'with' } : null })
}

/** A body becomes content, with a gauge that tells how clear of the others it stands; or an ordinary one again. */
export function setContent(body: string, is: boolean): void {
  edit((d) => {
    const { content: _, ...rest } = d.bodies[body] ?? {}
    d.bodies[body] = is ? { ...rest, content: true } : rest
    if (!is || d.gauges.some((g) => g.kind === 'clearance' && g.body === body)) return
    addGauge(d, { kind: 'clearance', body, params: {} })
  })
}
