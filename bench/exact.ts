// Pieces of the exact kernel, each with a store of its own, so that nothing can be reused.
import { loadShapes, ShapeStore } from '@ivory/core/exact'
import { inPlace, RebuildCache, rebuildWith } from '@ivory/core/rebuild'
import { releaseFile } from '@ivory/core/release'
import type { Workpiece } from '@ivory/core/workpiece'
import { demoSet } from '@ivory/demo'

type Row = (what: string, ratio: number, words: string) => void

const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now()
  await work()
  return performance.now() - start
}
const said = (a: number, b: number) => `${a.toFixed(0)} ms / ${b.toFixed(0)} ms`

/** A figure of a piece with another value. */
const withFigure = (w: Workpiece, name: string, expr: string): Workpiece => ({
  ...w,
  figures: w.figures.map((f) => (f.name === name ? { ...f, expr } : f)),
})

/** A piece from nothing, an early figure changed, an edit that touches nothing, and a shape asked for again. */
export async function benchExact(row: Row): Promise<void> {
  const { kernel, meshes } = await loadShapes()
  for (const [name, figure, value] of [
    ['Batter scoop', 'wide', '15 mm'],
    ['Counter clip', 'boss', '7.5 mm'],
    ['Timer dial', 'inlay', '1.4 mm'],
    ['Cutlery drainer', 'count', '24'],
    ['Dimpled mill grip', 'deep', '1.8 mm'],
  ] as const) {
    const w = demoSet().find((d) => d.name === name)!
    const store = new ShapeStore(kernel, meshes)
    const cache = new RebuildCache()
    const run = (doc: Workpiece) =>
      rebuildWith(
        doc,
        inPlace(doc, async () => store),
        cache,
      )
    const whole = await timed(() => run(w))
    row(`${name} from nothing / 4 s`, whole / 4000, said(whole, 4000))
    const edited = await timed(() => run(withFigure(w, figure, value)))
    row(`${name}, ${figure} changed / from nothing`, edited / whole, said(edited, whole))
    const back = await timed(() => run(w))
    row(`${name}, changed back / from nothing`, back / whole, said(back, whole))
    if (name !== 'Cutlery drainer') continue
    const built = await run(w)
    for (const [format, budget] of [
      ['stl', 8000],
      ['step', 30_000],
    ] as const) {
      const took = await timed(() => releaseFile(w, built, format, { shapes: store }))
      row(`${name}, as ${format} / ${budget / 1000} s`, took / budget, said(took, budget))
    }
  }
}
