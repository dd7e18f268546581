import { FONT_NAMES, type FontName } from '@ivory/core/letters'
import type { Drawing } from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import { useState } from 'react'
import { toast } from 'sonner'
import { EngineError, lathe } from '../../engine'
import { setInputs } from '../../session/session'
import { Button, Choice, TextInput } from '../../ui/controls'
import { typedNumber } from '../../ui/number'

/** Sets a text as outlines from the fonts that come with the app, its baseline from the origin. */
export function Lettering({ op, drawing }: { op: Op; drawing: Drawing }) {
  const [text, setText] = useState('')
  const [size, setSize] = useState('12')
  const [font, setFont] = useState<FontName>('bold')
  const set = async () => {
    const height = typedNumber(size) ?? Number.NaN
    const reply = await lathe.call('lettering', { font, text, size: height, drawing })
    if (!reply.ok) toast.error(reply.diagnosis.message)
    else {
      setInputs(op.id, { drawing: reply.value.drawing })
      toast(`“${text}”: ${reply.value.says}`)
    }
  }
  return (
    <p className="flex flex-wrap items-center gap-1">
      <TextInput
        aria-label="Text to set"
        placeholder="text"
        className="w-28"
        value={text}
        onText={setText}
      />
      <TextInput
        aria-label="Height of the capitals, mm"
        className="figures w-12"
        value={size}
        onText={setSize}
      />
      <Choice
        label="Font"
        value={font}
        options={FONT_NAMES.map((value) => ({ value, label: value }))}
        onChange={(name) => setFont(name as FontName)}
      />
      <Button
        className="py-0!"
        onClick={() =>
          void set().catch((e: unknown) =>
            toast.error(e instanceof EngineError ? e.message : String(e)),
          )
        }
      >
        Set text
      </Button>
    </p>
  )
}
