import { loadShapes, type ShapeStore } from '@ivory/core/exact'
import { inPlace, type Rebuilt, readGauges, rebuildWith } from '@ivory/core/rebuild'
import { workOut } from '@ivory/core/workpiece'
import { beforeAll, describe, expect, it } from 'vitest'
import { demoSet } from '.'

let shapes: ShapeStore
beforeAll(async () => {
  shapes = await loadShapes()
})
const whole = (w: ReturnType<typeof demoSet>[number]) =>
  rebuildWith(
    w,
    inPlace(w, () => Promise.resolve(shapes)),
  )

describe.each(demoSet().map((w) => [w.name, w] as const))('%s', (_, w) => {
  let built: Rebuilt
  beforeAll(async () => {
    built = await whole(w)
  })
  it('rebuilds without a failure and with no warning but details finer than the wall', () => {
    for (const r of built.reports) {
      const rest = r.diagnoses.filter((d) => d.code !== 'detail-lost')
      expect(rest.map((d) => `${r.id}: ${d.message}`)).toEqual([])
      expect(r.status).toBe(r.diagnoses.length > 0 ? 'warn' : 'ok')
    }
  })
  it('meets its brief', () => {
    for (const g of readGauges(w, built)) {
      expect(`${g.kind} ${g.reading?.text ?? g.why} ${g.verdict}`).not.toMatch(/ out$/)
    }
  })
})

/** A demo piece with some of its figures changed. */
const changed = (name: string, figures: Record<string, string | undefined>) => {
  const w = demoSet().find((d) => d.name === name)!
  return {
    ...w,
    figures: w.figures.map((f) => ({ ...f, expr: figures[f.name] ?? f.expr })),
  }
}

/** A figure's value, mm. */
const built = (w: ReturnType<typeof demoSet>[number], name: string) =>
  workOut(w.figures, w.unit).values.find((v) => v.name === name)!.quantity!.value

describe('everything follows the figures', () => {
  it.each([
    { bowl: '80 mm', deep: '52 mm' },
    { bowl: '52 mm', deep: '32 mm', wide: '17 mm' },
  ])('of the batter scoop: %o', async (figures) => {
    const w = changed('Batter scoop', figures)
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const { shape } = state.bodies.turn!
    if (shape.kind !== 'exact') throw new Error('not exact')
    expect(shape.measure.solids).toBe(1)
    // The handle does not poke through: nothing of it lies within the inside of the bowl there.
    const inner = built(w, 'inner')
    const level = built(w, 'level')
    const poking = shape.vertices.filter(
      ({ at: [x, y, z], faces }) =>
        faces.some((f) => shape.faces[f]!.names[0]!.startsWith('handle:')) &&
        Math.hypot(x, y) < inner - 0.3 * Math.abs(z - level) - 1e-3,
    )
    expect(poking).toEqual([])
    expect(shape.faces.some((f) => f.names.includes('handle:root'))).toBe(false)
  })
  it.each([
    { length: '90 mm', pitch: '20 mm', height: '20 mm' },
    { length: '60 mm', depth: '26 mm', wall: '1.6 mm', lean: '5 deg' },
  ])('of the counter clip: %o', async (figures) => {
    const w = changed('Counter clip', figures)
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const { shape } = state.bodies.clip!
    expect(shape.kind === 'exact' && shape.measure.solids).toBe(1)
  })
})
