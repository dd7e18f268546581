import { writeWorkpiece } from '@ivory/core/workpiece'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { saveNow } from '../../session/autosave'
import { openSession, useSession } from '../../session/session'
import { load, StorageError, save } from '../../storage/db'
import { newWorkpieceId } from '../../storage/ids'
import { Button } from '../../ui/controls'
import { downloadFile } from '../../ui/download'

/** Another tab saved the same workpiece: nothing is overwritten until a person decides. */
export function Conflict() {
  const navigate = useNavigate()
  const keepMine = async () => {
    const { doc, past } = useSession.getState()
    if (!doc) return
    const copy = {
      ...doc,
      id: newWorkpieceId(),
      name: `${doc.name} (this tab)`,
    }
    try {
      await save(copy, past, 0)
      navigate(`/w/${copy.id}`)
    } catch (e) {
      if (!(e instanceof StorageError)) throw e
      toast.error(e.message)
    }
  }
  const takeTheirs = async () => {
    const { doc } = useSession.getState()
    const kept = doc && (await load(doc.id))
    if (kept && typeof kept !== 'string') {
      openSession(kept.doc, kept.past, kept.revision)
      void saveNow()
    }
  }
  const exportMine = () => {
    const { doc } = useSession.getState()
    if (doc) downloadFile(`${doc.name}.lathe.json`, 'application/json', writeWorkpiece(doc))
  }
  return (
    <div role="alert" className="flex h-9 items-center gap-2 bg-out px-3 text-sheet">
      Another tab has changed this workpiece. Nothing here is saved until you choose.
      <Button className="py-0! text-ink" onClick={() => void takeTheirs()}>
        Take theirs
      </Button>
      <Button className="py-0! text-ink" onClick={() => void keepMine()}>
        Keep mine as a copy
      </Button>
      <Button className="py-0! text-ink" onClick={exportMine}>
        Export mine
      </Button>
    </div>
  )
}
