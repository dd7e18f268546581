import type { ExactPart, KernelJob } from '@ivory/core/exact'
import type {
  Bending,
  FillCurve,
  SectionCurve,
  SectionsAlong,
  WallHistogram,
} from '@ivory/core/gauges'
import type { FontName } from '@ivory/core/letters'
import type { WorkingRange } from '@ivory/core/limits'
import type { Frame, Outcome, P2, P3 } from '@ivory/core/math'
import type { TriMesh, WallField } from '@ivory/core/mesh'
import type { CageExamination, CageInputs } from '@ivory/core/ops'
import type { CellRef, Drawing, Finding, HoldState, Row, Suggestion } from '@ivory/core/profile'
import type {
  Drivers,
  GaugeReport,
  OpReport,
  Reshape,
  SolveReply,
  SolveRequest,
  tryDimension,
} from '@ivory/core/rebuild'
import type { EdgeRef, FaceRef, VertexRef } from '@ivory/core/refs'
import type { BroughtIn, Format, Overlap, Paper, ReleasedFile } from '@ivory/core/release'
import type { ShownSkin } from '@ivory/core/surface'
import type { DisplayMesh } from '@ivory/core/turned'
import type { FigureValue, KeptFile, Workpiece } from '@ivory/core/workpiece'

/** How a rebuild is to be shown. */
export interface ViewRequest {
  /** Leave half of each body away, with its section faces. */
  cutaway: boolean
  /** Share of the brim volume shown as liquid, 0 to 1; null for none. */
  fill: number | null
  /** While something is dragged: coarser, and no word of progress. */
  draft: boolean
  /** Make the triangles and read the gauges too; without, only the section follows. */
  solid: boolean
  /** The plane of the Table, in which bodies that are not turned are cut. */
  plane: Frame
  /** Where bodies are cut away; `free` where somebody set it, so that turned bodies are cut there too. */
  cut: { plane: Frame; free: boolean }
}
export interface BodyView {
  id: string
  name: string
  key: string
  /** Null when the triangles were not asked for. */
  mesh: DisplayMesh | null
  liquid: DisplayMesh | null
  /** The whole section, piece by piece, in [r, z]. */
  section: { name: string; points: P2[] }[]
  bounds: { min: P3; max: P3 }
  /** mm3 */
  volume: number
  hidden: boolean
  /** Put away: out of section, gauges and release. */
  away: boolean
  /** What the piece will hold: never cut, never released. */
  content: boolean
  look: 'shaded' | 'clear' | 'edges'
  /** In its x and z the section lies; of a turned body z is the axis. */
  frame: Frame
  turned: boolean
  /** Triangles that close it where it is cut away, nine numbers each; none where its own mesh comes cut. */
  cap: Float32Array | null
  /** What can be picked: where it lies on the section (null off it) and its number in the mesh. */
  faces: { ref: FaceRef; at: P2 | null; shown: number }[]
  edges: { ref: EdgeRef; at: P2 | null; sharp: boolean; shown: number }[]
  /** Corners where three faces or more meet, in space. */
  vertices: { ref: VertexRef; at: P3 }[]
}
export interface ProfileView {
  id: string
  frame: Frame
  points: Record<string, P2>
  curves: {
    id: string
    construction: boolean
    points: P2[]
    /** Of a spline: places along it and curvature there, 1/mm, laid off square to it. */
    comb: { at: P2; bend: P2 }[]
  }[]
  health: Finding[]
  axis: { origin: P2; dir: P2 }
  radii: Record<string, number>
  /** Points that projected pieces put where they are. */
  given: ReadonlySet<string>
  /** What the driving dimensions are to be, mm or rad. */
  targets: Readonly<Record<string, number>>
  rows: Readonly<Record<string, Row>>
  hold: HoldState
  suggestions: Suggestion[]
}
/** A plane, axis, point, sheet or path that an op set. */
export type DatumView = { id: string } & (
  | { kind: 'plane'; frame: Frame }
  | { kind: 'axis'; origin: P3; dir: P3 }
  | { kind: 'point'; at: P3 }
  | { kind: 'sheet'; skin: ShownSkin }
  /** Its pieces as polylines, where they meet at a kink, and teeth of a curvature comb (1/mm, to the outside), piece by piece. */
  | {
      kind: 'path'
      pieces: P3[][]
      kinks: P3[]
      stops: P3[]
      /** Which of the stops the path passes by, from 0. */
      aside: number[]
      teeth: { at: P3; bend: P3 }[][]
    }
)

export interface View {
  reports: OpReport[]
  bodies: BodyView[]
  profiles: ProfileView[]
  datums: DatumView[]
  /** Empty when only the section was asked for. */
  gauges: GaugeReport[]
  figures: FigureValue[]
  /** What there is to work with before each op, by op id. */
  available: Record<
    string,
    Record<'profiles' | 'paths' | 'sheets' | 'planes' | 'axes' | 'points', string[]> & {
      bodies: { id: string; name: string }[]
      /** Ops that can be done again, with the body each works on. */
      ops: { id: string; body: string }[]
    }
  >
  ms: number
  /** How many things the exact kernel has to do before all of this is up to date. */
  waits: number
}

/** A closed area of a drawing, its outline and holes as polylines. */
export interface AreaView {
  ref: CellRef
  loops: P2[][]
  /** Which of the op's choices it is; -1 for none. */
  chosen: number
}
export interface WallsView extends Omit<WallField, 'mean' | 'thin' | 'thick'> {
  body: string
}

/** Lines of the surfaces of a body as pairs of places, six numbers a stretch. */
export interface LinesView {
  body: string
  stretches: Float32Array
}

