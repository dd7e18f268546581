import { loadShapes, type ShapeStore } from '@ivory/core/exact'
import { inPlace, rebuildWith } from '@ivory/core/rebuild'
import type { Workpiece } from '@ivory/core/workpiece'

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
