import { toast } from 'sonner'
import { snapshot } from '../stage/pictures/snapshot'
import { StorageError, save } from '../storage/db'
import { useSession } from './session'

let saving = false
let again = false

/** Saves the document as it is now; the newest state waits while one save runs. */
export async function saveNow(): Promise<void> {
  if (saving) {
    again = true
    return
  }
  saving = true
  try {
    do {
      again = false
      await once()
    } while (again && useSession.getState().save === 'saved')
  } finally {
    saving = false
  }
}

async function once(): Promise<void> {
  const { doc, past, revision, settled, save: state } = useSession.getState()
  if (!doc || state === 'conflict') return
  useSession.setState({ save: 'saving' })
  try {
    const next = await save(doc, past, revision, {
      // Half of what the route makes is no picture of it.
      ...(settled?.waits === 0
        ? { thumbnail: snapshot(), verdict: verdictWord(settled.gauges) }
        : {}),
    })
    useSession.setState({ revision: next, save: 'saved', saveWord: '' })
  } catch (e) {
    if (!(e instanceof StorageError)) throw e
    useSession.setState({ save: e.conflict ? 'conflict' : 'failed', saveWord: e.message })
    if (!e.conflict) toast.error(e.message, { id: 'save' })
  }
}

/** How the gauges stand, in a word for the card. */
export function verdictWord(gauges: { verdict: string }[]): string | undefined {
  if (gauges.length === 0) return undefined
  const count = (v: string) => gauges.filter((g) => g.verdict === v).length
  if (count('out') > 0) return `${count('out')} out`
  if (count('marginal') > 0) return `${count('marginal')} marginal`
  return count('holds') > 0 ? 'brief holds' : undefined
}

/** Saves after each change (not during a drag) and once more when the picture is there. */
export function startAutosave(): () => void {
  const first = setTimeout(() => void saveNow(), 4000)
  const off = useSession.subscribe((s, before) => {
    if (!s.doc || !before.doc || s.doc.id !== before.doc.id || s.dragFrom) return
    if (s.doc !== before.doc || s.dragFrom !== before.dragFrom) void saveNow()
  })
  return () => {
    clearTimeout(first)
    off()
  }
}
