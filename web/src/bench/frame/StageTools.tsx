import { OPS } from '@ivory/core/ops'
import clsx from 'clsx'
import { addOp, OP_LETTERS, ROW_KEY } from '../../session/commands'
import { Button } from '../../ui/controls'
import { useLetters } from '../../ui/letters'

const HINT: Record<string, string> = {
  brief: 'Say what the piece must do. Targets become the limits of its gauges.',
  draw: 'Draw outlines on planes and paths in space; name dimensions as figures.',
  form: 'Turn profiles, carry them out or along paths, loft through them.',
  refine: '',
  gauge: 'Put gauges on the bench, set limits, solve for a reading.',
  release: 'Files and drawings, each measured before it leaves.',
}

const opsOf = (stage: string) => Object.values(OPS).filter((s) => s.stage === stage)

/** The ops of a stage. One key opens their letters, the letter adds the op. */
export function StageTools({ stage, title }: { stage: string; title: string }) {
  const specs = opsOf(stage)
  const open = useLetters(
    ROW_KEY,
    specs.length === 0
      ? undefined
      : (letter) => {
          const spec = specs.find((s) => OP_LETTERS[s.kind] === letter)
          if (spec) addOp(spec.kind)
        },
  )
  return (
    <div
      role="toolbar"
      aria-label={`Tools of ${title}`}
      className="flex h-9 items-center gap-1 overflow-x-auto overflow-y-hidden border-rule border-b bg-sheet px-3"
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
        <Button
          key={s.kind}
          className="shrink-0 gap-1! whitespace-nowrap px-1.5! py-0.5!"
          title={s.help}
          onClick={() => addOp(s.kind)}
        >
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
      <span className="ml-2 min-w-0 truncate text-soft text-sm">{HINT[stage]}</span>
    </div>
  )
}
