export { type MeshMeasure, measureMesh, type TriMesh } from './measure'
export { weld } from './weld'
