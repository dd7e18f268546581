import { expect } from 'vitest'
import { type ExactPart, edgeRef, faceRef, loadShapes, type ShapeStore } from '../exact'
import { emptyWorkpiece, type GaugeDoc, type Op, type Workpiece } from '../workpiece'
import { rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { inPlace, RebuildCache, readGauges, rebuildWith } from '.'

let loading: Promise<ShapeStore> | undefined
/** The exact kernel, loaded when first asked. */
export const the = (): Promise<ShapeStore> => {
  loading ??= loadShapes()
  return loading
}

export const piece = (route: Op[], figures: Workpiece['figures'] = []): Workpiece => ({
  ...emptyWorkpiece('w', 'W'),
  figures,
  route,
})
export const built = (w: Workpiece, cache = new RebuildCache()) =>
  rebuildWith(w, inPlace(w, the), cache)

/** What gauges on a route read. */
export const gauged = async (route: Op[], gauges: Partial<GaugeDoc>[]) => {
  const w: Workpiece = {
    ...piece(route),
    gauges: gauges.map((g, i) => ({ id: `g${i}`, kind: 'wall', params: {}, ...g })),
  }
  return readGauges(w, await built(w))
}

/** The bodies of a route, which must all hold. */
export async function bodiesOf(route: Op[], figures: Workpiece['figures'] = []) {
  const { state, reports } = await built(piece(route, figures))
  for (const r of reports)
    expect([r.id, r.status, r.diagnoses[0]?.message ?? '']).toEqual([r.id, 'ok', ''])
  return state.bodies
}
export async function exact(route: Op[], id: string): Promise<ExactPart> {
  const shape = (await bodiesOf(route))[id]!.shape
  if (shape.kind !== 'exact') throw new Error('not exact')
  return shape
}
export const volume = async (route: Op[], id: string) => (await exact(route, id)).measure.volume
export const diagnosis = async (route: Op[]) => {
  const { reports } = await built(piece(route))
  return reports[reports.length - 1]!.diagnoses[0]!
}
export const face = (p: ExactPart, name: string) =>
  faceRef(
    p,
    p.faces.findIndex((f) => f.names.includes(name)),
  )
export const edge = (p: ExactPart, a: string, b: string) =>
  edgeRef(
    p,
    p.edges.findIndex((e) => {
      const names = e.faces.map((i) => p.faces[i]!.names[0])
      return names.includes(a) && names.includes(b) && names.length === 2
    }),
  )

/** A block of 60 x 40 x 20. */
export const base = rectangle(10, 'flat', 'top', [0, 0], [60, 40])
export const block = op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 20 })
