import { type Op, unpackFile } from '@ivory/core/workpiece'
import { useEffect, useState } from 'react'
import { pictureOf } from '../bench/PictureFields'
import { useSession } from '../session/session'
import type { Canvas } from './useCanvasView'

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
  return (
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
  )
}
