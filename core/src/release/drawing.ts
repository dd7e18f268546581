import type { P2 } from '../math'
import { fixed } from '../math'
import { cavityOf, sectionBounds, sectionLines, type TurnedBody, wallAlong } from '../turned'
import { n, xmlText } from './xml'

const MARGIN = 28

/**
 * The dimensioned half-section as SVG in real millimetres (1 user unit = 1 mm), axis at the left,
 * the cut hatched, overall sizes, mouth, foot and wall dimensioned.
 */
export function sectionDrawing(b: TurnedBody, title: string): string {
  const box = sectionBounds(b)
  const [width, height] = [box.max[0] + 2 * MARGIN + 10, box.max[1] - box.min[1] + 2 * MARGIN]
  // SVG y runs down: z is turned over.
  const at = (p: P2): P2 => [p[0] + MARGIN, box.max[1] - p[1] + MARGIN]
  const parts: string[] = []
  const loops = loopPaths(b, at)
  parts.push(
    `<path d="${loops}" fill="url(#cut)" stroke="#2b2620" stroke-width="0.5" fill-rule="evenodd"/>`,
  )
  const [top, foot] = [at([0, box.max[1] + 8]), at([0, box.min[1] - 8])]
  parts.push(
    `<path d="M${n(top[0])} ${n(top[1])}V${n(foot[1])}" stroke="#2b2620" stroke-width="0.25" stroke-dasharray="8 2 1 2" fill="none"/>`,
  )
  parts.push(
    dimension(
      at([box.max[0] + 12, box.min[1]]),
      at([box.max[0] + 12, box.max[1]]),
      `${fixed(box.max[1] - box.min[1], 2)}`,
      true,
    ),
  )
  const across = (z: number, r: number, away: number) => {
    const y = z + away
    return dimension(at([0, y]), at([r, y]), `⌀ ${fixed(2 * r, 2)}`, false)
  }
  const cavity = cavityOf(b)
  parts.push(across(box.min[1], box.max[0], -14))
  if (cavity) {
    const mouth = Math.max(
      ...cavity.regions
        .flatMap((r) => r.outer)
        .filter((s) => s.name === 'surface')
        .flatMap((s) => (s.curve.kind === 'line' ? [s.curve.a[0], s.curve.b[0]] : [])),
    )
    parts.push(across(box.max[1], mouth, 10))
  }
  const wall = wallAlong(b)
  if (wall) {
    const [p, q] = [at(wall.min.at), at(wall.min.to)]
    parts.push(
      `<path d="M${n(p[0])} ${n(p[1])}L${n(q[0])} ${n(q[1])}" stroke="#8c3b2a" stroke-width="0.4"/>`,
    )
    parts.push(
      `<text x="${n(Math.max(p[0], q[0]) + 2)}" y="${n((p[1] + q[1]) / 2)}" font-size="3.5" fill="#8c3b2a">wall ${fixed(wall.min.wall, 2)}</text>`,
    )
  }
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}" font-family="sans-serif">
<title>${xmlText(title)}: half-section, mm</title>
<defs><pattern id="cut" width="2.5" height="2.5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V2.5" stroke="#b89b5e" stroke-width="0.35"/></pattern></defs>
${parts.join('\n')}
<text x="4" y="${n(height - 4)}" font-size="4" fill="#2b2620">${xmlText(title)} · half-section · mm</text>
</svg>
`
}

function loopPaths(b: TurnedBody, at: (p: P2) => P2): string {
  return b.regions
    .flatMap((r) => [r.outer, ...r.holes])
    .map((loop) => {
      const points = sectionLines({ ...b, regions: [{ outer: loop, holes: [] }] }, 0.01).flatMap(
        (s) => s.points.slice(0, -1),
      )
      return `M${points.map((p) => at(p).map(n).join(' ')).join('L')}Z`
    })
    .join('')
}

function dimension(a: P2, b: P2, text: string, upright: boolean): string {
  const mid: P2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]
  const tick = upright
    ? `M${n(a[0] - 1.5)} ${n(a[1])}h3M${n(b[0] - 1.5)} ${n(b[1])}h3`
    : `M${n(a[0])} ${n(a[1] - 1.5)}v3M${n(b[0])} ${n(b[1] - 1.5)}v3`
  const turned = upright ? ` transform="rotate(-90 ${n(mid[0] - 1.5)} ${n(mid[1])})"` : ''
  const label = `<text x="${n(upright ? mid[0] - 1.5 : mid[0])}" y="${n(upright ? mid[1] : mid[1] - 1.5)}" font-size="4" text-anchor="middle" fill="#2b2620"${turned}>${text}</text>`
  return `<path d="M${n(a[0])} ${n(a[1])}L${n(b[0])} ${n(b[1])}${tick}" stroke="#2b2620" stroke-width="0.25" fill="none"/>${label}`
}
