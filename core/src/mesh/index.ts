export { ballIn } from './ball'
export { type Basin, basinOf, type Slab } from './basin'
export { type Bends, bendsOf, type NormalMesh } from './bends'
export { bridged } from './bridged'
export { capOf, filledLoop, inside } from './cap'
export { closedBy, countEdges, type EdgeCount, edgeWords } from './edges'
export {
  type FacedMesh,
  facesBySharpEdges,
  joined,
  movedMesh,
  weldFaced,
  withoutFace,
} from './faced'
export { readObj, readObjFaces, writeObj } from './files/obj'
export { type MeshFormat, readMeshes } from './files/read'
export { readStl, writeStl } from './files/stl'
export { writeThreeMf } from './files/threemf'
export { readThreeMf } from './files/threemfread'
export { Groups } from './groups'
export { type Hollow, hollowed } from './hollow'
export { wallByRays } from './liverays'
export { type MeshMeasure, measureMesh } from './measure'
export { evenSkin, type Mended, outwardSkins } from './mend/mend'
export { joinedPieces, type Overlap, overlapsOf, withRooms } from './mend/overlaps'
export { inMaterial, ringAway, roomAbout } from './room'
export { selfCrossing } from './selfcross'
export { heldAt } from './sharp'
export { slice, sliceArea, twiceArea } from './slice'
export { type SectionWall, sectionWalls } from './slicewalls'
export { loadMeshSolids, type MeshCombined, MeshError, type MeshSolids } from './solids'
export { type Hit, MeshTree, noHit, treeOf } from './tree'
export type { TriMesh } from './types'
export {
  cellArea,
  gapField,
  type Held,
  type MeshWallSpot,
  type WallField,
  wallField,
} from './walls'
export { closeSeams, weld, weldIndexed } from './weld'
