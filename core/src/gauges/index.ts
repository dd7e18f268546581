export { type Balance, balanceOf, footRadius, tippingAngle } from './balance'
export { type BendsRead, readBends } from './bends'
export {
  type FillCurve,
  fillCurve,
  heightFor,
  type SectionCurve,
  sectionCurve,
  type WallHistogram,
  wallHistogram,
} from './charts'
export { type DraftRead, readDraft } from './draft'
export { polesOf } from './poles'
export { GAUGES, gaugeSpec } from './registry'
export {
  type GaugeSpec,
  type Measured,
  type Reading,
  readWith,
  type SeamOfBody,
  type Skin,
  type Subject,
  solidSubject,
  subjectOf,
  type Verdict,
  verdictOf,
} from './spec'
