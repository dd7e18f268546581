export {
  type EdgeRef,
  edgeRefSchema,
  type FaceRef,
  faceRefSchema,
  type Resolved,
  resolve,
  resolveInSpace,
  type Signs,
  stored,
  type VertexRef,
  vertexRefSchema,
  type Witness,
} from './references'
