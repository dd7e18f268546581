import { fixed } from '@ivory/core/math'
import type { Drawing } from '@ivory/core/profile'
import { MAX_OUTLINE_BYTES } from '@ivory/core/release'
import type { Op } from '@ivory/core/workpiece'
import { useState } from 'react'
import { toast } from 'sonner'
import { EngineError, lathe } from '../../engine'
import { setInputs, useSession } from '../../session/session'
import { Button, Choice } from '../../ui/controls'
import { downloadFile } from '../../ui/download'
import { FileButton } from '../../ui/FileButton'
import { typedNumber } from '../../ui/number'

const SCALES = [
  { value: 'file', label: 'as the file says' },
  { value: '1', label: 'mm' },
  { value: '10', label: 'cm' },
  { value: '25.4', label: 'inch' },
  { value: '0.2645833333', label: 'px of 1/96 inch' },
]

/** Outlines in and out as DXF or SVG: unit and joining distance are asked, what was skipped is told. */
export function OutlineFiles({ op, drawing }: { op: Op; drawing: Drawing }) {
  const [scale, setScale] = useState('file')
  const [join, setJoin] = useState('0.01')
  const [says, setSays] = useState('')
  const take = async (file: File) => {
    if (!/\.(dxf|svg)$/i.test(file.name)) {
      setSays(`${file.name} is neither DXF nor SVG.`)
      return
    }
    if (file.size > MAX_OUTLINE_BYTES) {
      setSays(`${file.name} is ${fixed(file.size / 1048576, 0)} MB; outlines go up to 20 MB.`)
      return
    }
    const near = typedNumber(join)
    if (near === null || near < 0 || near > 10) {
      setSays('The joining distance must be a number from 0 to 10 mm.')
      return
    }
    const reply = await lathe.call(
      'outline',
      {
        name: file.name,
        text: await file.text(),
        scale: scale === 'file' ? null : Number(scale),
        join: near,
        drawing,
      },
      { budget: 60_000 },
    )
    if (!reply.ok) setSays(reply.diagnosis.message)
    else {
      setInputs(op.id, { drawing: reply.value.drawing })
      setSays(`${file.name}: ${reply.value.says}`)
    }
  }
  const give = async (format: 'dxf' | 'svg') => {
    const { doc } = useSession.getState()
    if (!doc) return
    const reply = await lathe.call('outlineOut', { doc, op: op.id, format })
    if (typeof reply === 'string') setSays(reply)
    else {
      downloadFile(
        `${op.name}.${format}`,
        format === 'svg' ? 'image/svg+xml' : 'image/vnd.dxf',
        reply.text,
      )
      setSays(`${op.name}.${format}: ${reply.note}.`)
    }
  }
  const told = (e: unknown) => {
    if (!(e instanceof EngineError)) throw e
    toast.error(e.message)
  }
  return (
    <fieldset className="border border-rule px-2 pb-1.5">
      <legend className="px-1">Outline files</legend>
      <div className="flex flex-wrap items-center gap-1">
        <span>1 unit is</span>
        <Choice label="Unit of the file" value={scale} options={SCALES} onChange={setScale} />
        <span>join within</span>
        <input
          aria-label="Joining distance, mm"
          className="figures w-14 rounded-sm border border-rule bg-sheet px-1"
          value={join}
          onChange={(e) => setJoin(e.target.value)}
          onKeyDown={(e) => e.stopPropagation()}
        />
        <span>mm</span>
      </div>
      <div className="mt-1 flex flex-wrap gap-1">
        <FileButton
          label="Outline file"
          accept=".dxf,.svg"
          className="py-0!"
          onFile={(f) => void take(f).catch(told)}
        >
          Read DXF or SVG
        </FileButton>
        <Button className="py-0!" onClick={() => void give('dxf').catch(told)}>
          Write DXF
        </Button>
        <Button className="py-0!" onClick={() => void give('svg').catch(told)}>
          Write SVG
        </Button>
      </div>
      <p aria-live="polite" data-testid="outline-says">
        {says}
      </p>
    </fieldset>
  )
}
