import type { P2 } from '@ivory/core/math'
import { fixed } from '@ivory/core/math'
import type { Drawing } from '@ivory/core/profile'
import type { PointerEvent } from 'react'
import { opOf, useSession } from '../../session/session'
import { type Pending, pendingShape } from '../drawing/pending'
import type { Snap } from '../drawing/snap'
import type { Canvas } from '../useCanvasView'

interface Props {
  canvas: Canvas
  profileId: string | null
  /** Shown only: nothing of it can be chosen or dragged. */
  still: boolean
  drawing: Drawing
  pending: Pending
  snap: Snap | null
  selecting: boolean
  /** What is snapped to will be held. */
  holding: boolean
  onPoint(e: PointerEvent, id: string): void
  onTip(e: PointerEvent, entity: string, i: number): void
  /** Length of the curvature comb, mm for each 1/mm; 0 for none. */
  comb: number
  /** Given while a cutting tool is in hand. */
  onCut: ((e: PointerEvent, piece: string) => void) | undefined
}

/** The selected profile's pieces, points and handles, weak spots, and what is being drawn. */
export function ProfileLayer({
  canvas,
  profileId,
  still,
  drawing,
  pending,
  snap,
  selecting,
  holding,
  onPoint,
  onTip,
  onCut,
  comb,
}: Props) {
  const profile = useSession((s) => s.view?.profiles.find((p) => p.id === profileId))
  const drawn = useSession((s) => s.drawn)
  // The piece that the face under the pointer on the Stage was made of.
  const made = useSession((s) =>
    s.makers.ops.some((id) => opOf(s.doc, id)?.inputs.profile === profileId) ? s.makers.piece : '',
  )
  const { toScreen } = canvas
  const path = (pts: readonly P2[]) =>
    pts
      .map(
        (p, i) =>
          `${i === 0 ? 'M' : 'L'}${toScreen(p)
            .map((x) => fixed(x, 2))
            .join(' ')}`,
      )
      .join('')
  return (
    <g pointerEvents={still ? 'none' : undefined}>
      {profile?.curves.map((c) => {
        const on = drawn.entities.includes(c.id) || c.id === made
        return (
          <g key={c.id}>
            <path
              d={path(c.points)}
              fill="none"
              stroke={on ? '#9a5b00' : '#2b2620'}
              strokeWidth={on ? 3.2 : c.construction ? 1 : 2.2}
              strokeDasharray={c.construction ? '6 4' : undefined}
            />
            {on && comb > 0 && <Comb teeth={c.comb} scale={comb} toScreen={toScreen} />}
            {(selecting || onCut) && (
              <path
                d={path(c.points)}
                fill="none"
                stroke="transparent"
                strokeWidth={11}
                data-testid="drawn-piece"
                data-name={c.id}
                className="cursor-pointer"
                onPointerDown={(e) => {
                  e.stopPropagation()
                  if (onCut) {
                    onCut(e, c.id)
                    return
                  }
                  useSession.setState((s) => ({
                    drawn: {
                      points: e.shiftKey ? s.drawn.points : [],
                      entities: e.shiftKey ? [...new Set([...s.drawn.entities, c.id])] : [c.id],
                    },
                  }))
                }}
              />
            )}
          </g>
        )
      })}
      {profile && (
        <Tips drawing={drawing} points={profile.points} toScreen={toScreen} onTip={onTip} />
      )}
      {profile &&
        Object.entries(drawing.points).map(([id, p]) => {
          const at = profile.points[id]
          if (!at) return null
          const [x, y] = toScreen(at)
          const driven = typeof p.x === 'string' || typeof p.y === 'string'
          const on = drawn.points.includes(id)
          return (
            <g
              key={id}
              data-testid="drawn-point"
              data-name={id}
              onPointerDown={(e) => onPoint(e, id)}
              className={selecting ? 'cursor-move' : ''}
            >
              <circle cx={x} cy={y} r={11} fill="transparent" />
              {driven ? (
                <rect
                  x={x - 4.5}
                  y={y - 4.5}
                  width={9}
                  height={9}
                  transform={`rotate(45 ${x} ${y})`}
                  fill={on ? '#9a5b00' : '#fcf9f1'}
                  stroke="#7a5310"
                  strokeWidth={1.8}
                />
              ) : (
                <circle
                  cx={x}
                  cy={y}
                  r={4.5}
                  fill={on ? '#9a5b00' : '#fcf9f1'}
                  stroke="#2b2620"
                  strokeWidth={1.8}
                />
              )}
            </g>
          )
        })}
      {profile?.health.map((h) => {
        const [x, y] = toScreen(h.at)
        return (
          <g
            key={`${h.code}${h.at.join()}`}
            fill="none"
            stroke={h.grave ? '#93321d' : '#7d5600'}
            strokeWidth={2}
          >
            <circle cx={x} cy={y} r={10} strokeDasharray="4 3" />
          </g>
        )
      })}
      {pending.points.length > 0 && (
        <path
          d={path(pendingShape(pending))}
          fill="none"
          stroke="#9a5b00"
          strokeWidth={1.6}
          strokeDasharray="5 3"
        />
      )}
      {snap && (
        <g>
          <path
            d={`M${toScreen(snap.at)[0] - 7} ${toScreen(snap.at)[1]}h14M${toScreen(snap.at)[0]} ${toScreen(snap.at)[1] - 7}v14`}
            stroke="#9a5b00"
          />
          <text
            x={toScreen(snap.at)[0] + 10}
            y={toScreen(snap.at)[1] - 8}
            fontSize={12}
            fill="#7a5310"
          >
            {holding && snap.holds?.length ? `holds ${snap.to}` : snap.to}
          </text>
        </g>
      )}
    </g>
  )
}

