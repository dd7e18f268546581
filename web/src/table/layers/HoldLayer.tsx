import type { P2 } from '@ivory/core/math'
import { fixed } from '@ivory/core/math'
import { DIMENSIONS, type Dimensioned, type Drawing } from '@ivory/core/profile'
import type { ProfileView } from '../../engine'
import { Dim } from '../dimensions/Dim'
import { setDimension, typedAs } from '../drawing/holding'
import type { Canvas } from '../useCanvasView'

/** Dimensions as on a drawing, and arrows where points can still travel. */
export function HoldLayer({
  canvas,
  op,
  drawing,
  profile,
}: {
  canvas: Canvas
  op: string
  drawing: Drawing
  profile: ProfileView
}) {
  const { toScreen } = canvas
  // Heights stand side by side right of everything drawn, the lowest nearest; distances across below.
  const places = Object.values(profile.points).map(toScreen)
  const rank = (kind: Dimensioned['kind']) =>
    (drawing.dimensions ?? [])
      .filter((d) => d.kind === kind)
      .sort((a, b) => (profile.hold.measures[a.id] ?? 0) - (profile.hold.measures[b.id] ?? 0))
      .map((d) => d.id)
  const [heights, spans] = [rank('upright'), rank('level')]
  const right = Math.max(...places.map((p) => p[0])) + 38
  const below = Math.max(...places.map((p) => p[1])) + 26
  const marks = (drawing.dimensions ?? []).flatMap((d) => {
    const lane =
      d.kind === 'upright' ? right + 46 * heights.indexOf(d.id) : below + 22 * spans.indexOf(d.id)
    const mark = markOf(d, drawing, profile, toScreen, lane)
    return mark ? [{ d, ...mark }] : []
  })
  const bad = new Set(profile.hold.conflict)
  // The middle of an arc goes where its ends and radius do.
  const middles = new Set(drawing.entities.flatMap((e) => (e.kind === 'arc' ? [e.via] : [])))
  return (
    <>
      <svg
        width="100%"
        height="100%"
        className="pointer-events-none absolute inset-0"
        aria-hidden="true"
      >
        {profile.hold.travels.map((t) => {
          const at = profile.points[t.point]
          return (
            at &&
            !middles.has(t.point) && (
              <Travel key={t.point} at={toScreen(at)} direction={t.direction} />
            )
          )
        })}
        {marks.map(({ d, path }) => (
          <path
            key={d.id}
            d={path}
            fill="none"
            stroke={bad.has(d.id) ? '#93321d' : '#635a4c'}
            strokeWidth={bad.has(d.id) ? 1.8 : 0.9}
          />
        ))}
      </svg>
      {marks.map(({ d, at }) => (
        <Dim
          key={d.id}
          label={labelOf(d, profile)}
          name={`${DIMENSIONS[d.kind].label} ${d.id}`}
          value={d.value}
          at={at}
          grave={bad.has(d.id)}
          onCommit={(t) => void setDimension(op, d, t)}
        />
      ))}
    </>
  )
}

const MARK: Partial<Record<Dimensioned['kind'], string>> = {
  across: '⌀ ',
  diameter: '⌀ ',
  radius: 'R ',
  arclength: '⌒ ',
}

function labelOf(d: Dimensioned, profile: ProfileView): string {
  const measure = profile.hold.measures[d.id]
  const number = measure === undefined ? '–' : fixed(typedAs(d.kind, measure), 2)
  const text = `${MARK[d.kind] ?? ''}${number}${d.kind === 'angle' ? '°' : ''}`
  return d.read ? `(${text})` : text
}

/** A small arrow both ways along the direction, or four ways. */
function Travel({ at: [x, y], direction }: { at: P2; direction: [number, number] | null }) {
  const ways: P2[] = direction
    ? [direction, [-direction[0], -direction[1]]]
    : [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ]
  return (
    <g stroke="#9a5b00" strokeWidth={1.5} fill="none" data-testid="travel">
      {ways.map(([dx, dy]) => {
        const [ux, uy] = [dx, -dy]
        const tip: P2 = [x + 21 * ux, y + 21 * uy]
        const wing = (s: number) =>
          `${tip[0] - 5 * ux - 3.5 * s * uy} ${tip[1] - 5 * uy + 3.5 * s * ux}`
        return (
          <path
            key={`${dx},${dy}`}
            d={`M${x + 9 * ux} ${y + 9 * uy}L${tip.join(' ')}M${wing(1)}L${tip.join(' ')}L${wing(-1)}`}
          />
        )
      })}
    </g>
  )
}

interface Mark {
  path: string
  at: P2
}

