import { fixed } from '../../math'
import type { GaugeSpec, PanelOfBody, Reading } from '../spec'

/** What a label may be stretched where nothing is said, per cent: stiff paper; film takes more (common practice, no source). */
const PAPER = 0.3
/** Sides that differ by less are told as one, mm; strains of less are none, which the reading itself is off by. */
const [SAME, NONE] = [0.05, 5e-5]

/** What a label may be stretched or pushed together, as a share. */
export const stretchOf = (params: Readonly<Record<string, number | string>>): number =>
  Math.max(0, Number(params.stretch ?? PAPER)) / 100

const side = ([a, b]: readonly [number, number]) =>
  Math.abs(a - b) < SAME
    ? fixed((a + b) / 2, 1)
    : `${fixed(Math.min(a, b), 1)} to ${fixed(Math.max(a, b), 1)}`

function words({ panel }: PanelOfBody): string {
  if (!panel) return 'none'
  const { round, along, strain, whole } = panel
  const ring = Math.abs(round[0] - round[1]) >= SAME && Math.abs(along[0] - along[1]) < SAME
  const stretched = Math.max(strain.high, -strain.low) > NONE
  return [
    `${side(round)} x ${side(along)} mm${whole ? '' : ' in its middle'}`,
    ring && 'a piece of a ring',
    stretched && `stretches ${fixed(100 * strain.low, 2)} to ${fixed(100 * strain.high, 2)} %`,
  ]
    .filter(Boolean)
    .join(', ')
}

export const labelGauge: GaugeSpec = {
  kind: 'label',
  label: 'Wrap label',
  help: 'The largest flat label that lies on one curved face and is nowhere stretched or pushed together by more than its material takes: laid flat with the least strain, by 17 lines each way. The longer it goes round and the more it bends both ways, the more it strains; where all of a face is too much, the largest about its middle. The six largest curved faces are read.',
  unit: 'mm²',
  params: [
    {
      name: 'stretch',
      label: 'Gives, %',
      help: 'By how much the label may be stretched or pushed together: what its maker says. Paper takes some 0.3, soft film 1 to 3 (common practice, no source).',
      start: PAPER,
    },
  ],
  ofPanels(panels): Reading | string {
    if (panels.length === 0) return 'All its faces are flat: a label lies on any of them.'
    const sorted = [...panels].sort((a, b) => (b.panel?.area ?? 0) - (a.panel?.area ?? 0))
    const best = sorted[0]!
    const area = best.panel?.area ?? 0
    return {
      low: area,
      high: area,
      text: words(best),
      rows: sorted.map((p) => ({ label: p.name, text: words(p), at: p.at })),
      places: sorted
        .filter((p) => !p.panel?.whole)
        .map((p) => ({ at: p.at, label: p.panel ? words(p) : 'bends too much both ways' })),
    }
  },
}
