import type { ChartKind } from '../engine'

/** The charts there are. */
export const CHARTS: readonly { kind: ChartKind; label: string }[] = [
  { kind: 'fill', label: 'Volume by level' },
  { kind: 'walls', label: 'Walls' },
  { kind: 'z', label: 'Sections going up' },
  { kind: 'x', label: 'Sections to the right' },
  { kind: 'y', label: 'Sections to the back' },
]
