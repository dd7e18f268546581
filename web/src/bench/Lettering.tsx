import sans from '@fontsource/alegreya-sans/files/alegreya-sans-latin-400-normal.woff?url'
import bold from '@fontsource/alegreya-sans/files/alegreya-sans-latin-700-normal.woff?url'
import mono from '@fontsource/dm-mono/files/dm-mono-latin-400-normal.woff?url'
import type { Drawing } from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import { useState } from 'react'
import { toast } from 'sonner'
import { EngineError, lathe } from '../engine'
import { setInputs } from '../session/session'
import { Button, Choice, TextInput } from '../ui/controls'
import { typedNumber } from '../ui/number'

const FONTS: Record<string, { label: string; url: string }> = {
  sans: { label: 'sans', url: sans },
  bold: { label: 'sans bold', url: bold },
  mono: { label: 'mono', url: mono },
}

/** Sets a text as outlines from the fonts that come with the app, its baseline from the origin. */
export function Lettering({ op, drawing }: { op: Op; drawing: Drawing }) {
  const [text, setText] = useState('')
  const [size, setSize] = useState('12')
  const [font, setFont] = useState('bold')
  const set = async () => {
    const bytes = await (await fetch(FONTS[font]!.url)).arrayBuffer()
    const height = typedNumber(size) ?? Number.NaN
    const reply = await lathe.call('lettering', { font: bytes, text, size: height, drawing })
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
        aria-label="Size of the text, mm"
        className="figures w-12"
        value={size}
        onText={setSize}
      />
      <Choice
        label="Font"
        value={font}
        options={Object.entries(FONTS).map(([value, f]) => ({ value, label: f.label }))}
        onChange={setFont}
      />
      <Button
        className="py-0!"
        onClick={() =>
          void set().catch((e: unknown) =>
            toast.error(e instanceof EngineError ? e.message : 'The font cannot be fetched.'),
          )
        }
      >
        Set text
      </Button>
    </p>
  )
}
