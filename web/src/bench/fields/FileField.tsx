import type { Op } from '@ivory/core/workpiece'
import { FileUp } from 'lucide-react'
import { toast } from 'sonner'
import { keepFile } from '../../session/files'
import { useSession } from '../../session/session'
import { FileButton } from '../../ui/FileButton'

/** The file an op brings in: its name, and a button to choose one. It is kept in the workpiece. */
export function FileField({ op, name, accept }: { op: Op; name: string; accept: string }) {
  const file = useSession((s) => s.doc?.files?.[String(op.inputs[name])])
  const take = async (chosen: File) => {
    const bytes = new Uint8Array(await chosen.arrayBuffer())
    keepFile(op.id, chosen.name, bytes, (inputs, id) => {
      inputs[name] = id
    })
  }
  return (
    <div className="flex min-w-0 items-center gap-2">
      <span className="min-w-0 flex-1 truncate" title={file?.name}>
        {file?.name ?? 'none yet'}
      </span>
      <FileButton
        label="File to bring in"
        accept={accept}
        onFile={(f) => void take(f).catch(() => toast.error(`${f.name} cannot be read.`))}
      >
        <FileUp size={14} aria-hidden="true" /> Choose
      </FileButton>
    </div>
  )
}
