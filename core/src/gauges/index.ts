export { type Balance, balanceOf, footRadius, tippingAngle } from './balance'
export { type BendsRead, readBends } from './bends'
export {
  type Bending,
  bendingOf,
  type FillCurve,
  fillCurve,
  heightFor,
  type SectionCurve,
  type SectionsAlong,
  sectionCurve,
  sectionsAlong,
  type WallHistogram,
  wallHistogram,
} from './charts'
export { type DraftRead, readDraft } from './draft'
export { type OverhangRead, readOverhang } from './overhang'
export { polesOf } from './poles'
export { GAUGES, gaugeSpec } from './registry'
export { extremaOf } from './ripple'
export {
  type GaugeSpec,
  type LineOfBody,
  type Measured,
  READ_LINES,
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
