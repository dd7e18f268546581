export { bevelled } from './bevel'
export { creased, cutAcross, welded } from './edges'
export { extrudeFaces } from './extrude'
export { bridged, dissolved, type Filling, filled, openLoops, without } from './holes'
export { insertLoops } from './loop'
export {
  AXES,
  aboutOf,
  flattened,
  middleOf,
  movedBy,
  movedOut,
  pointNormals,
  relaxed,
  rounded,
  scaledBy,
  turnedBy,
  type Ways,
  withFalloff,
} from './places'
export { rotated, type Turning, turnedAlike } from './rotate'
export { bridgedRuns, extrudeRuns, openRuns, type Run } from './runs'
export { thickened } from './thicken'
