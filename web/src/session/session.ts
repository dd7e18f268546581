import type { Frame, P3 } from '@ivory/core/math'
import { type Drawing, emptyDrawing } from '@ivory/core/profile'
import type { Op, Workpiece } from '@ivory/core/workpiece'
import { type Draft, produce } from 'immer'
import { create } from 'zustand'
import type { ChartKind, View } from '../engine'
import { HISTORY } from '../storage/db'
import { type Caging, NO_CAGING, type Spot } from './cagestate'
import { type Cut, cutPlane } from './cut'

/** What is being picked on the model: references for one input of an op. */
export interface Picking {
  op: string
  input: string
  what: 'faces' | 'edges' | 'vertices'
  /** The body it is picked on, where the input takes things of any; what is picked is added once, as a section. */
  body?: string
  /** The op is new: its value is brought into what holds once something is picked. */
  fresh?: boolean
  /** What a single face that is picked is added with, where it is one of several things in a list. */
  as?: object
}
/** Which way the sheet lies that a path is drawn on. */
export const SHEETS = ['level', 'front', 'side'] as const
export interface Tracing {
  op: string
  /** One of the three ways it always can, a datum plane it lies along, or `own`: as `frame` tells. */
  sheet: string
  /** Where it was laid on a face or through three places. */
  frame?: Frame
  /** Places on bodies are picked to lay it by. */
  laying?: { how: 'face' | 'three'; picks: P3[] }
  /** How far it is tilted about the way the path last ran, deg. */
  tilt: number
  by: 'line' | 'arc' | 'over' | 'spline'
}
/** How bodies are looked at: stripes in a mirror (how many), or their lean against a pull (at least so many degrees). */
export type Reading =
  | { kind: 'stripes'; along: Axis; size: number }
  /** `parts`: how far along the halves of a mould part, mm; each place goes the way it looks where it is null. */
  | { kind: 'lean'; along: Axis; size: number; parts: number | null; second: Axis | null }
  /** `size`: a radius, mm. */
  | { kind: 'bends'; of: Bend; size: number }
export type Axis = 'x' | 'y' | 'z'
/** Hollows and bulges by their least radius; both at once by the mean or the product of the curvatures. */
export type Bend = 'hollow' | 'bulge' | 'mean' | 'product'
/** What the drawing table has selected. */
export interface DrawnSelection {
  points: string[]
  entities: string[]
}
export type SaveState = 'saved' | 'saving' | 'failed' | 'conflict'

/** What is pointed at in a chart: a level across an axis (mm), walls between two widths, or a place on a path. */
export type Marked =
  | { along: 'x' | 'y' | 'z'; at: number }
  | { from: number; to: number }
  | { spot: P3 }

/** What areas are being chosen for: an op, or one of the sections it runs through. */
export interface Choosing {
  op: string
  section?: number
}

interface Session {
  doc: Workpiece | null
  past: Workpiece[]
  future: Workpiece[]
  /** The document before a drag that is under way. */
  dragFrom: Workpiece | null
  revision: number
  /** The op whose areas are chosen on the Table, where it does not show them by itself. */
  choosing: Choosing | null
  save: SaveState
  saveWord: string
  view: View | null
  /** The newest view with triangles and gauges: during a drag the section runs ahead of it. */
  settled: View | null
  building: boolean
  /** Number of the op the running rebuild has come to. */
  reached: number
  /** Why the last rebuild did not come back. */
  broken: string
  selected: string | null
  picking: Picking | null
  drawn: DrawnSelection
  hover: string
  cutaway: boolean
  /** Whether the stage is one in which things are drawn. */
  shaping: boolean
  /** Where bodies are cut; null where the front plane cuts them, and turned ones along their axis. */
  cut: Cut | null
  /** The gauge whose faces are being picked on the Stage, and which of them is next. */
  measuring: { gauge: string; next: 'face' | 'with' } | null
  /** The next face or edge that is clicked takes a note. */
  noting: boolean
  /** The path that is drawn on the Stage: which way its sheet lies, and how the next place is gone to. */
  tracing: Tracing | null
  /** How the chosen cage is being edited. */
  caging: Caging
  /** What of the chosen cage is under the pointer; nothing else is then. */
  overCage: string | null
  /** What is being drawn over the Stage to pick what lies in it. */
  loop: readonly Spot[] | null
  /** Whether the wall is shown all over the bodies. */
  wallMap: boolean
  reading: Reading | null
  /** Whether the chosen path shows how its curvature runs. */
  pathComb: boolean
  parallel: boolean
  fill: number | null
  /** Lines of the surfaces on the Stage: how many of each way on a face; none while null. */
  lines: number | null
  /** The chart in place of the Table, the body it is of, and the path where it is along one. */
  chart: { body: string; path?: string; kind: ChartKind } | null
  /** Walls are dimensioned on the cut. */
  cutWalls: boolean
  marked: Marked | null
  /** The place of a gauge's row that is pointed at. */
  pointed: P3 | null
  /** The place on a body under the pointer, for the chart to show. */
  touched: P3 | null
  /** Ops that made the face under the pointer, the last first, and the drawn piece it comes from. */
  makers: { ops: string[]; piece: string }
  /** The op pointed at in the route: its faces are lit. */
  litOp: string | null
}

