import type { Drawing } from '@ivory/core/profile'
import type { Reshape } from '@ivory/core/rebuild'
import { toast } from 'sonner'
import { EngineError, lathe } from '../../engine'
import { setInputs, useSession } from '../../session/session'

/** Changes a profile's drawing in the lathe's thread; what cannot be is told and nothing changes. */
export async function reshapeProfile(op: string, change: Reshape): Promise<boolean> {
  const made = await asked(op, change)
  if (made) setInputs(op, { drawing: made })
  return made !== null
}

async function asked(op: string, change: Reshape): Promise<Drawing | null> {
  const { doc } = useSession.getState()
  if (!doc) return null
  try {
    const reply = await lathe.call('reshape', { doc, op, change })
    if (reply.ok) return reply.value
    toast.error(reply.diagnosis.message)
  } catch (e) {
    if (!(e instanceof EngineError)) throw e
    toast.error(e.message)
  }
  return null
}

/** Pieces taken along from one profile to be put into another. */
let pocket: Drawing | null = null

export async function copyPieces(op: string, pieces: string[]): Promise<void> {
  const part = await asked(op, { do: 'part', pieces })
  if (!part) return
  pocket = part
  toast(`${part.entities.length} pieces copied, with what holds them. Put them into any profile.`)
}
export function pastePieces(op: string): void {
  if (pocket) void reshapeProfile(op, { do: 'paste', part: pocket })
  else toast('Nothing was copied yet.')
}
