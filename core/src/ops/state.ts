import type { Crease } from '../cage'
import type { ExactEdge, ExactPart, KernelJob } from '../exact'
import { bad, type Diagnosis, type Frame, fixed, good, type Outcome, type P3 } from '../math'
import type { Drawing, Finding, Shape } from '../profile'
import type { EdgeRef } from '../refs'
import type { Curve3, Patch, ShownSkin } from '../surface'
import { type TurnedBody, volumeOf } from '../turned'
import type { Dimension } from '../workpiece'

/** A body as it stands after an op. */
export interface TurnedPart {
  kind: 'turned'
  turned: TurnedBody
}
export interface Body {
  id: string
  name: string
  shape: TurnedPart | ExactPart
  /** Changes whenever the body does; equal keys mean equal bodies. */
  key: string
}
export interface Plane {
  frame: Frame
  key: string
}
/** A datum line: a place on it and its unit direction. */
export interface Axis {
  origin: P3
  dir: P3
  key: string
}
/** A datum point. */
export interface Point {
  at: P3
  key: string
}
export interface Profile {
  frame: Frame
  drawing: Drawing
  shape: Shape
  health: Finding[]
  key: string
}

/** A chain of curves in space, in its order. */
export interface Path {
  pieces: Curve3[]
  /** Of each piece, for faces that are made along it. */
  names: string[]
  closed: boolean
  /** The places it was told to go through, where it was. */
  stops?: P3[]
  /** Which of those it passes by, from 0. */
  aside?: number[]
  key: string
}

/** A skin without thickness: patches side by side, u along them and v across; it looks out where u x v does. */
export interface Sheet {
  patches: readonly { patch: Patch; names: string[] }[]
  /** Whether the last patch meets the first. */
  closed: boolean
  key: string
}

/** What an op did to a body. What it added or took can be done again elsewhere. */
export type Did = {
  /** The body it worked on. */
  body: string
} & (
  | {
      how: 'join' | 'cut'
      shapes: Body['shape'][]
      /** What the body was before, where it is known. */
      before?: Body['shape']
    }
  | {
      how: 'round'
      edges: RoundedEdge[]
      before: ExactPart
    }
)
export type Tool = Did & { key: string }
/** An edge as it was before it was rounded, and by how much, mm: to another radius at its other end. */
export interface RoundedEdge {
  /** The op that asked for it: rounds of ops before may be made anew together with these. */
  op: string
  ref: EdgeRef
  bend: ExactEdge['bend']
  size: number
  end?: number
}

/** Everything that exists after an op. Never changed in place. */
export interface State {
  planes: Readonly<Record<string, Plane>>
  axes: Readonly<Record<string, Axis>>
  points: Readonly<Record<string, Point>>
  profiles: Readonly<Record<string, Profile>>
  paths: Readonly<Record<string, Path>>
  sheets: Readonly<Record<string, Sheet>>
  bodies: Readonly<Record<string, Body>>
  /** By the id of the op. */
  tools: Readonly<Record<string, Tool>>
}

const plane = (x: Frame['x'], y: Frame['y'], z: Frame['z']): Frame => ({
  origin: [0, 0, 0],
  x,
  y,
  z,
})

/** The three planes every workpiece starts with. z is up. */
export const START: State = {
  planes: {
    front: { frame: plane([1, 0, 0], [0, 0, 1], [0, -1, 0]), key: 'front' },
    side: { frame: plane([0, 1, 0], [0, 0, 1], [1, 0, 0]), key: 'side' },
    top: { frame: plane([1, 0, 0], [0, 1, 0], [0, 0, 1]), key: 'top' },
  },
  axes: {},
  points: {},
  profiles: {},
  paths: {},
  sheets: {},
  bodies: {},
  tools: {},
}

/** What an op sees. Everything it reads is noted, so that it runs again only when that changed. */
export interface OpContext {
  op: string
  read(value: number | string, want: Dimension): number
  plane(id: string): Plane | undefined
  axis(id: string): Axis | undefined
  point(id: string): Point | undefined
  profile(id: string): Profile | undefined
  path(id: string): Path | undefined
  sheet(id: string): Sheet | undefined
  body(id: string): Body | undefined
  tool(op: string): Tool | undefined
  /** Whether a body is what the piece will hold: it is never cut. */
  content(body: string): boolean
  /** Whether any body of the route so far ever had a face of this name. */
  knew(face: string): boolean
  /** The name of a kept file; undefined where there is none. */
  file(id: string): string | undefined
  /** What a job of the exact kernel made; throws `WaitsForKernel` while it has not been done, `StoppedKernel` where it was stopped. */
  kernel(job: KernelJob): Outcome<ExactPart[]>
  /** What takes long is worked out once while the op waits for the kernel and is run again; `name` tells it from others in the op. */
  once<T>(name: string, make: () => T): T
  /**
   * Something is dragged: what is shown of the op is enough. An op that takes long fits loosely then, shows its skin and throws
   * `RoughEnough`.
   */
  rough: boolean
  /** Tells what the Stage shows of the op, also where it then fails; added to what was told before. */
  shows(what: Shown): void
}