/**
 * The profile the Table shows: the one that is drawn, a text, what an extrude carries out, or what an op fails
 * to use.
 */
export function tableProfile({
  doc,
  view,
  selected,
  shaping,
  choosing,
}: Pick<Session, 'doc' | 'view' | 'selected' | 'shaping' | 'choosing'>): string | null {
  const op = shaping ? opOf(doc, selected) : undefined
  if (!op) return null
  if (op.kind === 'profile' || op.kind === 'text') return op.id
  const { profile, profiles } = op.inputs
  const chosen = choosing?.op === op.id
  const section = chosen ? sectionOf(op, choosing?.section) : undefined
  const named = section?.profile ?? profile ?? (Array.isArray(profiles) ? profiles[0] : null)
  const used = typeof named === 'string' ? named : null
  const failing = view?.reports.find((r) => r.id === op.id)?.status === 'fail'
  return op.kind === 'extrude' || failing || chosen ? used : null
}

/** A section of a loft by its number, where it is one. */
export const sectionOf = (op: Op, section: number | undefined) =>
  section === undefined
    ? undefined
    : (op.inputs.sections as { profile?: string; areas?: unknown[] }[] | undefined)?.[section]

/** The plane the Table shows: that of its profile, else where bodies are cut. */
export function tablePlane(
  s: Pick<Session, 'doc' | 'view' | 'selected' | 'cut' | 'shaping' | 'choosing'>,
): Frame {
  const id = tableProfile(s)
  return (id && s.view?.profiles.find((p) => p.id === id)?.frame) || cutPlane(s)
}

const none: DrawnSelection = { points: [], entities: [] }

export const NO_MAKERS: Session['makers'] = { ops: [], piece: '' }

export const useSession = create<Session>(() => ({
  doc: null,
  past: [],
  future: [],
  dragFrom: null,
  revision: 0,
  choosing: null,
  save: 'saved',
  saveWord: '',
  view: null,
  settled: null,
  building: false,
  reached: 0,
  broken: '',
  selected: null,
  picking: null,
  drawn: none,
  hover: '',
  cutWalls: false,
  cutaway: true,
  shaping: true,
  cut: null,
  measuring: null,
  noting: false,
  tracing: null,
  caging: NO_CAGING,
  overCage: null,
  loop: null,
  wallMap: false,
  lines: null,
  reading: null,
  pathComb: false,
  parallel: false,
  fill: null,
  chart: null,
  marked: null,
  touched: null,
  pointed: null,
  makers: NO_MAKERS,
  litOp: null,
}))

const set = useSession.setState
const get = useSession.getState

export function openSession(doc: Workpiece, past: Workpiece[], revision: number): void {
  set({
    doc,
    past,
    future: [],
    dragFrom: null,
    revision,
    save: 'saved',
    saveWord: '',
    view: null,
    settled: null,
    broken: '',
    selected: doc.route[0]?.id ?? null,
    picking: null,
    drawn: none,
    fill: null,
    choosing: null,
    cut: null,
    measuring: null,
    noting: false,
    tracing: null,
    caging: NO_CAGING,
    chart: null,
    marked: null,
    touched: null,
    makers: NO_MAKERS,
    litOp: null,
  })
}

/** One undoable change of the document. */
export function edit(change: (doc: Draft<Workpiece>) => void): void {
  const { doc, past, dragFrom } = get()
  if (!doc) return
  const next = produce(doc, change)
  if (next === doc && !dragFrom) return
  set({ doc: next, past: [...past, dragFrom ?? doc].slice(-HISTORY), future: [], dragFrom: null })
}

