import { type Op, packFile } from '@ivory/core/workpiece'
import { toast } from 'sonner'
import { edit } from './session'

/** Keeps a file in the workpiece and lets `put` name it in an op's inputs, in one change. */
export function keepFile(
  op: string,
  name: string,
  bytes: Uint8Array,
  put: (inputs: Op['inputs'], id: string) => void,
): void {
  const packed = packFile(name, bytes)
  if (!packed.ok) {
    toast.error(packed.diagnosis.message)
    return
  }
  const { id, file } = packed.value
  edit((d) => {
    d.files = { ...d.files, [id]: file }
    const target = d.route.find((o) => o.id === op)
    if (target) put(target.inputs, id)
  })
}
