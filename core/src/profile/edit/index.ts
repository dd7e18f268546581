export { Builder } from './build'
export { chamferAt, filletAt } from './corner'
export { breakAtCrossings, extendAt, trimAt } from './cut'
export { type Gap, offsetChain, offsetPieces } from './offset'
export { withPlaces } from './places'
export {
  circleThrough,
  ellipseAbout,
  polygon,
  rectangle,
  rectangleAbout,
  slot,
  withHolds,
} from './shapes'
export { type Likeness, mirrored, moved, partOf, transformed, withPart } from './transform'
