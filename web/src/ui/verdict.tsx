import type { Verdict } from '@ivory/core/gauges'
import clsx from 'clsx'

const WORD: Record<Verdict, string> = {
  holds: 'holds',
  marginal: 'marginal',
  out: 'out',
  none: 'no limit',
}
const SHAPE: Record<Verdict, string> = {
  holds: 'M2 6l3 3 5-7',
  marginal: 'M1.5 7.5c2-4 3-4 4.5-1.5s2.5 2.500 4.500-1.500',
  out: 'M3 3l6 6M9 3l-6 6',
  none: 'M3 6h6',
}

/** A verdict by word and shape, never by colour alone. */
export function VerdictMark({ verdict }: { verdict: Verdict }) {
  return (
    <span
      className={clsx(
        'inline-flex items-center gap-1 whitespace-nowrap text-sm',
        verdict === 'holds' && 'text-holds',
        verdict === 'marginal' && 'text-marginal',
        verdict === 'out' && 'text-out',
        verdict === 'none' && 'text-soft',
      )}
    >
      <svg viewBox="0 0 12 12" className="size-3" aria-hidden="true">
        <path d={SHAPE[verdict]} fill="none" stroke="currentColor" strokeWidth="1.8" />
      </svg>
      {WORD[verdict]}
    </span>
  )
}
