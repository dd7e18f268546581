import { OPS } from '@ivory/core/ops'
import clsx from 'clsx'
import { useLayoutEffect, useState } from 'react'
import { addOp, OP_LETTERS, ROW_KEY } from '../session/commands'
import { Button } from '../ui/controls'

const HINT: Record<string, string> = {
  brief: 'Say what the piece must do. Targets become the limits of its gauges.',
  draw: 'Draw outlines on planes and paths in space; name dimensions as figures.',
  form: 'Turn profiles, carry them out or along paths, loft through them.',
  refine: '',
  gauge: 'Put gauges on the bench, set limits, solve for a reading.',
  release: 'Files and drawings, each measured before it leaves.',
}

const opsOf = (stage: string) => Object.values(OPS).filter((s) => s.stage === stage)

/** Whether somebody is typing into what has the focus. */
const typing = (e: KeyboardEvent): boolean =>
  e.target instanceof HTMLElement &&
  (e.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName))

/** The ops of a stage. One key opens their letters, the letter adds the op. */
export function StageTools({ stage, title }: { stage: string; title: string }) {
  const specs = opsOf(stage)
  const [open, setOpen] = useState(false)
  useLayoutEffect(() => {
    // Beside what is shown: the letter may come before the next picture.
    let lettered = false
    const letters = (on: boolean) => {
      lettered = on
      setOpen(on)
    }
    const listen = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e)) return
      const key = e.key.toLowerCase()
      const ops = opsOf(stage)
      if (!lettered) {
        if (key !== ROW_KEY || ops.length === 0) return
        letters(true)
      } else {
        letters(false)
        const spec = ops.find((s) => OP_LETTERS[s.kind] === key)
        if (spec) addOp(spec.kind)
      }
      // While the letters are open, no key means anything else.
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', listen, { capture: true })
    return () => window.removeEventListener('keydown', listen, { capture: true })
  }, [stage])
  return (
    <div
      role="toolbar"
      aria-label={`Tools of ${title}`}
      className="flex h-9 items-center gap-1.5 overflow-hidden border-rule border-b bg-sheet px-3"
    >
      {specs.length > 0 && (
        <kbd
          title="Press this, then the letter of an op"
          className={clsx(
            'figures mr-1 rounded-sm px-1',
            open ? 'bg-brass text-sheet' : 'text-soft',
          )}
        >
          {ROW_KEY.toUpperCase()}
        </kbd>
      )}
      {specs.map((s) => (
        <Button key={s.kind} className="py-0.5!" title={s.help} onClick={() => addOp(s.kind)}>
          {s.label}
          <kbd
            className={clsx(
              'figures rounded-sm px-0.5',
              open ? 'bg-brass text-sheet' : 'text-soft',
            )}
          >
            {OP_LETTERS[s.kind]?.toUpperCase()}
          </kbd>
        </Button>
      ))}
      <span className="ml-2 text-soft text-sm">{HINT[stage]}</span>
    </div>
  )
}
