import { fixed } from '@ivory/core/math'
import { Archive, ArchiveRestore, Ellipsis, Eye, EyeOff, Focus } from 'lucide-react'
import { Popover } from 'radix-ui'
import type { BodyView } from '../../engine'
import { setContent } from '../../session/measuring'
import { useLiked } from '../../session/own'
import { edit, editBody, useSession } from '../../session/session'
import { Choice, CommitInput, IconButton } from '../../ui/controls'
import { VerdictMark } from '../../ui/verdict'
import { BodyList } from './BodyList'

const NONE: BodyView[] = []

/** The bodies there are: name, colour, volume and verdict of each; shown, hidden, put away, or one alone. */
export function BodyTray() {
  const bodies = useSession((s) => s.settled?.bodies) ?? NONE
  if (bodies.length === 0) return null
  const shown = bodies.filter((b) => !b.hidden && !b.away)
  const alone = (id: string) =>
    edit((d) => {
      const only = shown.length === 1 && shown[0]!.id === id
      for (const b of bodies) {
        if (b.away) continue
        const { hidden: _, ...rest } = d.bodies[b.id] ?? {}
        d.bodies[b.id] = only || b.id === id ? rest : { ...rest, hidden: true }
      }
    })
  return (
    <section aria-label="Tray of bodies" className="flex max-h-[45%] flex-col border-rule border-t">
      <div className="flex items-center justify-between pr-1 pl-3">
        <h2 className="py-1.5 font-medium">Bodies</h2>
        <BodyList />
      </div>
      <ul className="overflow-y-auto pb-1">
        {bodies.map((b) => (
          <BodyRow key={b.id} body={b} alone={() => alone(b.id)} several={bodies.length > 1} />
        ))}
      </ul>
    </section>
  )
}

function BodyRow({ body, alone, several }: { body: BodyView; alone(): void; several: boolean }) {
  const color = useSession((s) => s.doc?.bodies[body.id]?.color) ?? '#d9d2c0'
  const verdict = useSession((s) =>
    s.settled?.waits === 0 ? worst(s.settled.gauges, body.id) : null,
  )
  const { id, name, hidden, away, content } = body
  const liked = useLiked()
  return (
    <li className="flex items-center gap-1 border-rule/60 border-t px-2 py-0.5" data-testid="body">
      <input
        type="color"
        aria-label={`Colour of ${name} in the tray`}
        className="size-4 shrink-0"
        value={color}
        onChange={(e) => editBody(id, { color: e.target.value })}
      />
      <div className="min-w-0 flex-1">
        <CommitInput
          aria-label={`Name of ${name} in the tray`}
          className="w-full border-transparent! bg-transparent! px-0! py-0! hover:border-rule!"
          value={name}
          onCommit={(t) => editBody(id, { name: t.trim().slice(0, 80) || name })}
        />
        <p className="flex gap-2 text-soft text-sm">
          <span className="figures">{liked(`${fixed(body.volume / 1000, 1)} cm³`)}</span>
          {content && 'content'}
          {away ? 'put away' : hidden ? 'hidden' : verdict && <VerdictMark verdict={verdict} />}
        </p>
      </div>
      {several && !away && (
        <IconButton label={`Show ${name} alone, or all again`} onClick={alone}>
          <Focus size={14} />
        </IconButton>
      )}
      {!away && (
        <IconButton
          label={hidden ? `Show ${name}` : `Hide ${name}`}
          active={hidden}
          onClick={() => editBody(id, { hidden: hidden ? undefined : true })}
        >
          {hidden ? <EyeOff size={14} /> : <Eye size={14} />}
        </IconButton>
      )}
      <Ways body={body} />
      <IconButton
        label={
          away
            ? `Take ${name} out again`
            : `Put ${name} away: out of section, gauges and release, still there to refer to`
        }
        active={away}
        onClick={() => editBody(id, { away: away ? undefined : true })}
      >
        {away ? <ArchiveRestore size={14} /> : <Archive size={14} />}
      </IconButton>
    </li>
  )
}

const LOOKS = [
  { value: 'shaded', label: 'with its skin' },
  { value: 'clear', label: 'seen through' },
  { value: 'edges', label: 'by its edges' },
]

/** How a body is shown, and whether it is content. */
function Ways({ body: { id, name, look } }: { body: BodyView }) {
  // What is ticked shows at once, before the bodies are made anew.
  const content = useSession((s) => s.doc?.bodies[id]?.content) ?? false
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <IconButton label={`How ${name} is shown and used`} active={content}>
          <Ellipsis size={14} />
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="start"
          sideOffset={8}
          aria-label={`How ${name} is shown and used`}
          className="z-40 flex w-72 flex-col gap-2 rounded-sm border border-brass bg-paper p-3 text-sm shadow-md"
        >
          <div className="flex items-center justify-between gap-2">
            Shown on the Stage
            <Choice
              label={`How ${name} is shown`}
              value={look}
              options={LOOKS}
              onChange={(v) => editBody(id, { look: v as BodyView['look'] })}
            />
          </div>
          <label className="flex items-baseline gap-1.5">
            <input
              type="checkbox"
              checked={content}
              onChange={(e) => setContent(id, e.target.checked)}
            />
            <span>
              Content: what the piece will hold. Never cut, never released; a gauge tells how clear
              it stands.
            </span>
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

const ORDER = ['out', 'marginal', 'holds'] as const

/** The worst verdict of a body's gauges; null where none has limits. */
function worst(
  gauges: readonly { body: string; verdict: string }[] | undefined,
  body: string,
): (typeof ORDER)[number] | null {
  const own = (gauges ?? []).filter((g) => g.body === body).map((g) => g.verdict)
  return ORDER.find((v) => own.includes(v)) ?? null
}
