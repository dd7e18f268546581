import { EngineError, lathe } from '../engine'
import type { View } from '../engine/protocol'
import { useSession } from './session'

let running = false
let again = false
let lastSolid = 0
const SOLID_EVERY = 300

/** Brings the view up to the document. While one rebuild runs, only the newest state waits. */
export async function refresh(): Promise<void> {
  if (running) {
    again = true
    return
  }
  running = true
  try {
    do {
      again = false
      await once()
    } while (again)
  } finally {
    running = false
  }
}

async function once(): Promise<void> {
  const { doc, cutaway, fill, dragFrom } = useSession.getState()
  if (!doc) return
  const draft = dragFrom !== null
  // During a drag the section follows every step, solid and gauges a few times a second.
  const solid = !draft || performance.now() - lastSolid > SOLID_EVERY
  const waiting = setTimeout(() => useSession.setState({ building: true }), 150)
  try {
    const view: View = await lathe.call(
      'rebuild',
      { doc, view: { cutaway, fill, draft, solid } },
      { budget: 60_000, progress: (r) => useSession.setState({ reached: r.number }) },
    )
    if (useSession.getState().doc?.id === doc.id) {
      useSession.setState(
        solid
          ? { view, solids: view.bodies, broken: '' }
          : { view: { ...view, gauges: useSession.getState().view?.gauges ?? [] }, broken: '' },
      )
      if (solid) lastSolid = performance.now()
    }
  } catch (e) {
    if (!(e instanceof EngineError)) throw e
    useSession.setState({ broken: e.message })
  } finally {
    clearTimeout(waiting)
    useSession.setState({ building: false })
  }
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
