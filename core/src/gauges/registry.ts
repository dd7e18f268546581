import { balanceGauge } from './balance'
import { bendsGauge } from './bends'
import { betweenGauge } from './between'
import { capacityGauge, fillGauge } from './capacity'
import { clearanceGauge } from './clearance'
import { draftGauge } from './draft'
import { gapGauge } from './gap'
import { labelGauge } from './label'
import { massGauge } from './mass'
import { overhangGauge } from './overhang'
import { polesGauge } from './poles'
import { rippleGauge } from './ripple'
import { seamsGauge } from './seams'
import { heightGauge, widthGauge } from './size'
import type { GaugeSpec } from './spec'
import { tiltedGauge } from './tilted'
import { wallGauge } from './wall'

/** Every gauge there is, by kind. */
export const GAUGES: Readonly<Record<string, GaugeSpec>> = Object.fromEntries(
  [
    capacityGauge,
    fillGauge,
    tiltedGauge,
    wallGauge,
    massGauge,
    heightGauge,
    widthGauge,
    balanceGauge,
    polesGauge,
    clearanceGauge,
    gapGauge,
    betweenGauge,
    draftGauge,
    overhangGauge,
    bendsGauge,
    seamsGauge,
    rippleGauge,
    labelGauge,
  ].map((g) => [g.kind, g]),
)
export const gaugeSpec = (kind: string): GaugeSpec | undefined =>
  Object.hasOwn(GAUGES, kind) ? GAUGES[kind] : undefined
