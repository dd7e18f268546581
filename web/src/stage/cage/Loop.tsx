import { useSession } from '../../session/session'

/** The frame or loop that is being drawn over the Stage to pick what lies in it. */
export function Loop() {
  const loop = useSession((s) => s.loop)
  if (!loop || loop.length < 2) return null
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full"
      aria-hidden="true"
      data-testid="cage-loop"
    >
      <polygon
        points={loop.map((p) => p.join(',')).join(' ')}
        className="fill-brass/15 stroke-brass"
        strokeDasharray="6 3 1 3"
      />
    </svg>
  )
}
