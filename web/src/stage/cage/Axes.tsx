import type { P3 } from '@ivory/core/math'
import type { ShownCage } from '@ivory/core/ops'
import { useMemo } from 'react'
import { useDisposed } from '../disposed'
import { geometryAt, UNTOUCHED } from '../geometry'

/** How far symmetry is drawn beyond the cage, and the dash, gap, dot and gap of its lines, as shares of the cage's size. */
const BEYOND = 0.12
const DASHES = [0.05, 0.012, 0.008, 0.012]

/** The symmetry of a cage in dash-dot ink: the axis it turns about, the planes it is mirrored in. */
export function Axes({
  cage,
  turns,
  mirrors,
}: {
  cage: ShownCage
  turns: number
  mirrors: readonly string[]
}) {
  const made = useMemo(() => {
    const low: [number, number, number] = [0, 0, 0]
    const high: [number, number, number] = [0, 0, 0]
    for (let i = 0; i < cage.at.length; i++) {
      low[i % 3] = Math.min(low[i % 3]!, cage.at[i]!)
      high[i % 3] = Math.max(high[i % 3]!, cage.at[i]!)
    }
    const size = Math.max(...[0, 1, 2].map((k) => high[k]! - low[k]!))
    for (const k of [0, 1, 2]) {
      low[k]! -= BEYOND * size
      high[k]! += BEYOND * size
    }
    const lines: [P3, P3][] =
      turns > 1
        ? [
            [
              [0, 0, low[2]],
              [0, 0, high[2]],
            ],
          ]
        : []
    for (const m of mirrors) {
      const k = 'xyz'.indexOf(m)
      const [u, v] = [(k + 1) % 3, (k + 2) % 3]
      const corner = (x: number, y: number): P3 => {
        const p: [number, number, number] = [0, 0, 0]
        p[u] = x
        p[v] = y
        return p
      }
      const round = [
        corner(low[u]!, low[v]!),
        corner(high[u]!, low[v]!),
        corner(high[u]!, high[v]!),
        corner(low[u]!, high[v]!),
      ]
      lines.push(...round.map((p, i): [P3, P3] => [p, round[(i + 1) % 4]!]))
    }
    return geometryAt(lines.flatMap(([a, b]) => dashDot(a, b, size)))
  }, [cage, turns, mirrors])
  return (
    <lineSegments geometry={useDisposed(made)} renderOrder={3} {...UNTOUCHED}>
      <lineBasicMaterial color="#2b2620" />
    </lineSegments>
  )
}

/** The dashes and dots of a line, as pairs of ends. */
function dashDot(a: P3, b: P3, size: number): number[] {
  const long = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2])
  const out: number[] = []
  for (let [s, i] = [0, 0]; s < long; i++) {
    const step = DASHES[i % DASHES.length]! * size
    if (i % 2 === 0)
      for (const t of [s, Math.min(long, s + step)])
        for (const k of [0, 1, 2] as const) out.push(a[k] + ((b[k] - a[k]) * t) / long)
    s += step
  }
  return out
}
