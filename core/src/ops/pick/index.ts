export { pickExactEdges, pickExactFaces, pickExactVertices } from './exact'
export { pickEdges, pickFaces } from './turned'
