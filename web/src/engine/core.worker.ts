import { good } from '@ivory/core/math'
import { type Drawing, withPart } from '@ivory/core/profile'
import {
  RebuildCache,
  rangeOf,
  rebuild,
  rebuildSteps,
  reshape,
  solveWorkpiece,
  tryDimension,
} from '@ivory/core/rebuild'
import {
  drawingOf,
  letterOutlines,
  type Outlines,
  readDxf,
  readSvg,
  release,
  writeDxf,
  writeSvg,
} from '@ivory/core/release'
import type { CallName, Calls, Request, Response } from './protocol'
import { bodyView, transferables, viewOf } from './view'

// The lathe's own thread: route, section, gauges, ranges, triangles. Results of ops are kept here.
const cache = new RebuildCache()
const post = (r: Response, transfer: Transferable[] = []) => postMessage(r, { transfer })

type Handlers = { [K in CallName]?: (ask: Calls[K]['ask'], id: number) => Calls[K]['reply'] }

/** A drawing with outlines added to it. */
function joined(drawing: Drawing, outlines: Outlines, scale: number, join: number) {
  const made = drawingOf(outlines, scale, join)
  return good({ ...made, drawing: withPart(drawing, made.drawing).drawing })
}

const handlers: Handlers = {
  rebuild({ doc, view }, id) {
    const start = performance.now()
    const steps = rebuildSteps(doc, cache)
    for (;;) {
      const next = steps.next()
      if (next.done) return viewOf(doc, next.value, view, performance.now() - start)
      if (!view.draft) post({ id, is: 'progress', report: next.value })
    }
  },
  picks({ doc, op, body }) {
    const found = rebuild(doc, cache).before[op]?.bodies[body]
    return found ? bodyView(found, { cutaway: false, fill: null, draft: true, solid: true }) : null
  },
  tryDimension: ({ doc, op, id, value }) => tryDimension(rebuild(doc, cache), op, id, value),
  reshape: ({ doc, op, change }) => reshape(rebuild(doc, cache), op, change),
  outline({ name, text, scale, join, drawing }) {
    const read = /\.dxf$/i.test(name) ? readDxf(text) : readSvg(text)
    if (!read.ok) return read
    return joined(drawing, read.value, scale ?? read.value.unit ?? 1, join)
  },
  lettering({ font, text, size, drawing }) {
    const set = letterOutlines(font, text, size)
    return set.ok ? joined(drawing, set.value, 1, 1e-4) : set
  },
  outlineOut({ doc, op, format }) {
    const drawn = rebuild(doc, cache).state.profiles[op]?.shape.drawn ?? []
    const curves = drawn.filter((d) => !d.construction).map((d) => d.curve)
    if (curves.length === 0) return 'There is nothing drawn to write.'
    if (format === 'dxf') return { text: writeDxf(curves), note: `${curves.length} pieces in mm` }
    const { text, skipped } = writeSvg(curves)
    const left = skipped > 0 ? `; ${skipped} of a degree SVG does not have were left out` : ''
    return { text, note: `${curves.length - skipped} pieces in mm${left}` }
  },
  range: ({ doc, op, input }) => rangeOf(doc, rebuild(doc, cache), op, input),
  solve: ({ doc, request }) => solveWorkpiece(doc, request),
  provide({ file, solid }) {
    cache.solids.set(file, solid)
    return null
  },
  release({ doc, format, chord, angle }) {
    const made = release(doc, rebuild(doc, cache).state, format, { chord, angle })
    return made.ok ? made.value : made.diagnosis.message
  },
}

self.addEventListener('message', (e: MessageEvent<Request>) => {
  const { id, call, ask } = e.data
  try {
    const handler = handlers[call] as ((ask: unknown, id: number) => unknown) | undefined
    if (!handler) throw new Error(`the lathe does not do "${call}"`)
    const reply = handler(ask, id)
    post(
      { id, is: 'done', reply },
      call === 'rebuild' ? transferables(reply as Calls['rebuild']['reply']) : [],
    )
  } catch (error) {
    post({ id, is: 'broken', message: error instanceof Error ? error.message : String(error) })
  }
})
