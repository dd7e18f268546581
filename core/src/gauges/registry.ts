import { balanceGauge } from './balance'
import { betweenGauge } from './between'
import { capacityGauge, fillGauge } from './capacity'
import { clearanceGauge } from './clearance'
import { filamentGauge } from './filament'
import { bendsGauge } from './form/bends'
import { polesGauge } from './form/poles'
import { rippleGauge } from './form/ripple'
import { seamsGauge } from './form/seams'
import { gapGauge } from './gap'
import { bridgeGauge } from './make/bridge'
import { draftGauge } from './make/draft'
import { labelGauge } from './make/label'
import { overhangGauge } from './make/overhang'
import { massGauge } from './mass'
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
    filamentGauge,
    heightGauge,
    widthGauge,
    balanceGauge,
    polesGauge,
    clearanceGauge,
    gapGauge,
    betweenGauge,
    draftGauge,
    overhangGauge,
    bridgeGauge,
    bendsGauge,
    seamsGauge,
    rippleGauge,
    labelGauge,
  ].map((g) => [g.kind, g]),
)
export const gaugeSpec = (kind: string): GaugeSpec | undefined =>
  Object.hasOwn(GAUGES, kind) ? GAUGES[kind] : undefined
