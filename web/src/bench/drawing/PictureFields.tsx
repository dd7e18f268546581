import { rounded } from '@ivory/core/math'
import type { Op } from '@ivory/core/workpiece'
import { useState } from 'react'
import { toast } from 'sonner'
import type { ProfileView } from '../../engine'
import { keepFile } from '../../session/files'
import { drawingOf, preview, setInputs, settle, useSession } from '../../session/session'
import { Button, CommitInput } from '../../ui/controls'
import { FileButton } from '../../ui/FileButton'
import { typedNumber } from '../../ui/number'

/** A picture under the drawing, for tracing: lower left corner and width in mm. */
export interface Picture {
  file: string
  x: number
  y: number
  width: number
  opacity: number
  locked?: boolean
}
export const pictureOf = (op: Op): Picture | undefined => op.inputs.picture as Picture | undefined

/** Pictures are kept at most this many pixels wide or high. */
const MOST_PIXELS = 1600
const MAX_BYTES = 30 * 1024 * 1024

/** The picture drawn anew: smaller, and without what a camera wrote into it. */
async function cleaned(file: File): Promise<Uint8Array> {
  const bitmap = await createImageBitmap(file)
  const k = Math.min(1, MOST_PIXELS / Math.max(bitmap.width, bitmap.height))
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(bitmap.width * k)),
    Math.max(1, Math.round(bitmap.height * k)),
  )
  const paper = canvas.getContext('2d')!
  paper.fillStyle = '#fff'
  paper.fillRect(0, 0, canvas.width, canvas.height)
  paper.drawImage(bitmap, 0, 0, canvas.width, canvas.height)
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 })
  return new Uint8Array(await blob.arrayBuffer())
}

/** Places, scales and locks the tracing picture of a profile. */
export function PictureFields({ op, profile }: { op: Op; profile: ProfileView }) {
  const drawn = useSession((s) => s.drawn)
  const [known, setKnown] = useState('50')
  const picture = pictureOf(op)
  const put = (p: Picture | undefined) => setInputs(op.id, { picture: p })
  const take = async (file: File) => {
    if (file.size > MAX_BYTES) {
      toast.error(`${file.name} is larger than 30 MB.`)
      return
    }
    let bytes: Uint8Array
    try {
      bytes = await cleaned(file)
    } catch {
      toast.error(`${file.name} is not a picture that can be shown here; take a PNG or JPEG.`)
      return
    }
    keepFile(op.id, file.name.replace(/\.[^.]+$/, '.jpg'), bytes, (inputs, id) => {
      inputs.picture = { file: id, x: 0, y: 0, width: 100, opacity: 0.5 }
    })
  }
  const line = drawingOf(op).entities.find(
    (e) => e.kind === 'line' && drawn.entities.includes(e.id),
  )
  const scaleBy = () => {
    if (!picture || line?.kind !== 'line') return
    const [a, b] = [profile.points[line.a], profile.points[line.b]]
    const length = typedNumber(known) ?? 0
    if (!a || !b || !(length > 0)) {
      toast.error('Type the true length of the chosen line.')
      return
    }
    const k = length / Math.hypot(b[0] - a[0], b[1] - a[1])
    // About the line's first end, so that what it started on stays under it.
    put({
      ...picture,
      x: a[0] + (picture.x - a[0]) * k,
      y: a[1] + (picture.y - a[1]) * k,
      width: picture.width * k,
    })
  }
  const number = (label: string, key: 'x' | 'y' | 'width') => (
    <label className="flex items-center gap-1">
      {label}
      <CommitInput
        aria-label={`Picture ${label}`}
        className="figures w-16"
        disabled={picture?.locked}
        value={String(rounded(picture![key], 3))}
        onCommit={(t) => {
          const n = typedNumber(t)
          if (n !== null && (key !== 'width' || n > 0)) put({ ...picture!, [key]: n })
          else toast.error(`${t} cannot be.`)
        }}
      />
    </label>
  )
  return (
    <details open={picture !== undefined}>
      <summary className="cursor-pointer font-medium">Tracing picture</summary>
      <div className="mt-1 flex flex-col gap-1 text-sm">
        <p className="flex flex-wrap gap-1">
          <FileButton
            label="Picture to trace"
            accept="image/png,image/jpeg"
            className="py-0!"
            onFile={(f) => void take(f)}
          >
            {picture ? 'Another picture' : 'Lay a picture under'}
          </FileButton>
          {picture && (
            <Button className="py-0!" onClick={() => put(undefined)}>
              Take it away
            </Button>
          )}
        </p>
        {picture && (
          <>
            <p className="flex flex-wrap gap-2">
              {number('from axis', 'x')}
              {number('height', 'y')}
              {number('width', 'width')}
            </p>
            <p className="flex items-center gap-2">
              <label className="flex items-center gap-1">
                strength
                <input
                  type="range"
                  min={10}
                  max={100}
                  value={Math.round(picture.opacity * 100)}
                  className="w-24 accent-brass"
                  onChange={(e) => {
                    const opacity = Number(e.target.value) / 100
                    setInputs(op.id, { picture: { ...picture, opacity } }, preview)
                  }}
                  onPointerUp={settle}
                  onKeyUp={settle}
                />
              </label>
              <label className="flex items-center gap-1">
                <input
                  type="checkbox"
                  checked={Boolean(picture.locked)}
                  onChange={(e) => put({ ...picture, locked: e.target.checked })}
                />
                locked
              </label>
            </p>
            <p className="flex flex-wrap items-center gap-1">
              {line
                ? `${line.id} is truly`
                : 'Draw a line over a known length and choose it; it is'}
              <input
                aria-label="True length, mm"
                className="figures w-16 rounded-sm border border-rule bg-sheet px-1"
                value={known}
                onChange={(e) => setKnown(e.target.value)}
                onKeyDown={(e) => e.stopPropagation()}
              />
              mm
              <Button className="py-0!" disabled={!line || picture.locked} onClick={scaleBy}>
                Set the scale
              </Button>
            </p>
          </>
        )}
      </div>
    </details>
  )
}
