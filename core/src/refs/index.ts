export {
  type EdgeRef,
  edgeRefSchema,
  type FaceRef,
  faceRefSchema,
  type Resolved,
  resolve,
  stored,
  type Witness,
} from './references'