/** The lines of a dimension and the place of its number, in pixels. */
function markOf(
  d: Dimensioned,
  drawing: Drawing,
  profile: ProfileView,
  toScreen: Canvas['toScreen'],
  /** Where a level or upright dimension line runs, pixels. */
  lane: number,
): Mark | null {
  const place = (id: string | undefined): P2 | null => {
    if (id === undefined) return null
    const p = id === 'origin' ? ([0, 0] as P2) : profile.points[id]
    return p ? toScreen(p) : null
  }
  const e = drawing.entities.find((x) => x.id === d.entities[0])
  const ends =
    d.points.length === 2
      ? [place(d.points[0]), place(d.points[1])]
      : e && 'a' in e
        ? [place(e.a), place(e.b)]
        : [null, null]
  const [a, b] = ends
  switch (d.kind) {
    case 'distance':
      return a && b ? between(a, b, away(a, b)) : null
    case 'level':
      return a && b ? between(a, b, [0, 0], { y: lane }) : null
    case 'upright':
      return a && b ? between(a, b, [0, 0], { x: lane }) : null
    case 'across': {
      const p = place(d.points[0])
      if (!p) return null
      const [ax] = toScreen(profile.axis.origin)
      return between([2 * ax - p[0], p[1]], p, [0, 0])
    }
    case 'offset': {
      const p = place(d.points[0])
      const l = a && b ? null : lineEnds(d.entities[0], drawing, profile, toScreen)
      const [s, t] = l ?? [a, b]
      return p && s && t ? between(footOn(p, s, t), p, [0, 0]) : null
    }
    case 'angle': {
      const f = drawing.entities.find((x) => x.id === d.entities[1])
      if (!e || !f || !('a' in e) || !('a' in f)) return null
      const corner = [e.a, e.b].find((p) => p === f.a || p === f.b)
      const [m, n] = [middle(place(e.a), place(e.b)), middle(place(f.a), place(f.b))]
      const c = place(corner) ?? middle(m, n)
      if (!c || !m || !n) return null
      const [u, v] = [toward(c, m, 26), toward(c, n, 26)]
      const mid = middle(u, v)!
      return {
        path: `M${u.join(' ')}Q${toward(c, mid, 36).join(' ')} ${v.join(' ')}`,
        at: toward(c, mid, 44),
      }
    }
    case 'radius':
    case 'diameter':
    case 'arclength': {
      const on =
        e?.kind === 'arc'
          ? place(e.via)
          : e?.kind === 'circle' && profile.points[e.c]
            ? toScreen([
                profile.points[e.c]![0] + Math.SQRT1_2 * (profile.radii[e.id] ?? 0),
                profile.points[e.c]![1] + Math.SQRT1_2 * (profile.radii[e.id] ?? 0),
              ])
            : null
      return on ? { path: `M${on.join(' ')}l22 -16h8`, at: [on[0] + 52, on[1] - 16] } : null
    }
  }
}

function lineEnds(
  id: string | undefined,
  drawing: Drawing,
  profile: ProfileView,
  toScreen: Canvas['toScreen'],
): [P2, P2] | null {
  if (id !== 'axis' || drawing.entities.some((e) => e.id === 'axis')) return null
  const { origin, dir } = profile.axis
  return [toScreen(origin), toScreen([origin[0] + dir[0], origin[1] + dir[1]])]
}

const middle = (a: P2 | null, b: P2 | null): P2 | null =>
  a && b ? [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] : null
const toward = (from: P2, to: P2, d: number): P2 => {
  const n = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1
  return [from[0] + ((to[0] - from[0]) * d) / n, from[1] + ((to[1] - from[1]) * d) / n]
}
function footOn(p: P2, a: P2, b: P2): P2 {
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
  const t = ((p[0] - a[0]) * ux + (p[1] - a[1]) * uy) / (ux * ux + uy * uy || 1)
  return [a[0] + t * ux, a[1] + t * uy]
}
/** Square to a-b, on the side away from the upper left. */
function away(a: P2, b: P2): P2 {
  const n = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
  const off: P2 = [(-(b[1] - a[1]) * 24) / n, ((b[0] - a[0]) * 24) / n]
  return off[0] + off[1] < 0 ? [-off[0], -off[1]] : off
}

/** A dimension line with arrows between two places, moved aside or into a lane, and its extension lines. */
function between(a: P2, b: P2, aside: P2, lane: { x?: number; y?: number } = {}): Mark {
  const put = (p: P2): P2 => [lane.x ?? p[0] + aside[0], lane.y ?? p[1] + aside[1]]
  const [s, t] = [put(a), put(b)]
  const n = Math.hypot(t[0] - s[0], t[1] - s[1]) || 1
  const [ux, uy] = [(t[0] - s[0]) / n, (t[1] - s[1]) / n]
  const head = (p: P2, k: number) =>
    `M${p[0] + k * 7 * ux - 3 * uy} ${p[1] + k * 7 * uy + 3 * ux}L${p.join(' ')}L${p[0] + k * 7 * ux + 3 * uy} ${p[1] + k * 7 * uy - 3 * ux}`
  const still = Math.hypot(s[0] - a[0], s[1] - a[1]) + Math.hypot(t[0] - b[0], t[1] - b[1]) < 1e-9
  const extend = still ? '' : `M${a.join(' ')}L${s.join(' ')}M${b.join(' ')}L${t.join(' ')}`
  return {
    path: `${extend}M${s.join(' ')}L${t.join(' ')}${head(s, 1)}${head(t, -1)}`,
    at: [(s[0] + t[0]) / 2, (s[1] + t[1]) / 2],
  }
}
