import type { P3 } from '../../math'
import { bodyCells, bodyRows, type ListedBody, type Workpiece } from '../../workpiece'
import { VIEWER } from './viewer'

/** A body as a page shows it: its triangles in mm, `#rrggbb`. */
export interface ShownBody {
  color: string
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
}
export interface PageOf {
  w: Workpiece
  bodies: readonly ShownBody[]
  listed: readonly ListedBody[]
  readings: readonly { label: string; body: string; text: string; verdict: string }[]
  /** When it was made, as it is to be told. */
  made: string
}

/** Text as it may stand in a page. */
const safe = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)

function base64(of: Float32Array | Uint32Array): string {
  const bytes = new Uint8Array(of.buffer, of.byteOffset, of.byteLength)
  let text = ''
  for (let i = 0; i < bytes.length; i += 8192)
    text += String.fromCharCode(...bytes.subarray(i, i + 8192))
  return btoa(text)
}

function ballOf(bodies: readonly ShownBody[]): { middle: P3; radius: number } {
  const low = [1, 1, 1].map(() => Number.POSITIVE_INFINITY)
  const high = low.map((x) => -x)
  for (const { positions } of bodies)
    for (let i = 0; i < positions.length; i++) {
      const k = i % 3
      if (positions[i]! < low[k]!) low[k] = positions[i]!
      if (positions[i]! > high[k]!) high[k] = positions[i]!
    }
  const middle = low.map((x, k) => (x + high[k]!) / 2) as unknown as P3
  return { middle, radius: Math.hypot(...low.map((x, k) => (high[k]! - x) / 2)) || 1 }
}

const table = (rows: readonly (readonly string[])[]): string =>
  `<table><thead><tr>${rows[0]!.map((c) => `<th>${safe(c)}</th>`).join('')}</tr></thead><tbody>${rows
    .slice(1)
    .map((r) => `<tr>${r.map((c) => `<td>${safe(c)}</td>`).join('')}</tr>`)
    .join('')}</tbody></table>`

/** One page that shows a piece and what was read of it, to be sent and opened anywhere: it holds all it needs and asks nothing of others. */
export function pageOf({ w, bodies, listed, readings, made }: PageOf): string {
  const data = {
    ...ballOf(bodies),
    bodies: bodies.map((b) => ({
      color: b.color,
      positions: base64(b.positions),
      normals: base64(b.normals),
      triangles: base64(b.triangles),
    })),
  }
  const facts = readings.map((r) => [
    r.label,
    r.body,
    r.text,
    r.verdict === 'none' ? '' : r.verdict,
  ])
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'">
<title>${safe(w.name)}</title><style>
body { margin: 0; background: #f6f1e4; color: #2b2620; font: 16px/1.4 system-ui, sans-serif }
main { max-width: 60rem; margin: 0 auto; padding: 1rem 1.5rem 3rem }
canvas { width: 100%; height: 60vh; display: block; touch-action: none; cursor: grab }
table { border-collapse: collapse; width: 100%; margin: .5rem 0 1.5rem }
th, td { text-align: left; border-bottom: 1px solid #cfc4aa; padding: .2rem .8rem .2rem 0; font-variant-numeric: tabular-nums }
th { font-weight: normal; color: #635a4c } .soft { color: #635a4c }
</style></head><body><main>
<h1>${safe(w.name)}</h1><p>${safe(w.brief.purpose)}</p>
<canvas tabindex="0" role="img" aria-label="${safe(w.name)}, turned by dragging or by the arrow keys"></canvas>
<p id="said" class="soft">Drag to turn it, wheel or + and − to come nearer.</p>
<h2>Readings</h2>${facts.length > 0 ? table([['gauge', 'body', 'reading', 'verdict'], ...facts]) : '<p>No gauge was on the bench.</p>'}
<h2>Bodies</h2>${table(bodyCells(bodyRows(w, listed)))}
<p class="soft">Made ${safe(made)}. To be looked at only: sizes are those of the readings, shapes are triangles. Where a piece touches food, gets hot or holds glass edges, the rules of the place where it is used and people licensed to judge it decide.</p>
</main><script type="application/json" id="piece">${JSON.stringify(data).replace(/</g, '\\u003c')}</script>
<script>${VIEWER}</script></body></html>
`
}
