import { EngineError, lathe } from '../engine'
import type { View } from '../engine/protocol'
import { cutPlane } from './cut'
import { tablePlane, useSession } from './session'

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
      { doc, view: { cutaway, fill, draft, solid, ...planes(useSession.getState()) } },
      { budget: 600_000, progress: (r) => useSession.setState({ reached: r.number }) },
    )
    if (useSession.getState().doc?.id === doc.id) {
      useSession.setState({ view, broken: '', ...(solid && { settled: settledBy(view) }) })
      if (solid) paceSolids()
    }
  } catch (e) {
    if (!(e instanceof EngineError)) throw e
    useSession.setState({ broken: e.message })
  } finally {
    clearTimeout(waiting)
    useSession.setState({ building: false })
  }
}

const planes = (s: ReturnType<typeof useSession.getState>) => ({
  plane: tablePlane(s),
  cut: { plane: cutPlane(s), free: s.cut !== null },
})

/**
 * What stays shown: while the exact kernel is at work, bodies and gauges stay as they were until all of it
 * is there.
 */
function settledBy(view: View): View {
  const { settled } = useSession.getState()
  if (view.waits === 0 || !settled) return view
  return { ...view, bodies: settled.bodies, gauges: settled.gauges }
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
  lathe.onNews = () => void refresh()
  void refresh()
  return useSession.subscribe((s, before) => {
    const changed =
      s.doc !== before.doc ||
      s.cutaway !== before.cutaway ||
      s.fill !== before.fill ||
      s.cut !== before.cut ||
      (tablePlane(s) !== tablePlane(before) && s.view?.bodies.some((b) => !b.turned)) ||
      s.dragFrom !== before.dragFrom
    if (changed) void refresh()
  })
}
