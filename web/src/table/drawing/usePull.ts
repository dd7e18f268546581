import type { P2 } from '@ivory/core/math'
import type { Drawing } from '@ivory/core/profile'
import type { Driver } from '@ivory/core/rebuild'
import { useRef, useState } from 'react'
import { toast } from 'sonner'
import { EngineError, lathe, type ProfileView } from '../../engine'
import { edit, preview, undo, useSession } from '../../session/session'
import type { Pulling } from '../layers/PullTag'
import { answering, pulled, pullWords, putNumber } from './pull'

/** A drag of a held point, which moves a number instead of the point. */
export interface Pull {
  point: string
  /** Null until the lathe has found them. */
  drivers: Driver[] | null
  heldBy: string[]
  step: P2
  /** Where the pointer is, px. */
  at: P2
  /** The number that answers; null where none does, undefined until the drag has a direction. */
  driver?: Driver | null
  others: Driver[]
}

/** Whether a point goes where it is dragged by itself. */
export const isFree = (drawing: Drawing, profile: ProfileView, id: string): boolean => {
  const p = drawing.points[id]
  if (!p || profile.given.has(id)) return true
  const driven = typeof p.x === 'string' || typeof p.y === 'string'
  return !driven && profile.hold.travels.some((t) => t.point === id)
}

/** Pulling at held points of the op's drawing: what is shown of it, and how it goes on. */
export function usePull(op: string) {
  const [pulling, setPulling] = useState<Pulling | null>(null)
  const last = useRef<P2>([0, 0])

  const go = (p: Pull) => {
    if (!p.drivers || Math.hypot(...p.step) === 0) return
    if (p.driver === undefined) {
      const able = answering(p.drivers, p.step)
      p.driver = able[0] ?? null
      p.others = able.slice(1, 4)
    }
    if (!p.driver) {
      const by = p.heldBy.length > 0 ? p.heldBy.join(', ') : 'the pieces it belongs to'
      useSession.setState({ hover: `${p.point} is held by ${by}.` })
      return
    }
    const { driver } = p
    const value = pulled(driver, p.step)
    preview((draft) => putNumber(draft, op, driver, value))
    setPulling({ at: p.at, words: pullWords(driver, value), others: [] })
  }
  return {
    pulling,
    clear: () => setPulling(null),
    /** Begins a pull; the numbers that may answer come a little later. */
    begin(point: string): Pull {
      const p: Pull = { point, drivers: null, heldBy: [], step: [0, 0], at: [0, 0], others: [] }
      const { doc } = useSession.getState()
      lathe
        .call('drivers', { doc: doc!, op, point })
        .then((found) => {
          Object.assign(p, found)
          // The pointer may have moved while the lathe was looking.
          go(p)
        })
        .catch((e: unknown) => {
          if (!(e instanceof EngineError)) throw e
          toast.error(e.message)
        })
      return p
    },
    follow(p: Pull, step: P2, at: P2) {
      Object.assign(p, { step, at })
      go(p)
    },
    /** After the drag has become a change: what else could have answered is offered. */
    end(p: Pull) {
      p.drivers = null
      last.current = p.step
      setPulling((s) => (p.driver && p.others.length > 0 && s ? { ...s, others: p.others } : null))
    },
    /** Takes the change back and moves another number by as much instead. */
    instead(d: Driver) {
      undo()
      const value = pulled(d, last.current)
      edit((draft) => putNumber(draft, op, d, value))
      setPulling((s) => s && { ...s, words: pullWords(d, value), others: [] })
    },
  }
}
