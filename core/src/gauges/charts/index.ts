export { type FillCurve, fillCurve, heightFor } from './fill'
export { type WallHistogram, wallHistogram } from './histogram'
export { type SectionCurve, sectionCurve } from './section'
