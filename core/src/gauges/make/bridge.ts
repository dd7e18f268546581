import { fixed } from '../../math'
import type { GaugeSpec } from '../spec'
import { builtAlong, readOverhang, startsRow, UP_PARAM } from './overhang'

export const bridgeGauge: GaugeSpec = {
  kind: 'bridge',
  label: 'Bridges',
  help: 'How far the widest level underside spans when the piece is built up in layers: twice how far its middle lies from what holds it up; an arm held on one side counts twice its length. What your printer bridges is the limit; 10 mm is common practice, no source.',
  unit: 'mm',
  params: [UP_PARAM],
  ofSkin(skin, params) {
    const built = builtAlong(params)
    if (typeof built === 'string') return built
    // Only what is level counts: beyond which angle areas lean does not matter.
    const { ceiling, starts } = readOverhang(skin, built.up, 45)
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
        startsRow(starts),
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
