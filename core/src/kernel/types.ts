import type { SurfaceGrid } from '../flow'
import type { Frame, Motion, P3 } from '../math'

/** An edge of a planar face in space, mm. */
export type WireCurve =
  | { kind: 'line'; a: P3; b: P3 }
  | { kind: 'arc'; a: P3; mid: P3; b: P3 }
  | { kind: 'spline'; degree: number; knots: number[]; poles: P3[]; weights?: number[] }

/** A polynomial B-spline surface as a face, all of it: pole (i, j) of u and v at 3 (i nv + j), mm. */
export interface SplineFace {
  u: { degree: number; knots: readonly number[] }
  v: { degree: number; knots: readonly number[] }
  poles: readonly number[]
}

/** A face that is all of a B-spline surface. */
export interface WholeFace extends SplineFace {
  /** Whether the surface's u x v looks into the material. */
  reversed: boolean
}

/** All of a circle, right-handed about `dir`, from its place `start` on; mm. */
export interface WireRing {
  kind: 'circle'
  centre: P3
  dir: P3
  start: P3
}

/** A planar face by its loops, outer first. */
export type PlanarFace = (WireCurve | WireRing)[][]

/** A shape kept in the kernel; good until freed. */
export interface SolidHandle {
  readonly id: number
}

/**
 * What a face of a result comes from. `shape` counts the shapes given to the call, `face` the faces of
 * that shape in its order; `same` where it is that very face, which way it stands; `piece` the curves of the swept profile, loop by loop, or the faces
 * that were sewn; `along` the pieces of the path.
 */
export type Origin =
  | { from: 'face'; shape: number; face: number; made: boolean; same?: 'alike' | 'turned' }
  | { from: 'edge' | 'vertex'; shape: number; faces: number[] }
  | { from: 'piece'; piece: number; along?: number }
  | { from: 'end'; last: boolean }

/** A new shape, and what each of its faces comes from, in its order. */
export interface Made {
  shape: SolidHandle
  origins: Origin[][]
}

export interface SolidMeasure {
  /** mm3, mm2, mm. */
  volume: number
  area: number
  centroid: P3
  bounds: { min: P3; max: P3 }
  /** No free edges. */
  closed: boolean
  /** The kernel's own check of its geometry and topology. */
  valid: boolean
  solids: number
}

export interface KernelMesh {
  positions: Float64Array
  triangles: Uint32Array
}

export type SurfaceKind = 'plane' | 'cylinder' | 'cone' | 'sphere' | 'torus' | 'free'
export interface FaceInfo {
  kind: SurfaceKind
  /** mm2 */
  area: number
  /** A place on a plane and its normal, out of the material or into it. */
  flat?: { origin: P3; dir: P3 }
  /** The axis of a cylinder and its radius, mm. */
  round?: { origin: P3; dir: P3; radius: number }
}
/**
 * How two faces (or one that closes on itself) meet where they run on in each other, or nearly: the worst of 33 places along the edge,
 * each for itself.
 */
export interface Seam {
  /** mm */
  gap: number
  /** Between the normals, rad; where it is most and where least. */
  angle: number
  leastAngle: number
  /** From where to where along the edge it is kinked, as shares of it; null where nowhere. */
  kinked: [number, number] | null
  /** |k1 - k2| / max(|k1|, |k2|, 0.001/mm) of the curvatures across the edge. */
  bend: number
  /** Where it is worst, mm. */
  at: P3
}

export interface EdgeInfo {
  /** The one or two faces it bounds, by number; one for a seam. */
  faces: number[]
  /** mm */
  length: number
  straight: boolean
  /** Of a circle, or a part of one: its middle, the direction of its axis and its radius, mm. */
  circle?: { origin: P3; dir: P3; radius: number }
  /** What it runs on where it is neither straight nor part of a circle. */
  curve?: WireCurve & { kind: 'spline' }
}

/** A line of a face's surface, on which one of its parameters is held. */
export interface SurfaceLine {
  face: number
  /** The parameter that runs: 0 for u, 1 for v. */
  way: 0 | 1
  /** Three numbers a place, mm. */
  places: number[]
  /** How the surface bends along it at each place, 1/mm; positive where it bulges. */
  bends: number[]
}

/** A place on a face, and the direction out of the material there where that was asked for. */
export interface Foot {
  at: P3
  out?: P3
}

