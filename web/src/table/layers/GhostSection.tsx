import type { Frame } from '@ivory/core/math'
import { useGhost } from '../../session/ghost'
import { sectionPath } from '../drawing/outlines'
import { onPlane } from '../frame'
import type { Canvas } from '../useCanvasView'

/** The section of the proof that is compared, over that of now. */
export function GhostSection({ canvas, frame }: { canvas: Canvas; frame: Frame }) {
  const { bodies } = useGhost()
  return bodies.map((b) => (
    <path
      key={b.id}
      data-testid="proof-section"
      d={sectionPath(b, (p) => canvas.toScreen(onPlane(frame, b.frame, p)))}
      fill="#5f7f8c"
      fillOpacity={0.14}
      fillRule="evenodd"
      stroke="#2f4d5a"
      strokeWidth={1.3}
      strokeDasharray="7 3 2 3"
    />
  ))
}
