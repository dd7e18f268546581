import { flattenParams, line, pointAt } from '@ivory/core/curve'
import { SHOWN, wallOf } from '@ivory/core/exact'
import {
  bendingOf,
  fillCurve,
  READ_LINES,
  sectionCurve,
  sectionsAlong,
  wallHistogram,
} from '@ivory/core/gauges'
import { bad, dist, good } from '@ivory/core/math'
import { slice, wallField } from '@ivory/core/mesh'
import { type Body, profileCells } from '@ivory/core/ops'
import { type CellRef, cellOf, cellRef, type Drawing, withPart } from '@ivory/core/profile'
import {
  cageCures,
  cageSymmetry,
  densityOf,
  driversOf,
  linesJob,
  RebuildCache,
  type Rebuilt,
  rangeOf,
  rebuild,
  rebuildSteps,
  rebuildWith,
  reshape,
  STOPPED,
  solveWorkpiece,
  triangleMesh,
  tryDimension,
  workedOut,
} from '@ivory/core/rebuild'
import {
  drawingOf,
  letterOutlines,
  levelScale,
  type Outlines,
  printing,
  readDxf,
  readSvg,
  releaseFile,
  writeDxf,
  writeSvg,
} from '@ivory/core/release'
import type { Workpiece } from '@ivory/core/workpiece'
import { EngineError } from './client'
import { Queue, runOn, searching, serving } from './kernels'
import type { CallName, Calls, Leave, LinesView, Request, Response } from './protocol'
import { bodyView, transferables, viewOf } from './view'

// The lathe's own thread: route, section, gauges, ranges, triangles. Results of ops are kept here.
const cache = new RebuildCache()
const solving = new RebuildCache()
const pictured = new RebuildCache()
/** Calls at work that nobody waits for any more. */
const left = new Set<number>()
/** Calls at work. */
const working = new Set<number>()
/** Counts up when the Shelf is left. */
let pictures = 0
/** After this a release or measurement is given up, ms: as long as a job of the kernel may take. */
const RELEASE_LIMIT = 600_000
const queue = new Queue(cache.exact, () => post({ is: 'news' }))
/** The route with all the exact kernel has to do for it done. */
const settled = (doc: Workpiece) => rebuildWith(doc, runOn(serving, doc), cache)
const bodiesOf = (built: Rebuilt) => Object.values(built.state.bodies)
const shownBodies = (doc: Workpiece, built: Rebuilt) =>
  bodiesOf(built).filter(({ id }) => !doc.bodies[id]?.hidden && !doc.bodies[id]?.away)
const fieldOf = (body: Body) =>
  body.shape.kind === 'turned' ? wallField(triangleMesh(body)) : wallOf(body.shape)
const fillOf = (body: Body) =>
  fillCurve(
    body.shape.kind === 'turned' ? { turned: body.shape.turned } : { mesh: body.shape.mesh },
  )
const post = (r: Response, transfer: Transferable[] = []) => postMessage(r, { transfer })

/** How far printed lines may be off the curves they stand for, mm. */
const PRINT_CHORD = 0.01

type Handlers = {
  [K in CallName]?: (
    ask: Calls[K]['ask'],
    id: number,
  ) => Calls[K]['reply'] | Promise<Calls[K]['reply']>
}

/** A drawing with outlines added to it. */
function joined(drawing: Drawing, outlines: Outlines, scale: number, join: number) {
  const made = drawingOf(outlines, scale, join)
  return good({ ...made, drawing: withPart(drawing, made.drawing).drawing })
}

