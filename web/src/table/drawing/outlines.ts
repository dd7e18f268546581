import type { P2 } from '@ivory/core/math'
import type { BodyView } from '../../engine'

/** Pieces of a section that follow each other end to end, as one outline each. */
export function outlinesOf(section: BodyView['section']): P2[][] {
  const loops: P2[][] = []
  let last: P2 | null = null
  for (const { points } of section) {
    const first = points[0]!
    const own = loops[loops.length - 1]
    if (own && last && Math.hypot(last[0] - first[0], last[1] - first[1]) < 1e-4)
      own.push(...points.slice(1))
    else loops.push([...points])
    last = points[points.length - 1]!
  }
  return loops
}

/** The outlines of a body's section as a path. */
export const sectionPath = (b: BodyView, put: (p: P2) => P2): string =>
  outlinesOf(b.section)
    .map((loop) =>
      loop
        .map((p, i) => {
          const [x, y] = put(p)
          return `${i === 0 ? 'M' : 'L'}${x.toFixed(2)} ${y.toFixed(2)}`
        })
        .join(''),
    )
    .join('')
