export { Builder } from './build'
export { chamferAt, filletAt } from './corner'
export { breakAtCrossings, extendAt, trimAt } from './cut'
export { holdIds, withHolds } from './holds'
export { type Gap, offsetChain, offsetPieces } from './offset'
export { withPlaces } from './places'
export {
  circleThrough,
  ellipseAbout,
  polygon,
  rectangle,
  rectangleAbout,
  slot,
} from './shapes'
export { mirrored, partOf, transformed, withPart } from './transform'
