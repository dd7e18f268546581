import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { lathe } from '../engine'
import { verdictWord } from '../session/autosave'
import { type Card, load, savePicture } from '../storage/db'
import { FRONT } from '../table/frame'

const VIEW = {
  cutaway: true,
  fill: null,
  draft: true,
  solid: true,
  plane: FRONT,
  cut: { plane: FRONT, free: false },
}

/** Makes the picture of a workpiece that was never opened; null where there is nothing to show. */
async function picture(id: string): Promise<{ thumbnail?: string; verdict?: string } | null> {
  const kept = await load(id)
  if (typeof kept === 'string') return null
  const view = await lathe.call('portrayed', { doc: kept.doc, view: VIEW })
  if (!view) return null
  const bodies = view.bodies.flatMap((b) =>
    b.mesh ? [{ mesh: b.mesh, color: kept.doc.bodies[b.id]?.color ?? '#d9d2c0' }] : [],
  )
  const { portrait } = await import('../stage/pictures/portrait')
  const thumbnail = bodies.length > 0 ? portrait(bodies) : undefined
  const verdict = verdictWord(view.gauges)
  return { ...(thumbnail ? { thumbnail } : {}), ...(verdict ? { verdict } : {}) }
}

/** Makes the pictures that cards lack, one after the other, in the background. */
export function usePictures(cards: readonly Card[] | undefined): void {
  const queries = useQueryClient()
  const tried = useRef(new Set<string>())
  // What is opened needs the machine more than pictures do.
  useEffect(() => () => void lathe.call('leavePictures', null), [])
  useEffect(() => {
    let gone = false
    void (async () => {
      for (const c of cards ?? []) {
        if (gone) return
        if (c.thumbnail || tried.current.has(c.id)) continue
        tried.current.add(c.id)
        // A picture that cannot be made leaves the card as it is; opening the piece tells why.
        const made = await picture(c.id).catch(() => null)
        if (!made?.thumbnail) continue
        await savePicture(c.id, made)
        await queries.invalidateQueries({ queryKey: ['shelf'] })
      }
    })()
    return () => {
      gone = true
    }
  }, [cards, queries])
}
