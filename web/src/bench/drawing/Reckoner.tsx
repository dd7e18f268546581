import { fixed, rounded } from '@ivory/core/math'
import { FITS, type Fit, printedWall, reckonFit } from '@ivory/core/workpiece'
import { Calculator } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { useSession } from '../../session/session'
import { Button, Choice, IconButton, TextInput } from '../../ui/controls'
import { typedNumber } from '../../ui/number'

type Way = 'clears' | 'fits' | 'wall'
const WAYS: { value: Way; label: string }[] = [
  { value: 'clears', label: 'clears a diameter' },
  { value: 'fits', label: 'fits a diameter (ISO 286)' },
  { value: 'wall', label: 'a printed wall of lines' },
]

/** Gives a dimension as a clearance, a fit or a printed wall; the expression says so from then on. */
export function Reckoner({ name, onTake }: { name: string; onTake(expression: string): void }) {
  const [open, setOpen] = useState(false)
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <IconButton label={`Reckon ${name}`} className="size-6!">
          <Calculator size={13} />
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="left"
          align="start"
          sideOffset={8}
          aria-label={`Reckon ${name}`}
          className="z-40 w-76 rounded-sm border border-brass bg-paper p-3 text-sm shadow-md"
        >
          <Ways
            onTake={(e) => {
              setOpen(false)
              onTake(e)
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Ways({ onTake }: { onTake(expression: string): void }) {
  const line = useSession((s) => s.doc?.brief.line) ?? 0.45
  const [way, setWay] = useState<Way>('clears')
  const [on, setOn] = useState('25 mm')
  const [side, setSide] = useState('1 mm')
  const [outside, setOutside] = useState('around')
  const [fit, setFit] = useState<Fit>('slide')
  const [part, setPart] = useState('hole')
  const [lines, setLines] = useState('3')
  const [width, setWidth] = useState(`${line} mm`)
  const expression =
    way === 'clears'
      ? `${outside}(${on}, ${side})`
      : way === 'fits'
        ? `${part}_${fit}(${on})`
        : `lines(${lines}, ${width})`
  return (
    <div className="flex flex-col gap-2">
      <Choice
        label="What it is reckoned from"
        value={way}
        options={WAYS}
        onChange={(w) => setWay(w as Way)}
      />
      <div className="grid grid-cols-[6rem_1fr] items-center gap-x-2 gap-y-1">
        {way === 'clears' && (
          <>
            <Text label="diameter" value={on} onChange={setOn} />
            <Text label="a side" value={side} onChange={setSide} />
            <span>lies</span>
            <Choice
              label="Which side it clears"
              value={outside}
              options={[
                { value: 'around', label: 'around it' },
                { value: 'inside', label: 'inside it' },
              ]}
              onChange={setOutside}
            />
          </>
        )}
        {way === 'fits' && (
          <>
            <Text label="diameter" value={on} onChange={setOn} />
            <span>this is the</span>
            <Choice
              label="Hole or shaft"
              value={part}
              options={[
                { value: 'hole', label: 'hole' },
                { value: 'shaft', label: 'shaft' },
              ]}
              onChange={setPart}
            />
            <span>which</span>
            <Choice
              label="Fit"
              value={fit}
              options={Object.entries(FITS).map(([value, f]) => ({
                value,
                label: `${f.label}, ${f.hole}/${f.shaft}`,
              }))}
              onChange={(f) => setFit(f as Fit)}
            />
          </>
        )}
        {way === 'wall' && (
          <>
            <Text label="lines" value={lines} onChange={setLines} />
            <Text label="line width" value={width} onChange={setWidth} />
          </>
        )}
      </div>
      <p className="text-soft" data-testid="reckoned">
        {said(way, { on, fit, part, lines, width })}
      </p>
      <div className="flex items-center justify-between gap-2">
        <code className="figures min-w-0 truncate">{expression}</code>
        <Button onClick={() => onTake(expression)}>Take it</Button>
      </div>
    </div>
  )
}

/** What is known of it before it is taken: only plain numbers can be reckoned here. */
function said(
  way: Way,
  { on, fit, part, lines, width }: Record<'on' | 'part' | 'lines' | 'width', string> & { fit: Fit },
): string {
  const [d, n, w] = [on, lines, width].map((t) => typedNumber(t.replace(/\s*mm\s*$/, '')))
  if (way === 'wall')
    return n && w
      ? `${rounded(printedWall(n, w), 4)} mm; walls of whole lines print solid (common practice).`
      : 'Worked out when taken.'
  if (way === 'clears' || !d) return 'Diameters and sides may be figures; worked out when taken.'
  const r = reckonFit(d, fit)
  if (!r.ok) return r.diagnosis.message
  const { hole, shaft, least, most, drawHole, drawShaft } = r.value
  const play = (v: number) => (v < 0 ? `${fixed(-v, 3)} tight` : `${fixed(v, 3)} free`)
  return `Hole ${hole.class} +${fixed(hole.low, 3)} to +${fixed(hole.high, 3)}, shaft ${shaft.class} ${fixed(shaft.low, 3)} to ${fixed(shaft.high, 3)} mm: ${play(least)} to ${play(most)}. Drawn at Ø ${rounded(part === 'hole' ? drawHole : drawShaft, 4)} mm, the middle of its tolerance.`
}

function Text({
  label,
  value,
  onChange,
}: {
  label: string
  value: string
  onChange(text: string): void
}) {
  return (
    <label className="contents">
      <span>{label}</span>
      <TextInput className="figures min-w-0" value={value} onText={onChange} />
    </label>
  )
}