/** A face beside one of its edges, at a place of it. */
export interface RibbonSpot {
  at: P3
  /** Directions along the edge, out of the face across the edge and along its surface, and out of the material. */
  along: P3
  away: P3
  out: P3
  /** Second fundamental form over `along` and `away`: along both, mixed, away both, 1/mm; negative where it bulges. */
  bends: [number, number, number]
}
/** A face along one of its edges, by the edge's parameter from 0 to 1. */
export interface Ribbon {
  face: number
  spots: RibbonSpot[]
}

/** Faces and edges of a shape with triangles and lines to show them. */
export interface Anatomy {
  faces: FaceInfo[]
  edges: EdgeInfo[]
  vertices: { at: P3; faces: number[] }[]
  /** Vertices of each face apart, with the normals of its true surface. */
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
  /** The face of each triangle. */
  faceOf: Uint32Array
  /** Segments of the edges, six numbers each, and the edge of each. */
  lines: Float32Array
  edgeOf: Uint32Array
}

/** How the surfaces of a shape bend at the corners of triangles, 1/mm: positive where they bulge out of the material. */
export interface BentSkin {
  positions: Float32Array
  triangles: Uint32Array
  most: Float32Array
  least: Float32Array
  /** Where they bulge and are hollow the most; null where nowhere. */
  bulge: { k: number; at: P3 } | null
  hollow: { k: number; at: P3 } | null
}

/** On which side of its surfaces two of them face each other: in the material as a wall, or out of it across a gap. */
export type Side = 'in' | 'out'
/** A place on a face, and another on some faces that lie over against it, both nearly where a ball in or out of the material touches. */
export interface BallSpot {
  at: P3
  face: number
  to: P3
  faces: number[]
  side: Side
}
/** A ball between two sides by the places where it touches, and its diameter, mm. */
export interface Ball {
  at: P3
  to: P3
  wall: number
}

/** How one shape is combined with others. */
export type How = 'join' | 'cut' | 'meet'

/** A rounding or bevel of one edge, named by its number in the shape. */
export interface EdgeWork {
  edge: number
  /** mm; of a rounding at the start and end of the edge. */
  size: number
  end?: number
}

