import type { ChartKind } from '../engine'

/** The charts there are. */
export const CHARTS: readonly { kind: ChartKind; label: string }[] = [
  { kind: 'fill', label: 'Volume by level' },
  { kind: 'walls', label: 'Walls' },
  { kind: 'z', label: 'Sections going up' },
  { kind: 'x', label: 'Sections to the right' },
  { kind: 'y', label: 'Sections to the back' },
  { kind: 'bending', label: 'How a path bends' },
  { kind: 'sections', label: 'Sections along a path' },
]

/** Charts along a path. */
export const alongPath = (kind: ChartKind): boolean => kind === 'bending' || kind === 'sections'
