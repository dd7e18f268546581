import type { P2 } from '@ivory/core/math'
import { type Op, unpackFile } from '@ivory/core/workpiece'
import { type PointerEvent, useEffect, useRef, useState } from 'react'
import { type Picture, pictureOf } from '../../bench/drawing/PictureFields'
import { preview, setInputs, settle, useSession } from '../../session/session'
import { tidy } from '../drawing/edits'
import type { Canvas } from '../useCanvasView'

/** The tracing picture of a profile, under everything drawn. */
export function PictureLayer({ op, canvas }: { op: Op; canvas: Canvas }) {
  const picture = pictureOf(op)
  const file = useSession((s) => (picture ? s.doc?.files?.[picture.file] : undefined))
  const [shown, setShown] = useState<{ url: string; ratio: number } | null>(null)
  useEffect(() => {
    const bytes = file && unpackFile(file)
    if (!bytes?.ok) return
    const url = URL.createObjectURL(
      new Blob([bytes.value as Uint8Array<ArrayBuffer>], { type: 'image/jpeg' }),
    )
    const img = new Image()
    img.onload = () => setShown({ url, ratio: img.naturalHeight / img.naturalWidth })
    img.src = url
    return () => {
      setShown(null)
      URL.revokeObjectURL(url)
    }
  }, [file])
  if (!picture || !shown) return null
  const height = picture.width * shown.ratio
  const [x, y] = canvas.toScreen([picture.x, picture.y + height])
  const [left, foot] = canvas.toScreen([picture.x, picture.y])
  return (
    <g>
      <image
        data-testid="tracing"
        href={shown.url}
        x={x}
        y={y}
        width={picture.width / canvas.view.scale}
        height={height / canvas.view.scale}
        opacity={picture.opacity}
        preserveAspectRatio="none"
      />
      {!picture.locked && (
        <Grip op={op.id} picture={picture} at={[left, foot]} scale={canvas.view.scale} />
      )}
    </g>
  )
}

/** The lower left corner of a picture that is not locked: dragging it moves the picture. */
function Grip({
  op,
  picture,
  at: [x, y],
  scale,
}: {
  op: string
  picture: Picture
  at: P2
  /** mm a pixel. */
  scale: number
}) {
  const from = useRef<{ pointer: P2; corner: P2 } | null>(null)
  const move = (e: PointerEvent) => {
    const start = from.current
    if (!start) return
    e.stopPropagation()
    const to = [
      start.corner[0] + (e.clientX - start.pointer[0]) * scale,
      start.corner[1] - (e.clientY - start.pointer[1]) * scale,
    ].map(tidy)
    setInputs(op, { picture: { ...picture, x: to[0], y: to[1] } }, preview)
  }
  return (
    <path
      data-testid="picture-grip"
      d={`M${x - 2} ${y - 22}v24h24v-9h-15v-15z`}
      className="cursor-move fill-brass/80 stroke-sheet"
      onPointerDown={(e) => {
        e.stopPropagation()
        e.currentTarget.setPointerCapture(e.pointerId)
        from.current = { pointer: [e.clientX, e.clientY], corner: [picture.x, picture.y] }
      }}
      onPointerMove={move}
      onPointerUp={(e) => {
        e.stopPropagation()
        from.current = null
        settle()
      }}
    >
      <title>Drag the picture; lock it to keep it where it is</title>
    </path>
  )
}
