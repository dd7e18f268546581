import type { Canvas } from '../useCanvasView'

/** Grid lines, the axis and the base line. */
export function Grid({ canvas, step }: { canvas: Canvas; step: number }) {
  const { size, toPlane, toScreen } = canvas
  if (size.w === 0) return null
  const [x0, y1] = toPlane([0, 0])
  const [x1, y0] = toPlane([size.w, size.h])
  const lines: string[] = []
  const strong: string[] = []
  if (step > 0) {
    for (let i = Math.ceil(x0 / step); i * step <= x1; i++) {
      ;(i % 5 === 0 ? strong : lines).push(`M${toScreen([i * step, 0])[0]} 0V${size.h}`)
    }
    for (let i = Math.ceil(y0 / step); i * step <= y1; i++) {
      ;(i % 5 === 0 ? strong : lines).push(`M0 ${toScreen([0, i * step])[1]}H${size.w}`)
    }
  }
  const [ax, ay] = toScreen([0, 0])
  return (
    <g fill="none">
      <path d={lines.join('')} stroke="#ece5d3" />
      <path d={strong.join('')} stroke="#dfd5bd" />
      <path
        d={`M${ax} 0V${size.h}`}
        stroke="#7a5310"
        strokeWidth={1.2}
        strokeDasharray="14 4 2 4"
      />
      <path d={`M0 ${ay}H${size.w}`} stroke="#cfc4aa" />
    </g>
  )
}
