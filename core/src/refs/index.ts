export {
  type EdgeRef,
  edgeRefSchema,
  type FaceRef,
  faceRefSchema,
  type Resolved,
  resolve,
  stored,
  type VertexRef,
  vertexRefSchema,
  type Witness,
} from './references'
