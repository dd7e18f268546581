import type { P2 } from '@ivory/core/math'
import { type RefObject, useCallback, useEffect, useState } from 'react'

/** What the table shows: the drawing place at the middle and the scale, mm a pixel. */
export interface CanvasView {
  centre: P2
  scale: number
}

/** Pan and zoom of a canvas whose y runs up. */
export function useCanvasView(box: RefObject<HTMLElement | null>) {
  const [view, setView] = useState<CanvasView>({ centre: [30, 50], scale: 0.5 })
  const [size, setSize] = useState({ w: 0, h: 0 })
  useEffect(() => {
    const el = box.current
    if (!el) return
    const watch = new ResizeObserver(([e]) =>
      setSize({ w: e!.contentRect.width, h: e!.contentRect.height }),
    )
    watch.observe(el)
    const wheel = (e: WheelEvent) => {
      e.preventDefault()
      const r = el.getBoundingClientRect()
      const at: P2 = [e.clientX - r.left - r.width / 2, r.height / 2 - (e.clientY - r.top)]
      setView((v) => {
        const scale = Math.min(20, Math.max(0.002, v.scale * Math.exp(e.deltaY * 0.0012)))
        const k = v.scale - scale
        return { scale, centre: [v.centre[0] + at[0] * k, v.centre[1] + at[1] * k] }
      })
    }
    el.addEventListener('wheel', wheel, { passive: false })
    return () => {
      watch.disconnect()
      el.removeEventListener('wheel', wheel)
    }
  }, [box])
  const toScreen = useCallback(
    (p: P2): P2 => [
      size.w / 2 + (p[0] - view.centre[0]) / view.scale,
      size.h / 2 - (p[1] - view.centre[1]) / view.scale,
    ],
    [size, view],
  )
  const toPlane = useCallback(
    (p: P2): P2 => [
      view.centre[0] + (p[0] - size.w / 2) * view.scale,
      view.centre[1] + (size.h / 2 - p[1]) * view.scale,
    ],
    [size, view],
  )
  const fit = useCallback(
    (points: P2[]) => {
      const el = box.current
      if (size.w === 0 || !el) return
      // What the tools cover is not free; labels of places stand out to the right.
      const tools = el.querySelector('[role=toolbar]')?.getBoundingClientRect()
      const top = (tools ? tools.bottom - el.getBoundingClientRect().top : 0) + 22
      const free = { w: size.w * 0.6, h: Math.max(60, size.h - top - 28) }
      const xs = [0, ...points.map((p) => p[0])]
      const ys = points.length > 0 ? points.map((p) => p[1]) : [0, 100]
      const [x0, x1] = [Math.min(...xs), Math.max(...xs, 40)]
      const [y0, y1] = [Math.min(...ys), Math.max(...ys)]
      const scale = Math.max((x1 - x0) / free.w, (y1 - y0) / free.h, 0.005)
      setView({ centre: [(x0 + x1) / 2, (y0 + y1) / 2 + (scale * (top - 28)) / 2], scale })
    },
    [box, size],
  )
  const pan = useCallback((dx: number, dy: number) => {
    setView((v) => ({ ...v, centre: [v.centre[0] - dx * v.scale, v.centre[1] + dy * v.scale] }))
  }, [])
  return { view, size, toScreen, toPlane, fit, pan }
}
export type Canvas = ReturnType<typeof useCanvasView>
