import { fixed, type P3 } from '@ivory/core/math'
import type { Limits } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry, Color, DoubleSide, type Plane } from 'three'
import { lathe, type WallsView } from '../../engine'
import { useSession } from '../../session/session'
import { useDisposed } from '../disposed'
import { Pin } from '../marks/Pin'

/** The wall of a body with the limits it is coloured by. */
export interface ShownWalls extends WallsView {
  limits: Limits
}

/** The walls of the bodies shown, read anew where the workpiece has changed; none while the map is off. */
export function useWalls(): { walls: ShownWalls[]; reading: boolean } {
  const on = useSession((s) => s.wallMap)
  const doc = useSession((s) => s.doc)
  const gauges = useSession((s) => s.settled?.gauges)
  const { data, isFetching } = useQuery({
    queryKey: ['walls', doc],
    queryFn: () => lathe.call('walls', { doc: doc! }, { budget: 120_000 }),
    enabled: on && doc !== null,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  })
  const walls = useMemo(() => {
    const limitsOf = (body: string): Limits =>
      gauges?.find((g) => g.kind === 'wall' && g.body === body)?.limits ??
      doc?.brief.targets.wall ??
      {}
    return on ? (data ?? []).map((w) => ({ ...w, limits: limitsOf(w.body) })) : []
  }, [on, data, gauges, doc])
  return { walls, reading: on && isFetching }
}

const WITHIN = new Color('#efe3c4')
const THIN = [new Color('#e0a08c'), new Color('#8c2a16')] as const
const THICK = [new Color('#9fb3c8'), new Color('#1f3f63')] as const
const NONE = new Color('#c9c2b2')
/** Walls pointed at in the chart. */
const LIT = new Color('#c98a1b')
/** How far beyond a limit, as a share of it, the colour is at its deepest. */
const DEEPEST = 0.5

/** The colour of a wall against its limits: ivory within, red below, blue above, the deeper the farther. */
export function wallColor(wall: number, { min, max }: Limits): Color {
  if (Number.isNaN(wall)) return NONE
  const between = (shades: readonly [Color, Color], share: number) =>
    shades[0].clone().lerp(shades[1], Math.min(1, share / DEEPEST))
  if (min !== undefined && wall < min) return between(THIN, (min - wall) / min)
  if (max !== undefined && wall > max) return between(THICK, (wall - max) / max)
  return WITHIN
}

/** A body's surface coloured by its wall. */
export function WallSkin({
  walls: { cells, walls, limits },
  clip,
}: {
  walls: ShownWalls
  clip: { clippingPlanes: Plane[] | null }
}) {
  const band = useSession((s) => (s.marked && 'from' in s.marked ? s.marked : null))
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(cells, 3))
    const colors = new Float32Array(cells.length)
    for (const [i, wall] of walls.entries()) {
      const lit = band && wall >= band.from && wall <= band.to
      const { r, g: green, b } = lit ? LIT : wallColor(wall, limits)
      for (let k = 0; k < 3; k++) colors.set([r, green, b], 9 * i + 3 * k)
    }
    g.setAttribute('color', new BufferAttribute(colors, 3))
    return g
  }, [cells, walls, limits, band])
  const geometry = useDisposed(made)
  return (
    <mesh geometry={geometry} raycast={() => undefined} renderOrder={1}>
      <meshBasicMaterial {...clip} vertexColors toneMapped={false} side={DoubleSide} />
    </mesh>
  )
}

/** The thinnest and thickest places, marked on the model with their figures. */
export function WallMarks({ walls }: { walls: readonly ShownWalls[] }) {
  return walls.flatMap(({ body, min, max }) =>
    [
      { spot: min, word: 'thinnest' },
      { spot: max, word: 'thickest' },
    ].map(({ spot, word }) => (
      <Mark key={`${body} ${word}`} at={spot.at} text={`${word} ${fixed(spot.wall, 2)}`} />
    )),
  )
}

function Mark({ at, text }: { at: P3; text: string }) {
  return (
    <Pin position={[...at]} zIndexRange={[5, 0]}>
      <span className="figures pointer-events-none flex -translate-y-1/2 items-center gap-1 whitespace-nowrap text-sm">
        <span className="inline-block size-2 rounded-full border border-ink bg-sheet" />
        <span className="rounded-sm border border-rule bg-sheet/90 px-1">{text}</span>
      </span>
    </Pin>
  )
}

/** What the colours mean, with the limits and what was read. */
export function WallLegend({ walls, reading }: { walls: readonly ShownWalls[]; reading: boolean }) {
  const least = Math.min(...walls.map((w) => w.min.wall))
  const most = Math.max(...walls.map((w) => w.max.wall))
  const { min, max } = walls[0]?.limits ?? {}
  const rows = [
    ...(min === undefined ? [] : [{ color: THIN[1], text: `thinner than ${fixed(min, 2)}` }]),
    {
      color: WITHIN,
      text: min === undefined && max === undefined ? 'no limits set' : 'within the limits',
    },
    ...(max === undefined ? [] : [{ color: THICK[1], text: `thicker than ${fixed(max, 2)}` }]),
    { color: NONE, text: 'no side faces it' },
  ]
  return (
    <div
      className="absolute top-2 left-2 rounded-sm border border-rule bg-sheet/90 px-2 py-1 text-sm"
      data-testid="wall-legend"
    >
      <p className="font-medium">
        Wall, mm {reading && <span className="text-soft">· reading…</span>}
      </p>
      {walls.length > 0 && (
        <p className="figures">
          {fixed(least, 2)} to {fixed(most, 2)}
        </p>
      )}
      <ul>
        {rows.map((r) => (
          <li key={r.text} className="flex items-center gap-1.5">
            <span
              className="inline-block size-3 border border-rule"
              style={{ background: `#${r.color.getHexString()}` }}
            />
            {r.text}
          </li>
        ))}
      </ul>
    </div>
  )
}