const handlers: Handlers = {
  rebuild({ doc, view }, id) {
    const start = performance.now()
    const steps = rebuildSteps(doc, cache, view.draft)
    for (;;) {
      const next = steps.next()
      if (next.done) {
        queue.want(next.value.waits, doc)
        return viewOf(doc, next.value, view, performance.now() - start)
      }
      if (!view.draft) post({ id, is: 'progress', report: next.value })
    }
  },
  // On the thread that searches: opening a workpiece does not wait for pictures of others.
  portrayed: async ({ doc, view }) => {
    const own = pictures
    const run = runOn(searching, doc)
    pictured.retry()
    const built = await rebuildWith(
      doc,
      async (job, recipes) =>
        own === pictures ? run(job, recipes) : bad(STOPPED, 'The Shelf was left.'),
      pictured,
    )
    return own === pictures ? viewOf(doc, built, view, 0) : null
  },
  leavePictures() {
    pictures++
    return null
  },
  async picks({ doc, op, body, plane }) {
    // Only what comes before the op is waited for, however long the op itself takes with what is picked so far.
    const { rolledTo: _, ...whole } = doc
    const upTo = doc.route.findIndex((o) => o.id === op)
    if (upTo < 0) return null
    const route = doc.route.slice(0, upTo)
    const found = (await settled({ ...whole, route, gauges: [] })).state.bodies[body]
    const cut = { plane, free: false }
    const view = { cutaway: false, fill: null, draft: true, solid: true, plane, cut }
    return found ? bodyView(found, view) : null
  },
  tryDimension: ({ doc, op, id, value }) => tryDimension(rebuild(doc, cache), op, id, value),
  drivers: ({ doc, op, point }) => driversOf(doc, rebuild(doc, cache), op, point),
  reshape: ({ doc, op, change }) =>
    workedOut(() => reshape(rebuild(doc, cache), op, change), runOn(serving, doc), cache.exact),
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
  areas({ doc, op, section }) {
    const own = doc.route.find((o) => o.id === op)?.inputs ?? {}
    const inputs =
      section === undefined ? own : ((own.sections as Record<string, unknown>[])[section] ?? {})
    const profile = rebuild(doc, cache).before[op]?.profiles[
      String(inputs.profile ?? (inputs.profiles as string[] | undefined)?.[0])
    ]
    if (!profile) return []
    const cells = profileCells(profile.shape)
    const refs = (inputs.areas ?? []) as CellRef[]
    const chosen = refs.map((r) => cellOf(cells, r)?.cell)
    return cells.map((cell) => ({
      ref: cellRef(cell),
      loops: [cell.outer, ...cell.holes].map((loop) =>
        loop.flatMap((s) => flattenParams(s.curve, 0.05).map((t) => pointAt(s.curve, t))),
      ),
      chosen: chosen.indexOf(cell),
    }))
  },
  async walls({ doc }) {
    const shown = shownBodies(doc, await settled(doc))
    return shown.flatMap((b) => {
      const field = fieldOf(b)
      if (!field) return []
      // Copies: what is kept stays when these are handed over.
      const { cells, walls, min, max } = field
      return [{ body: b.id, cells: cells.slice(), walls: walls.slice(), min, max }]
    })
  },
  async lines({ doc, count }) {
    const out: LinesView[] = []
    for (const { id, shape } of shownBodies(doc, await settled(doc))) {
      if (shape.kind !== 'exact') continue
      const job = linesJob(shape, { ...READ_LINES, count })
      const read = await workedOut(
        () => cache.exact.resultOf(job),
        runOn(serving, doc),
        cache.exact,
      )
      if (!read.ok) continue
      const { lines } = read.value[0]!.form!
      const stretches = lines.flatMap(({ places }) =>
        Array.from({ length: places.length / 3 - 1 }, (_, k) =>
          places.slice(3 * k, 3 * k + 6),
        ).flat(),
      )
      out.push({ body: id, stretches: Float32Array.from(stretches) })
    }
    return out
  },
  async chart({ doc, body: id, path, kind }) {
    const { state } = await settled(doc)
    const way = state.paths[path ?? '']
    if (kind === 'bending') return way ? { kind, bending: bendingOf(way.pieces) } : null
    const body = state.bodies[id]
    if (!body) return null
    if (kind === 'sections')
      return way ? { kind, sections: sectionsAlong(triangleMesh(body), way.pieces) } : null
    if (kind === 'fill') {
      const fill = fillOf(body)
      return fill && { kind, fill }
    }
    if (kind === 'walls') {
      const field = fieldOf(body)
      return field && { kind, walls: wallHistogram(field) }
    }
    const section = sectionCurve(triangleMesh(body), kind, densityOf(doc, body))
    return { kind: 'section', along: kind, section }
  },
  async scale({ doc, body: id, every }) {
    const body = (await settled(doc)).state.bodies[id]
    const fill = body && fillOf(body)
    return fill ? levelScale(fill, every, body.name || body.id) : null
  },
  async sectionOut({ doc, plane, format }) {
    const loops = shownBodies(doc, await settled(doc)).flatMap((b) => slice(triangleMesh(b), plane))
    const curves = loops.flatMap((loop) =>
      loop.flatMap((p, i) => {
        const q = loop[(i + 1) % loop.length]!
        return dist(p, q) > 1e-9 ? [line(p, q)] : []
      }),
    )
    if (curves.length === 0) return 'The plane does not go through any body shown.'
    const text = format === 'dxf' ? writeDxf(curves) : writeSvg(curves).text
    return { text, note: `${loops.length} outlines in mm, by triangles within ${SHOWN.chord} mm` }
  },
  async printed({ doc, what, scale, paper }) {
    const built = await settled(doc)
    const { printedPdf } = await printing()
    if ('op' in what) {
      const drawn = built.state.profiles[what.op]?.shape.drawn ?? []
      const lines = drawn
        .filter((d) => !d.construction)
        .map(({ curve }) => flattenParams(curve, PRINT_CHORD).map((t) => pointAt(curve, t)))
      const name = doc.route.find((o) => o.id === what.op)?.name ?? ''
      return printedPdf({ title: `${doc.name}: ${name}`, lines }, scale, paper)
    }
    const lines = shownBodies(doc, built).flatMap((b) =>
      slice(triangleMesh(b), what.plane).map((loop) => [...loop, loop[0]!]),
    )
    if (lines.length === 0) return 'The plane does not go through any body shown.'
    return printedPdf({ title: `${doc.name}: section`, lines }, scale, paper)
  },
  async range({ doc, op, input }, id) {
    const built = await settled(doc)
    const run = runOn(searching, doc)
    const runUnlessLeft: typeof run = async (job, recipes) => {
      if (left.has(id)) throw new EngineError('The search was left.')
      return run(job, recipes)
    }
    return workedOut(() => rangeOf(doc, built, op, input), runUnlessLeft, cache.exact)
  },
  symmetry: ({ doc, op }) => cageSymmetry(doc, rebuild(doc, cache), op),
  examine: ({ doc, op }) => cageCures(doc, rebuild(doc, cache), op),
  solve: ({ doc, request }) =>
    workedOut(() => solveWorkpiece(doc, request, solving), runOn(searching, doc), solving.exact),
  async release(ask) {
    const { doc, format, chord, angle, without } = ask
    const built = rebuild(doc, cache)
    const exact = built.waits.length > 0 || bodiesOf(built).some((b) => b.shape.kind !== 'turned')
    if (format === 'step' || exact) return serving.call('release', ask, { budget: RELEASE_LIMIT })
    const made = await releaseFile(doc, built, format, { chord, angle, without })
    return made.ok ? made.value : made.diagnosis.message
  },
  async overlaps({ doc, only }) {
    const bodies = bodiesOf(await settled(doc)).filter((b) => only.includes(b.id))
    const ask = bodies.map((b) => ({ name: b.name || b.id, mesh: triangleMesh(b) }))
    return ask.length < 2 ? [] : searching.call('shared', ask, { budget: RELEASE_LIMIT })
  },
  measureFile: (ask) => searching.call('measureFile', ask, { budget: RELEASE_LIMIT }),
  retry() {
    cache.retry()
    return null
  },
  stopKernel() {
    queue.stop()
    serving.stop('Stopped as asked.')
    searching.stop('Stopped as asked.')
    return null
  },
}

self.addEventListener('message', async (e: MessageEvent<Request | Leave>) => {
  if ('leave' in e.data) {
    if (working.has(e.data.leave)) left.add(e.data.leave)
    return
  }
  const { id, call, ask } = e.data
  working.add(id)
  try {
    const handler = handlers[call] as ((ask: unknown, id: number) => unknown) | undefined
    if (!handler) throw new Error(`the lathe does not do "${call}"`)
    const said = handler(ask, id)
    const reply = said instanceof Promise ? await said : said
    post(
      { id, is: 'done', reply },
      call === 'rebuild' ? transferables(reply as Calls['rebuild']['reply']) : [],
    )
  } catch (error) {
    post({ id, is: 'broken', message: error instanceof Error ? error.message : String(error) })
  } finally {
    working.delete(id)
    left.delete(id)
  }
})
