import { type P3, placeAt } from '@ivory/core/math'
import { useMemo } from 'react'
import { useSession } from './session'

/** Places of a laid form by how far off they are: well within what was asked, up to it, and beyond. */
export interface LaidPlaces {
  within: number
  well: P3[]
  near: P3[]
  beyond: P3[]
}

/** How the chosen cage lies on a body, while the edit that laid it is open. */
export function useLaid(): LaidPlaces | null {
  const laid = useSession((s) => s.view?.reports.find((r) => r.id === s.selected)?.shown?.laid)
  const open = useSession((s) => s.caging.open)
  return useMemo(() => {
    if (!laid || laid.edit !== open) return null
    const { places, offs, within } = laid
    const of = (from: number, to: number) =>
      [...offs].flatMap((d, k) => (d > from && d <= to ? [placeAt(places, k)] : []))
    return {
      within,
      well: of(-1, within / 2),
      near: of(within / 2, within),
      beyond: of(within, Number.POSITIVE_INFINITY),
    }
  }, [laid, open])
}
