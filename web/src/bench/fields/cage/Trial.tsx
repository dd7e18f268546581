import type { Op } from '@ivory/core/workpiece'
import { cageEditsOf, dropTrial, keepTrial, showBefore, tryFrom } from '../../../session/caging'
import { lookWith } from '../../../session/looking'
import { dropPreview, opOf, useSession } from '../../../session/session'
import { Button } from '../../../ui/controls'

/** Edits on trial: what was before them is seen while a button is held down; all are kept, or all dropped. */
export function Trial({ op }: { op: Op }) {
  const trial = useSession((s) => s.caging.trial)
  const count = useSession((s) => cageEditsOf(opOf(s.doc, op.id)).length)
  const reading = useSession((s) => s.reading)
  if (trial?.op !== op.id)
    return (
      <div>
        <Button
          className="px-1.5! py-0.5! text-sm"
          title="What is done from here on can be compared with what was, and kept or dropped as a whole."
          onClick={() => tryFrom(op.id)}
        >
          Try something
        </Button>
      </div>
    )
  const tried = Math.max(0, count - trial.from)
  return (
    <div
      className="flex flex-col gap-1 border-brass border-l-2 bg-brass-wash/40 px-2 py-1 text-sm"
      data-testid="cage-trial"
    >
      <span>
        On trial: {tried === 0 ? 'nothing yet' : tried === 1 ? '1 edit' : `${tried} edits`}
      </span>
      <div className="flex flex-wrap gap-1">
        <Button
          className="touch-none px-1.5! py-0.5! text-sm"
          disabled={tried === 0}
          title="Held down, the form is seen as it was."
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId)
            showBefore()
          }}
          onPointerUp={dropPreview}
          onPointerCancel={dropPreview}
          onKeyDown={(e) => {
            if (e.key === ' ' && !e.repeat) showBefore()
          }}
          onKeyUp={(e) => {
            if (e.key === ' ') dropPreview()
          }}
          onBlur={dropPreview}
        >
          Hold to see it before
        </Button>
        <Button
          className="px-1.5! py-0.5! text-sm"
          aria-pressed={reading?.kind === 'stripes'}
          onClick={() => {
            // Whole, as the form is while its body is still being made.
            if (reading?.kind !== 'stripes') useSession.setState({ cutaway: false })
            lookWith('stripes')
          }}
        >
          Stripes
        </Button>
        <Button className="px-1.5! py-0.5! text-sm" onClick={keepTrial}>
          Keep
        </Button>
        <Button className="px-1.5! py-0.5! text-sm" onClick={dropTrial}>
          Drop
        </Button>
      </div>
    </div>
  )
}
