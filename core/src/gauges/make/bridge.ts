import { fixed } from '../../math'
import type { GaugeSpec } from '../spec'
import { readOverhang, WAYS } from './overhang'

export const bridgeGauge: GaugeSpec = {
  kind: 'bridge',
  label: 'Bridges',
  help: 'How far the widest level underside spans when the piece is built up in layers: twice how far its middle lies from what holds it up; an arm held on one side counts twice its length. What your printer bridges is the limit; 10 mm is common practice, no source.',
  unit: 'mm',
  params: [
    {
      name: 'up',
      label: 'Built along',
      help: '1 for x, 2 for y, 3 for z; −1, −2, −3 for the other way.',
      start: 3,
    },
  ],
  ofSkin(skin, params) {
    const built = WAYS.find((w) => w.way === Math.round(Number(params.up ?? 3)))
    if (!built) return 'It is built along 1 (x), 2 (y) or 3 (z), or −1, −2, −3.'
    // Only what is level counts: how far sides lean does not matter.
    const { ceiling, starts } = readOverhang(skin, built.up, LEANING)
    const span = 2 * (ceiling?.far ?? 0)
    return {
      low: span,
      high: span,
      text: `${fixed(span, 2)} mm`,
      rows: [
        ...(ceiling
          ? [
              {
                label: 'held',
                text: ceiling.arm
                  ? `on one side only: an arm of ${fixed(ceiling.far, 2)} mm`
                  : 'on both sides',
                at: ceiling.at,
              },
            ]
          : []),
        {
          label: 'begins in the air',
          text: starts.length === 0 ? 'nothing' : `${starts.length} ×`,
          ...(starts[0] ? { at: starts[0] } : {}),
        },
      ],
      places:
        ceiling && span > 0
          ? [
              {
                at: ceiling.at,
                label: ceiling.arm ? `arm of ${fixed(ceiling.far, 1)}` : `spans ${fixed(span, 1)}`,
              },
            ]
          : [],
    }
  },
}
const LEANING = 45