/** Another document in place of this one, undone in one step. */
export function replaceDoc(next: (doc: Workpiece) => Workpiece): void {
  const { doc, past, dragFrom, selected } = get()
  if (!doc) return
  const made = next(doc)
  set({
    doc: made,
    past: [...past, dragFrom ?? doc].slice(-HISTORY),
    future: [],
    dragFrom: null,
    picking: null,
    tracing: null,
    drawn: none,
    caging: NO_CAGING,
    selected: opOf(made, selected) ? selected : (made.route[0]?.id ?? null),
  })
}

/** A change that belongs to the one before it: undone together with that. */
export function amend(change: (doc: Draft<Workpiece>) => void): void {
  const { doc } = get()
  if (doc) set({ doc: produce(doc, change), future: [] })
}

/** A change on the way to one, as while dragging: shown, but undone as a whole. */
export function preview(change: (doc: Draft<Workpiece>) => void): void {
  const { doc, dragFrom } = get()
  if (!doc) return
  set({ doc: produce(doc, change), dragFrom: dragFrom ?? doc })
}

/** Shows again what was there before a preview. */
export function dropPreview(): void {
  const { dragFrom } = get()
  if (dragFrom) set({ doc: dragFrom, dragFrom: null })
}

/** Ends a drag: what was previewed becomes one undoable change. */
export function settle(): void {
  if (get().dragFrom) edit(() => undefined)
}

export function undo(): void {
  const { doc, past, future } = get()
  const last = past[past.length - 1]
  if (!doc || !last) return
  set({
    doc: last,
    past: past.slice(0, -1),
    future: [doc, ...future],
    dragFrom: null,
    picking: null,
  })
}

export function redo(): void {
  const { doc, past, future } = get()
  const next = future[0]
  if (!doc || !next) return
  set({ doc: next, past: [...past, doc], future: future.slice(1), dragFrom: null, picking: null })
}

export const select = (id: string | null): void =>
  set((s) => ({
    selected: id,
    picking: null,
    noting: false,
    tracing: null,
    drawn: none,
    caging: { ...s.caging, picks: [], open: null },
  }))

/** Selects an op and asks for its sheet, which not every stage of the job shows. */
export function openOp(id: string): void {
  select(id)
  window.dispatchEvent(new CustomEvent('open-op', { detail: id }))
}

export const opOf = (doc: Workpiece | null, id: string | null): Op | undefined =>
  doc?.route.find((o) => o.id === id)

const NOTHING_DRAWN = emptyDrawing()
/** What an op has drawn; nothing where that was left out of a file, or is none. */
export function drawingOf(op: Op | undefined): Drawing {
  const found = op?.inputs.drawing as Partial<Drawing> | undefined
  return found?.points && Array.isArray(found.entities) ? (found as Drawing) : NOTHING_DRAWN
}

/** The selected op. */
export const useSelectedOp = (): Op | undefined => useSession((s) => opOf(s.doc, s.selected))

/** Notes in the workpiece's log what left the shop or was decided. */
export function logged(d: Draft<Workpiece>, text: string): void {
  d.log.push({ at: new Date().toISOString(), text: text.slice(0, 500) })
  if (d.log.length > LOG_LENGTH) d.log.splice(0, d.log.length - LOG_LENGTH)
}
const LOG_LENGTH = 500

/** Replaces inputs of an op in one change. */
export function setInputs(id: string, inputs: Record<string, unknown>, how = edit): void {
  how((d) => {
    const op = d.route.find((o) => o.id === id)
    if (!op) return
    for (const [k, v] of Object.entries(inputs)) {
      if (v === undefined) delete op.inputs[k]
      else op.inputs[k] = v as never
    }
  })
}

type BodyDoc = Workpiece['bodies'][string]

/** Sets what is kept of a body; keys set to undefined are taken away. */
export const editBody = (id: string, changes: { [K in keyof BodyDoc]: BodyDoc[K] | undefined }) =>
  edit((d) => {
    d.bodies[id] = { ...d.bodies[id], ...changes } as BodyDoc
    for (const key of Object.keys(changes) as (keyof BodyDoc)[])
      if (changes[key] === undefined) delete d.bodies[id][key]
  })