/** Curvature along a chosen curve, drawn as teeth square to it. */
function Comb({
  teeth,
  scale,
  toScreen,
}: {
  teeth: { at: P2; bend: P2 }[]
  scale: number
  toScreen(p: P2): P2
}) {
  const tips = teeth.map(({ at, bend }) =>
    toScreen([at[0] + scale * bend[0], at[1] + scale * bend[1]]),
  )
  return (
    <g stroke="#22604f" fill="none" strokeWidth={0.7} data-testid="comb">
      <path
        d={tips.map((p, i) => `M${toScreen(teeth[i]!.at).join(' ')}L${p.join(' ')}`).join('')}
      />
      <path
        d={tips.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.join(' ')}`).join('')}
        strokeWidth={1.3}
      />
    </g>
  )
}

function Tips({
  drawing,
  points,
  toScreen,
  onTip,
}: {
  drawing: Drawing
  points: Record<string, P2>
  toScreen(p: P2): P2
  onTip(e: PointerEvent, entity: string, i: number): void
}) {
  const drawn = useSession((s) => s.drawn)
  const fits = drawing.entities.filter((e) => e.kind === 'fit' && drawn.entities.includes(e.id))
  return (
    <g>
      {fits.flatMap((e) =>
        e.kind !== 'fit'
          ? []
          : e.points.map((id, i) => {
              const h = e.handles[i]!
              const p = points[id]
              if (!p) return null
              const d: P2 =
                h.hold === 'free'
                  ? h.d
                  : h.hold === 'level'
                    ? [10, 0]
                    : h.hold === 'upright'
                      ? [0, 10]
                      : [7, 7]
              const [a, b] = [toScreen(p), toScreen([p[0] + d[0], p[1] + d[1]])]
              return (
                <g key={id} onPointerDown={(ev) => onTip(ev, e.id, i)} className="cursor-grab">
                  <path
                    d={`M${a.join(' ')}L${b.join(' ')}`}
                    stroke="#9a5b00"
                    strokeDasharray={h.hold === 'auto' ? '2 3' : undefined}
                  />
                  <rect
                    x={b[0] - 4}
                    y={b[1] - 4}
                    width={8}
                    height={8}
                    fill={h.hold === 'auto' ? '#fcf9f1' : '#9a5b00'}
                    stroke="#9a5b00"
                  />
                </g>
              )
            }),
      )}
    </g>
  )
}
