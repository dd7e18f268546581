export { type CreasedMesh, creased } from './crease'
export { type MeshMeasure, measureMesh, type TriMesh } from './measure'
export { weld, weldIndexed } from './weld'
