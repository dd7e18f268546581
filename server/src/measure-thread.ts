import { loadShapes, type ShapeStore } from '@ivory/core/exact'
import { measureReport } from '@ivory/core/release'
import type { Workpiece } from '@ivory/core/workpiece'

let shapes: Promise<ShapeStore> | undefined

/** What a thread of the pool does: rebuilds and measures one workpiece. The kernel is loaded once. */
export default (w: Workpiece) =>
  measureReport(w, () => {
    shapes ??= loadShapes()
    return shapes
  })
