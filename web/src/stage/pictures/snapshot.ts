let source: HTMLCanvasElement | null = null

/** The Stage tells which canvas shows the workpiece. */
export const setSnapshotSource = (canvas: HTMLCanvasElement | null): void => {
  source = canvas
}

/** A small picture of the Stage as a data address, or nothing while there is no Stage. */
export function snapshot(): string | undefined {
  if (!source || source.width === 0) return undefined
  const [w, h] = [320, 200]
  const small = document.createElement('canvas')
  small.width = w
  small.height = h
  const ctx = small.getContext('2d')
  if (!ctx) return undefined
  const scale = Math.max(w / source.width, h / source.height)
  const [sw, sh] = [w / scale, h / scale]
  ctx.fillStyle = '#f6f1e4'
  ctx.fillRect(0, 0, w, h)
  ctx.drawImage(source, (source.width - sw) / 2, (source.height - sh) / 2, sw, sh, 0, 0, w, h)
  return small.toDataURL('image/webp', 0.8)
}