/** What the exact kernel does for us, in our words. Throws `KernelError` with a sentence. */
export interface Kernel {
  /** Sweeps planar faces about an axis by `angle` rad (2 pi for a whole turn); several give one compound. */
  revolve(faces: PlanarFace[], origin: P3, axis: P3, angle: number): SolidHandle
  /** The same for one face, told what each face comes from. */
  turn(face: PlanarFace, origin: P3, axis: P3, angle: number): Made
  /** Sweeps a planar face along a straight way. */
  prism(face: PlanarFace, way: P3): Made
  /**
   * The kernel's cut, join or meet of one shape with all tools at once; faces that run on are merged unless
   * `apart`; what lies nearer than `near` mm counts as touching.
   */
  boolean(
    how: How,
    target: SolidHandle,
    tools: SolidHandle[],
    way?: { apart?: boolean; near?: number },
  ): Made
  /** Parts a solid by faces and skins that go right through it; the parts come in no order. */
  part(target: SolidHandle, tools: SolidHandle[]): Made
  /** A square of twice `reach` mm about the origin of a plane: a tool to part with. */
  square(plane: Frame, reach: number): SolidHandle
  /** Sweeps a chain of curves along a straight way: an open skin, a tool to part with. */
  sheet(chain: WireCurve[], way: P3): Made
  /**
   * A closed outline carried along a chain of curves it stands square to: a solid. Kinks are mitred, or the sides turn
   * round them. Its frame is the kernel's own: believe it only for round outlines and flat paths.
   */
  pipe(outline: WireCurve[], path: WireCurve[], corner: 'mitre' | 'round'): Made
  /** B-spline faces, and flat ones, sewn to a closed solid. */
  quilt(patches: SplineFace[], flats: PlanarFace[]): Made
  /** One flat face of a solid along a straight way, mm, by itself. */
  grown(s: SolidHandle, face: number, way: P3): Made
  /** Some faces of a solid, by number, as they are: an open skin, a tool to part with. */
  skin(s: SolidHandle, faces: number[]): Made
  moved(s: SolidHandle, motion: Motion): Made
  /** Several shapes as one, not joined. */
  together(shapes: SolidHandle[]): Made
  /** Some faces of a shape and their moved copies, sewn to a closed solid; `shape` of an origin is the copy, 0 the first. */
  sewnCopies(s: SolidHandle, faces: number[], motions: Motion[]): Made
  /** Rounds edges. The middles of faulty ones are the `KernelError`'s `places`. */
  fillet(s: SolidHandle, work: EdgeWork[]): Made
  chamfer(s: SolidHandle, work: EdgeWork[]): Made
  /** Hollows a solid; `offset` mm inwards negative. */
  thick(
    s: SolidHandle,
    open: number[],
    offset: number,
    join: 'arc' | 'intersection',
    fixed?: boolean,
  ): Made
  /** Tilts faces about where they meet a plane, by `angle` rad against its normal. */
  draft(s: SolidHandle, faces: number[], plane: Frame, angle: number): Made
  /** The solids a shape consists of, each to be freed by the caller, and the numbers of their faces in it. */
  solidsOf(s: SolidHandle): SolidHandle[]
  solidFaces(s: SolidHandle): { solid: SolidHandle; faces: number[] }[]
  measure(s: SolidHandle): SolidMeasure
  /** mm3, by triangles within `chord` mm and `angle` rad: a second witness. */
  volumeByTriangles(s: SolidHandle, chord: number, angle: number): number
  /** Face by face, from `per` places on each to the nearest of some faces of another shape, mm. */
  distances(
    s: SolidHandle,
    faces: number[],
    other: SolidHandle,
    otherFaces: number[],
    per: number,
  ): number[][]
  anatomy(s: SolidHandle, chord: number, angle: number): Anatomy
  /** The triangles of its anatomy alone. */
  shown(
    s: SolidHandle,
    chord: number,
    angle: number,
  ): Pick<Anatomy, 'positions' | 'normals' | 'triangles'>
  /** How the faces meet at each edge; null where they meet at more than 20 degrees all along, as they are meant to. */
  seams(s: SolidHandle): (Seam | null)[]
  /** The faces along some edges. */
  ribbons(s: SolidHandle, edges: number[]): Ribbon[][]
  /** The faces that are whole polynomial B-spline surfaces, by number; null for others. */
  surfaces(s: SolidHandle): (WholeFace | null)[]
  /** Of each place, the nearest on some faces; with a direction, the nearest straight before or behind it. */
  feet(s: SolidHandle, faces: number[], from: P3[], along?: P3, out?: boolean): (Foot | null)[]
  /** How its surfaces bend all over. */
  bent(s: SolidHandle): BentSkin
  /** The largest balls that touch it near some places; null where there is none. */
  balls(s: SolidHandle, spots: BallSpot[]): (Ball | null)[]
  /** Lines of its curved faces, `count` of each of both ways, with `steps` steps over all of a surface. */
  lines(s: SolidHandle, count: number, steps: number): SurfaceLine[]
  /** The surface of a face at `count` shares of each of its parameters. */
  grid(s: SolidHandle, face: number, count: number): SurfaceGrid
  /** The lines in which some faces of a shape and some of another (or of the same) go through each other, in no order. */
  meets(s: SolidHandle, faces: number[], other: SolidHandle, otherFaces: number[]): WireCurve[]
  /** The same shape once more, to be freed by itself. */
  same(s: SolidHandle): SolidHandle
  /** Triangles within `chord` mm and `angle` rad of the true surface. */
  tessellate(s: SolidHandle, chord: number, angle: number): KernelMesh
  /** A STEP file of bodies with their names (ASCII) and colours ("#rrggbb"). */
  toStep(solids: { solid: SolidHandle; name: string; color?: string }[]): Uint8Array
  fromStep(bytes: Uint8Array): SolidHandle
  toBytes(s: SolidHandle): Uint8Array
  fromBytes(bytes: Uint8Array): SolidHandle
  free(s: SolidHandle): void
  /** Solids not yet freed. */
  readonly live: number
  /** Memory it has taken, bytes; it is never given back. */
  readonly memory: number
}

export class KernelError extends Error {
  override name = 'KernelError'
  /** Where it fails, in space, where the kernel tells. */
  readonly places: readonly P3[]
  constructor(message: string, places: readonly P3[] = []) {
    super(message)
    this.places = places
  }
}