/** What the Stage shows of an op while it is chosen. */
export interface Shown {
  /** Lines along what is matched across sections: of each, a place on every section. */
  threads?: P3[][]
  /** How many holes each section of a loft has. */
  holes?: number
  /** Of each section, places all round from where its matching starts. */
  outlines?: P3[][]
  /** Whether corners are matched, or places on smooth outlines. */
  corners?: boolean
  /** Where rails come nearest to sections, and how far they are apart there, mm. */
  touches?: { at: P3; gap: number }[]
  next?: NextRail
  /** What it is told to be the same the other way round. */
  turned?: TurnedLoft
  /** Its skin, until the exact kernel has made it a body. */
  skin?: ShownSkin
  cage?: ShownCage
  /** How a cage lies on a body: places, how far each is off, and how far they may be, mm. */
  laid?: { edit: string; places: Float64Array; offs: Float64Array; within: number }
}
/** A cage as it is edited: what its points and faces are called, where they lie and what is sharp. */
export interface ShownCage {
  points: readonly string[]
  at: Float64Array
  faces: readonly { name: string; corners: readonly number[] }[]
  creases: readonly Crease[]
  rows: readonly { name: string; points: readonly number[] }[]
  /** Points that the symmetry was let go for. */
  free: readonly number[]
}
/** A loft whose rails have become sections, and its sections rails. */
export interface TurnedLoft {
  sections: ({ path: string; shift: number } | { path: string; only: 'start' | 'end' })[]
  rails: string[]
}
/** Where a skin bends most between its sections: its radius there (mm), and what a rail through there has to touch. */
export interface NextRail {
  at: P3
  radius: number
  places: P3[]
}

/** An op cannot go on before the exact kernel has done a job. */
export class WaitsForKernel extends Error {
  override name = 'WaitsForKernel'
  readonly job: KernelJob
  constructor(job: KernelJob) {
    super(`waits for ${job.verb}`)
    this.job = job
  }
}

/** A job of the exact kernel was stopped, or ran out of time: nothing can be said of what the op makes, and no other way is taken. */
export class StoppedKernel extends Error {
  override name = 'StoppedKernel'
  readonly diagnosis: Diagnosis
  constructor(diagnosis: Diagnosis) {
    super(diagnosis.message)
    this.diagnosis = diagnosis
  }
}

/** What an op shows is enough for now: while something is dragged it makes nothing. */
export class RoughEnough extends Error {
  override name = 'RoughEnough'
}

/** The half-section of a body; a diagnosis where it has none. */
export const sectionOf = (b: Body): Outcome<TurnedBody> =>
  b.shape.kind === 'turned'
    ? good(b.shape.turned)
    : bad(
        'no-section',
        `${b.name} is not turned and has no half-section; this works on turned bodies.`,
      )

/** What an op makes of it. Bodies set to null are taken away. */
export interface OpResult {
  planes?: Record<string, Omit<Plane, 'key'>>
  axes?: Record<string, Omit<Axis, 'key'>>
  points?: Record<string, Omit<Point, 'key'>>
  profiles?: Record<string, Omit<Profile, 'key'>>
  paths?: Record<string, Omit<Path, 'key'>>
  sheets?: Record<string, Omit<Sheet, 'key'>>
  bodies?: Record<string, Omit<Body, 'key'> | null>
  tool?: Did
  /** The result stands, but is not what was asked: the first of the warnings says why. */
  failed?: boolean
  /** What a person should know although the op worked. */
  warnings: Diagnosis[]
  /** One line: what the op did, in numbers. */
  consequence: string
}

/** A result, or one whose words take a measurement that a mere trial of a value can do without. */
export type OpMade = OpResult | (Omit<OpResult, 'warnings' | 'consequence'> & { say(): Said })
type Said = Pick<OpResult, 'warnings' | 'consequence'>

/** The result with its words. */
export function said(made: OpMade): OpResult {
  if (!('say' in made)) return made
  const { say, ...result } = made
  return { ...result, ...say() }
}

/** The half-section of a body that is known to be turned; throws otherwise. */
export function turnedOf(b: Body): TurnedBody {
  if (b.shape.kind !== 'turned') throw new Error(`${b.id} is not a turned body`)
  return b.shape.turned
}

/** "+41.2 cm³" or "−3300 mm³": a change of volume (mm3) in words. */
export function volumeWords(before: number, after: number): string {
  const d = after - before
  const sign = d < 0 ? '−' : '+'
  const size = Math.abs(d)
  return size >= 1000
    ? `${sign}${fixed(size / 1000, 1)} cm³`
    : `${sign}${fixed(size, size < 10 ? 2 : 0)} mm³`
}
/** The same of turned bodies; from nothing where there was none. */
export const volumeChange = (before: TurnedBody | null, after: TurnedBody): string =>
  volumeWords(before ? volumeOf(before) : 0, volumeOf(after))
