export { beside } from './beside'
export { type Above, blended, type Order } from './blend'
export { built, type Stop } from './build'
export {
  type Carrying,
  foldAlong,
  type Placed,
  type SectionCurve,
  type SweptFace,
  sweptFaces,
} from './carried'
export { centred, nearestShares, straightened } from './centred'
export {
  type ChainFinding,
  chainFindings,
  KINK,
  moved3,
  type Ordered,
  ordered,
  TOUCH,
  tightest,
} from './chain'
export { type ChangingSide, changingFaces } from './changing'
export { angleBetween, EvenFrames, type Moving } from './frames'
export { type Helix, helixCurve, helixSize, onHelix } from './helix'
export { joinedEnds } from './join'
export { readAlong } from './read'
export { refitted } from './refit'
export { type Chain, mostRounding, rounded } from './round'
export { squareTo } from './square'
export { fromViews, type View } from './views'
