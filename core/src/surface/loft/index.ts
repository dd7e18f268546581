export { type Beside, type BesideCurve, besideOf } from './beside'
export { type Fold, foldIn, twistIn } from './folds'
export { type Loop, type Ring, ringOf } from './loop'
export { type Matched, matched } from './match'
export { meetingOff, runningOn } from './meet'
export {
  type Crossing,
  crossing,
  crossingIn,
  type Guide,
  guideOf,
  Railed,
  tipCrossing,
} from './rails'
export {
  type EndHold,
  isTip,
  MET,
  type Running,
  type Section,
  type Side,
  sectionSteps,
  sidePoles,
  sidesOf,
  skinned,
  type Tip,
} from './skin'
