export { innerSkin } from './inner'
export { type Tube, type TubeEnd, type TubeFace, tubeOf } from './tube'
