/** Triangles with shared vertices; outward-facing when the mesh is closed. */
export interface TriMesh {
  positions: Float64Array | Float32Array
  triangles: Uint32Array
}
