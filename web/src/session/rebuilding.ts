import { bad } from '@ivory/core/math'
import type { Workpiece } from '@ivory/core/workpiece'
import { EngineError, exact, lathe } from '../engine'
import type { View } from '../engine/protocol'
import { useSession } from './session'

let running = 0
let again = false
/** When the next solid may be made during a drag, on the page's clock. */
let nextSolid = 0
const SOLID_EVERY = 300
/** Share of a drag's time that the Stage may take, as 1 part in so many. */
const SOLID_SHARE = 12

/**
 * Brings the view up to the document. While rebuilds run, only the newest state waits; during a drag
 * a second one is under way already, so that the lathe need not wait for the page to show the first.
 */
export async function refresh(): Promise<void> {
  const room = useSession.getState().dragFrom === null ? 1 : 2
  if (running >= room) {
    again = true
    return
  }
  running++
  try {
    do {
      again = false
      await once()
    } while (again)
  } finally {
    running--
  }
}

async function once(): Promise<void> {
  const { doc, cutaway, fill, dragFrom } = useSession.getState()
  if (!doc) return
  const draft = dragFrom !== null
  // During a drag the section follows every step, solid and gauges as often as the machine affords.
  const solid = !draft || performance.now() > nextSolid
  const waiting = setTimeout(() => useSession.setState({ building: true }), 150)
  try {
    const view: View = await lathe.call(
      'rebuild',
      { doc, view: { cutaway, fill, draft, solid } },
      { budget: 60_000, progress: (r) => useSession.setState({ reached: r.number }) },
    )
    if (useSession.getState().doc?.id === doc.id) {
      useSession.setState({ view, broken: '', ...(solid && { settled: view }) })
      if (solid) paceSolids()
      for (const file of view.waits) void readFile(doc, file)
    }
  } catch (e) {
    if (!(e instanceof EngineError)) throw e
    useSession.setState({ broken: e.message })
  } finally {
    clearTimeout(waiting)
    useSession.setState({ building: false })
  }
}

/** Files the exact kernel is reading now. */
const reading = new Set<string>()

/** Has the exact kernel read a kept file, hands the solid to the lathe and rebuilds. */
async function readFile(doc: Workpiece, file: string): Promise<void> {
  if (reading.has(file)) return
  reading.add(file)
  try {
    const solid = await exact
      .call('readSolid', { doc, file }, { budget: 120_000 })
      .catch((e: unknown) => {
        if (!(e instanceof EngineError)) throw e
        return bad('not-read', `The file was not read: ${e.message}`)
      })
    await lathe.call('provide', { file, solid })
  } finally {
    reading.delete(file)
  }
  await refresh()
}

/** Times how long the Stage takes to show a new solid, and sets when the next may come. */
function paceSolids() {
  const start = performance.now()
  nextSolid = Number.POSITIVE_INFINITY
  requestAnimationFrame(() =>
    requestAnimationFrame(() => {
      const cost = performance.now() - start
      nextSolid = performance.now() + Math.max(SOLID_EVERY, SOLID_SHARE * cost)
    }),
  )
}

/** Keeps the view in step with the document and with what is shown of it. */
export function startRebuilding(): () => void {
  void refresh()
  return useSession.subscribe((s, before) => {
    const changed =
      s.doc !== before.doc ||
      s.cutaway !== before.cutaway ||
      s.fill !== before.fill ||
      s.dragFrom !== before.dragFrom
    if (changed) void refresh()
  })
}
