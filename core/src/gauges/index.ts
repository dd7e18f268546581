export { footRadius, tippingAngle } from './balance'
export { polesOf } from './poles'
export { GAUGES, gaugeSpec } from './registry'
export {
  type GaugeSpec,
  type Reading,
  type Subject,
  subjectOf,
  type Verdict,
  verdictOf,
} from './spec'
