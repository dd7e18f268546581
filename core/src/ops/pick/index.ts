export { pickExactEdges, pickExactFaces } from './exact'
export { pickEdges, pickFaces } from './turned'
