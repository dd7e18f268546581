import type { P2, P3 } from '@ivory/core/math'
import { opOf, setInputs, useSession } from '../../session/session'
import { type HoldDoc, holdsOf } from '../../session/tracing'
import { CommitInput } from '../../ui/controls'
import { typedValue } from '../drawing/typed'

/** How far beside what it measures a dimension stands, px. */
const BESIDE = 22

/** A distance that is held between two places of a path, drawn in a view that shows it, and typed there. */
export function HoldDim({
  op,
  view,
  index,
  hold,
  a,
  b,
  put,
}: {
  op: string
  view: 'plan' | 'elevation'
  index: number
  hold: Extract<HoldDoc, { kind: 'apart' }>
  a: P3 | undefined
  b: P3 | undefined
  put: (p: P3) => P2
}) {
  const unit = useSession((s) => s.doc?.unit ?? 'mm')
  const hidden = view === 'plan' ? 'z' : 'y'
  if (!a || !b || hold.along === hidden) return null
  const [p, q] = [put(a), put(b)]
  if (Math.hypot(q[0] - p[0], q[1] - p[1]) < 12) return null
  // Beside the line it measures; along x level, along the other upright.
  const [from, to, side] = placed(p, q, hold.along ?? 'any')
  const [x, y] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]
  const ends = `M${p[0]} ${p[1]}L${from[0] + side[0] * 5} ${from[1] + side[1] * 5}M${q[0]} ${q[1]}L${to[0] + side[0] * 5} ${to[1] + side[1] * 5}`
  const commit = (text: string) => {
    const value = typedValue(text, unit)
    const holds = holdsOf(opOf(useSession.getState().doc, op))
    if (value !== null)
      setInputs(op, { holds: holds.map((h, k) => (k === index ? { ...h, value } : h)) })
  }
  return (
    <g className="text-soft">
      <path d={ends} stroke="currentColor" strokeWidth={0.7} />
      <path d={`M${from.join(' ')}L${to.join(' ')}`} stroke="currentColor" strokeWidth={1} />
      <foreignObject x={x - 32} y={y - 11} width={64} height={22}>
        <CommitInput
          aria-label={`Distance ${hold.place} to ${hold.other} in the ${view}`}
          className="figures h-full w-full bg-sheet! px-0.5! py-0! text-center text-xs"
          value={String(hold.value)}
          onCommit={commit}
        />
      </foreignObject>
    </g>
  )
}

/** Where a dimension runs, and to which side it stands of what it measures. */
function placed(p: P2, q: P2, along: string): [P2, P2, P2] {
  if (along === 'x') {
    const y = Math.max(p[1], q[1]) + BESIDE
    return [
      [p[0], y],
      [q[0], y],
      [0, 1],
    ]
  }
  if (along !== 'any') {
    const x = Math.max(p[0], q[0]) + BESIDE
    return [
      [x, p[1]],
      [x, q[1]],
      [1, 0],
    ]
  }
  const l = Math.hypot(q[0] - p[0], q[1] - p[1])
  const side: P2 = [-(q[1] - p[1]) / l, (q[0] - p[0]) / l]
  const out = (s: P2): P2 => [s[0] + side[0] * BESIDE, s[1] + side[1] * BESIDE]
  return [out(p), out(q), side]
}
