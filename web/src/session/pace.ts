import { useRef } from 'react'
import { useSession } from './session'

/**
 * A value as it is, but during a drag only as often as the Stage shows a new solid: what would cost
 * more to draw anew with every step than the step itself.
 */
export function useStagePace<T>(value: T): T {
  const dragging = useSession((s) => s.dragFrom !== null)
  const solids = useSession((s) => s.solids)
  const kept = useRef({ value, solids })
  if (!dragging || kept.current.solids !== solids) kept.current = { value, solids }
  return kept.current.value
}
