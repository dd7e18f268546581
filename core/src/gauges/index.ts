export { type Balance, balanceOf, footRadius, tippingAngle } from './balance'
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
export { type BendsRead, readBends } from './form/bends'
export { polesOf } from './form/poles'
export { extremaOf } from './form/ripple'
export { type DraftRead, readDraft } from './make/draft'
export { stretchOf } from './make/label'
export { type OverhangRead, readOverhang } from './make/overhang'
export { asPrinted } from './printed'
export { GAUGES, gaugeSpec } from './registry'
export {
  type GaugeSpec,
  type LineOfBody,
  type Measured,
  type PanelOfBody,
  READ_LINES,
  type Reading,
  readWith,
  type SeamOfBody,
  type Skin,
  type Subject,
  solidSubject,
  subjectOf,
  type TrueWalls,
  type Verdict,
  verdictOf,
} from './spec'
