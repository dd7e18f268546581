import { type Op, packFile } from '@ivory/core/workpiece'
import { FileUp } from 'lucide-react'
import { useRef } from 'react'
import { toast } from 'sonner'
import { edit, useSession } from '../session/session'
import { Button } from '../ui/controls'

/** The file an op brings in: its name, and a button to choose one. It is kept in the workpiece. */
export function FileField({ op, name, accept }: { op: Op; name: string; accept: string }) {
  const file = useSession((s) => s.doc?.files?.[String(op.inputs[name])])
  const picker = useRef<HTMLInputElement>(null)
  const take = async (chosen: File) => {
    const packed = packFile(chosen.name, new Uint8Array(await chosen.arrayBuffer()))
    if (!packed.ok) {
      toast.error(packed.diagnosis.message)
      return
    }
    edit((d) => {
      d.files = { ...d.files, [packed.value.id]: packed.value.file }
      const target = d.route.find((o) => o.id === op.id)
      if (target) target.inputs[name] = packed.value.id
    })
  }
  return (
    <div className="flex min-w-0 items-center gap-2">
      <span className="min-w-0 flex-1 truncate" title={file?.name}>
        {file?.name ?? 'none yet'}
      </span>
      <Button onClick={() => picker.current?.click()}>
        <FileUp size={14} aria-hidden="true" /> Choose
      </Button>
      <input
        ref={picker}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label="File to bring in"
        onChange={(e) => {
          const chosen = e.target.files?.[0]
          e.target.value = ''
          if (chosen) void take(chosen).catch(() => toast.error(`${chosen.name} cannot be read.`))
        }}
      />
    </div>
  )
}
