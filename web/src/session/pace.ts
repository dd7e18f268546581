import { useRef } from 'react'
import { useSession } from './session'

/**
 * A value as it is, but during a drag only as often as the Stage shows a new solid: what would cost
 * more to draw anew with every step than the step itself.
 */
export function useStagePace<T>(value: T): T {
  const dragging = useSession((s) => s.dragFrom !== null)
  const settled = useSession((s) => s.settled)
  const kept = useRef({ value, settled })
  if (!dragging || kept.current.settled !== settled) kept.current = { value, settled }
  return kept.current.value
}