/** Volume by level, the wall all over, sections and mass along an axis, how a path bends, and sections along it. */
export type ChartKind = 'fill' | 'walls' | 'x' | 'y' | 'z' | 'bending' | 'sections'
export type ChartData =
  | { kind: 'fill'; fill: FillCurve }
  | { kind: 'walls'; walls: WallHistogram }
  | { kind: 'bending'; bending: Bending }
  | { kind: 'sections'; sections: SectionsAlong }
  | { kind: 'section'; along: 'x' | 'y' | 'z'; section: SectionCurve }

/** Requests to the engine, with what each is answered by. */
export interface Calls {
  rebuild: { ask: { doc: Workpiece; view: ViewRequest }; reply: View }
  /** The same once the exact kernel has done all it has to, for a picture. */
  /** Null where it was left unfinished. */
  portrayed: { ask: { doc: Workpiece; view: ViewRequest }; reply: View | null }
  /** Pictures that are being made are left unfinished. */
  leavePictures: { ask: null; reply: null }
  /** Faces and edges of the body an op works on, as they are before it. */
  picks: { ask: { doc: Workpiece; op: string; body: string; plane: Frame }; reply: BodyView | null }
  tryDimension: {
    ask: { doc: Workpiece; op: string; id: string; value: number | string }
    reply: ReturnType<typeof tryDimension>
  }
  /** The numbers that move a held point. */
  drivers: { ask: { doc: Workpiece; op: string; point: string }; reply: Drivers }
  reshape: { ask: { doc: Workpiece; op: string; change: Reshape }; reply: Outcome<Drawing> }
  /** A drawing with the outline of a DXF or SVG text added, and what became of it. */
  outline: {
    ask: { name: string; text: string; scale: number | null; join: number; drawing: Drawing }
    reply: Outcome<BroughtIn>
  }
  lettering: {
    ask: { font: FontName; text: string; size: number; drawing: Drawing }
    reply: Outcome<BroughtIn>
  }
  /** The pieces of a profile as DXF or SVG. */
  outlineOut: {
    ask: { doc: Workpiece; op: string; format: 'dxf' | 'svg' }
    reply: { text: string; note: string } | string
  }
  /** The closed areas of a profile that an op (or a section of it) uses, and which of them it has chosen. */
  areas: { ask: { doc: Workpiece; op: string; section?: number }; reply: AreaView[] }
  /** The wall all over the bodies shown: small triangles (nine numbers each) with the wall under each, mm. */
  walls: { ask: { doc: Workpiece }; reply: WallsView[] }
  /** Lines of the curved faces of the bodies shown, `count` of each way. */
  lines: { ask: { doc: Workpiece; count: number }; reply: LinesView[] }
  /** What a chart shows of a body; null where it has no such thing. */
  chart: {
    ask: { doc: Workpiece; body: string; path?: string; kind: ChartKind }
    reply: ChartData | null
  }
  /** A scale of a vessel's content in real millimetres, as SVG. */
  scale: { ask: { doc: Workpiece; body: string; every: number }; reply: string | null }
  /** The cut of the bodies shown as SVG or DXF, or why there is none. */
  sectionOut: {
    ask: { doc: Workpiece; plane: Frame; format: 'dxf' | 'svg' }
    reply: { text: string; note: string } | string
  }
  /** The cut of the bodies shown, or what an op has drawn, in real size times `scale` over sheets of paper, as PDF. */
  printed: {
    ask: { doc: Workpiece; what: { op: string } | { plane: Frame }; scale: number; paper: Paper }
    reply: { bytes: Uint8Array; note: string } | string
  }
  range: { ask: { doc: Workpiece; op: string; input: string }; reply: WorkingRange | null }
  /** The symmetry that the cage of an op begins with. */
  symmetry: {
    ask: { doc: Workpiece; op: string }
    reply: Pick<CageInputs, 'turns' | 'mirrors'> | string
  }
  /** What would make the cage of an op more even, or why that cannot be told. */
  examine: { ask: { doc: Workpiece; op: string }; reply: CageExamination | string }
  solve: { ask: { doc: Workpiece; request: SolveRequest }; reply: SolveReply | string }
  release: {
    ask: { doc: Workpiece; format: Format; chord: number; angle: number; without: string[] }
    reply: ReleasedFile | string
  }
  /** Bodies among those chosen that take up the same room. */
  overlaps: { ask: { doc: Workpiece; only: string[] }; reply: Overlap[] }
  /** The same of bodies by their triangles. */
  shared: { ask: { name: string; mesh: TriMesh }[]; reply: Overlap[] }
  /** Work for the exact kernel, with the recipes of what it works on. */
  job: {
    ask: { job: KernelJob; recipes: KernelJob[]; files: Readonly<Record<string, KeptFile>> }
    reply: Outcome<ExactPart[]>
  }
  /** Ends the exact kernel in the middle of what it does. */
  stopKernel: { ask: null; reply: null }
  /** Has what failed, or was stopped, done again at the next rebuild. */
  retry: { ask: null; reply: null }
  measureFile: { ask: { name: string; bytes: Uint8Array }; reply: string[] | string }
}
export type CallName = keyof Calls
export type Request = { [K in CallName]: { id: number; call: K; ask: Calls[K]['ask'] } }[CallName]
/** A call whose reply nobody waits for any more: work for it that is not begun need not be. */
export interface Leave {
  leave: number
}
export type Response =
  | { id: number; is: 'progress'; report: OpReport }
  | { id: number; is: 'done'; reply: unknown }
  | { id: number; is: 'broken'; message: string }
  | { is: 'news' }
