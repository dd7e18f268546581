import type { P2 } from '@ivory/core/math'
import type { Driver } from '@ivory/core/rebuild'
import { Button } from '../../ui/controls'

/** What is shown at the pointer while a held point is pulled: the number that answers, and others that could. */
export interface Pulling {
  /** Where on the table, px. */
  at: P2
  words: string
  /** Offered once the drag has ended. */
  others: Driver[]
}

export function PullTag({ pulling, onOther }: { pulling: Pulling; onOther(d: Driver): void }) {
  return (
    <div
      className="absolute z-10 flex items-center gap-1 rounded-sm border border-brass bg-sheet px-2 py-0.5 text-sm shadow-sm"
      style={{ left: pulling.at[0] + 14, top: pulling.at[1] + 10 }}
      data-testid="pulling"
      onPointerDown={(e) => e.stopPropagation()}
    >
      <span className="figures">{pulling.words}</span>
      {pulling.others.length > 0 && <span className="text-soft">or instead</span>}
      {pulling.others.map((d) => (
        <Button key={d.id} className="px-1.5! py-0! text-sm" onClick={() => onOther(d)}>
          {d.label}
        </Button>
      ))}
    </div>
  )
}
