import type { WorkingRange } from '@ivory/core/limits'
import type { Frame, Outcome, P2, P3 } from '@ivory/core/math'
import type { ExactPart } from '@ivory/core/ops'
import type { Drawing, Finding, HoldState, Row, Suggestion } from '@ivory/core/profile'
import type {
  GaugeReport,
  OpReport,
  Reshape,
  SolveReply,
  SolveRequest,
  tryDimension,
} from '@ivory/core/rebuild'
import type { BroughtIn, Format, ReleasedFile } from '@ivory/core/release'
import type { DisplayMesh, EdgeRef, FaceRef } from '@ivory/core/turned'
import type { FigureValue, Workpiece } from '@ivory/core/workpiece'

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
  /** The axis frame of a turned body. */
  frame: Frame
  faces: { ref: FaceRef; at: P2 }[]
  edges: { ref: EdgeRef; at: P2; sharp: boolean }[]
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
/** A plane, axis or point that an op set. */
export type DatumView = { id: string } & (
  | { kind: 'plane'; frame: Frame }
  | { kind: 'axis'; origin: P3; dir: P3 }
  | { kind: 'point'; at: P3 }
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
    Record<'profiles' | 'planes' | 'axes' | 'points', string[]> & {
      bodies: { id: string; name: string }[]
    }
  >
  ms: number
  /** Kept files the exact kernel has to read first. */
  waits: string[]
}

/** Requests to the engine, with what each is answered by. */
export interface Calls {
  rebuild: { ask: { doc: Workpiece; view: ViewRequest }; reply: View }
  /** Faces and edges of the body an op works on, as they are before it. */
  picks: { ask: { doc: Workpiece; op: string; body: string }; reply: BodyView | null }
  tryDimension: {
    ask: { doc: Workpiece; op: string; id: string; value: number | string }
    reply: ReturnType<typeof tryDimension>
  }
  reshape: { ask: { doc: Workpiece; op: string; change: Reshape }; reply: Outcome<Drawing> }
  /** A drawing with the outline of a DXF or SVG text added, and what became of it. */
  outline: {
    ask: { name: string; text: string; scale: number | null; join: number; drawing: Drawing }
    reply: Outcome<BroughtIn>
  }
  lettering: {
    ask: { font: ArrayBuffer; text: string; size: number; drawing: Drawing }
    reply: Outcome<BroughtIn>
  }
  /** The pieces of a profile as DXF or SVG. */
  outlineOut: {
    ask: { doc: Workpiece; op: string; format: 'dxf' | 'svg' }
    reply: { text: string; note: string } | string
  }
  range: { ask: { doc: Workpiece; op: string; input: string }; reply: WorkingRange | null }
  solve: { ask: { doc: Workpiece; request: SolveRequest }; reply: SolveReply | string }
  release: {
    ask: { doc: Workpiece; format: Format; chord: number; angle: number }
    reply: ReleasedFile | string
  }
  /** Reads a kept STEP file, for `provide` to hand to the lathe. */
  readSolid: { ask: { doc: Workpiece; file: string }; reply: Outcome<ExactPart> }
  provide: { ask: { file: string; solid: Outcome<ExactPart> }; reply: null }
  measureFile: { ask: { name: string; bytes: Uint8Array }; reply: string[] | string }
}
export type CallName = keyof Calls
export type Request = { [K in CallName]: { id: number; call: K; ask: Calls[K]['ask'] } }[CallName]
export type Response =
  | { id: number; is: 'progress'; report: OpReport }
  | { id: number; is: 'done'; reply: unknown }
  | { id: number; is: 'broken'; message: string }
