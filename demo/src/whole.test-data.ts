import { loadShapes, type ShapeStore } from '@ivory/core/exact'
import { inPlace, rebuildWith } from '@ivory/core/rebuild'
import type { Workpiece } from '@ivory/core/workpiece'
import { demoSet } from '.'

let loading: Promise<ShapeStore> | undefined
/** A piece rebuilt whole, by one kernel for all. */
export const whole = (w: Workpiece) =>
  rebuildWith(
    w,
    inPlace(w, () => {
      loading ??= loadShapes()
      return loading
    }),
  )

/** A demo piece with some of its figures changed. */
export const changed = (name: string, figures: Record<string, string | undefined>) => {
  const w = demoSet().find((d) => d.name === name)!
  return {
    ...w,
    figures: w.figures.map((f) => ({ ...f, expr: figures[f.name] ?? f.expr })),
  }
}
