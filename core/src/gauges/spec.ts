import type { LabelPanel } from '../flow'
import type { BentSkin, Side } from '../kernel'
import type { P3, Place } from '../math'
import type { TriMesh } from '../mesh'
import {
  type Cavity,
  cavityOf,
  centroidOf,
  displayMesh,
  spaceBounds,
  type TurnedBody,
  volumeOf,
} from '../turned'
import type { Limits, Target } from '../workpiece'

/** A body by its half-section. Its cavity is worked out once for all gauges. */
export interface SectionSubject {
  turned: TurnedBody
  /** g/cm3; undefined when no material is chosen. */
  density: number | undefined
  cavity: Cavity | null
}
/** What every closed body has, whatever it is made of: mm3, mm. */
export interface SolidSubject {
  volume: number
  centroid: P3
  bounds: { min: P3; max: P3 }
  density: number | undefined
  /** Its triangles; null for one that is read on its half-section. */
  mesh: TriMesh | null
}
/** What shows a body: triangles with the normals of its true surface at their corners. */
export interface Skin {
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
  /** The face of each triangle. */
  faceOf?: Uint32Array
}
/**
 * How two faces meet: gap (mm), angle (rad) where it is most and least, from where to where it is kinked (shares of the edge),
 * mismatch of curvature (a share), where it is worst, and what the seam is called.
 */
export interface SeamOfBody {
  name: string
  gap: number
  angle: number
  leastAngle: number
  kinked: [number, number] | null
  bend: number
  at: P3
}
/** A line of one of its surfaces: three numbers a place, how it bends there (1/mm, positive where it bulges), and the face's name. */
export interface LineOfBody {
  name: string
  face: number
  way: 0 | 1
  places: readonly number[]
  bends: readonly number[]
}
/** The flat label that lies on a face, by its name, and the place in its middle, mm; none where it would stretch too much. */
export interface PanelOfBody {
  name: string
  at: P3
  panel: LabelPanel | null
}
/** The thinnest and thickest wall, as true surfaces have it, and its mean by their triangles. */
export type TrueWalls = Record<'min' | 'max', { at: P3; wall: number }> & { mean: number }
/** The body a gauge looks at; `section` is null for one that is not turned. */
export interface Subject {
  solid: SolidSubject
  section: SectionSubject | null
  /** Made when it is asked for. */
  skin: () => Skin
  /** Where its faces run on in each other, or why that is not told; null where it has no true surfaces to read. */
  seams: (() => SeamOfBody[] | string) | null
  /** The lines of its curved faces, likewise. */
  lines: (() => LineOfBody[] | string) | null
  /** The labels that lie on its curved faces, by what the gauge is asked, likewise. */
  panels: ((asked: Params) => PanelOfBody[] | string) | null
  /** How its surfaces bend, likewise. */
  bent: (() => BentSkin | string) | null
  /** Its thinnest and thickest wall, or gaps in it, likewise; null where no two sides face each other. */
  walls: ((side: Side) => TrueWalls | null | string) | null
}
/** How many lines gauges read of each way of a face, and by how many steps. */
export const READ_LINES = { count: 9, steps: 60 }

export const subjectOf = (turned: TurnedBody, density?: number): Subject => ({
  solid: {
    volume: volumeOf(turned),
    centroid: centroidOf(turned),
    bounds: spaceBounds(turned),
    density,
    mesh: null,
  },
  section: { turned, density, cavity: cavityOf(turned) },
  skin: () => displayMesh(turned, SHOWN),
  seams: null,
  lines: null,
  panels: null,
  bent: null,
  walls: null,
})

/** How finely a turned body is read by its skin: chord in mm, angle in rad. */
const SHOWN = { chord: 0.02, angle: 0.05 }
export const solidSubject = (
  of: Omit<SolidSubject, 'density' | 'mesh'> & { mesh: TriMesh },
  skin: Skin,
  density?: number,
  read: Partial<Pick<Subject, 'seams' | 'lines' | 'panels' | 'bent' | 'walls'>> = {},
): Subject => ({
  solid: { ...of, density },
  section: null,
  skin: () => skin,
  seams: null,
  lines: null,
  panels: null,
  bent: null,
  walls: null,
  ...read,
})

/**
 * A face, an edge or a corner as it is measured: its triangles (of no width where it has none), and the plane,
 * line, cylinder or circle it lies on where it does.
 */
export interface Measured {
  name: string
  mesh: TriMesh
  /** Of a face, mm2. */
  area?: number
  /** Of an edge, mm. */
  length?: number
  flat?: Line | undefined
  straight?: Line | undefined
  /** The axis; of a circle through its middle. */
  round?: (Line & { radius: number }) | undefined
  /** A corner. */
  spot?: P3
}
interface Line {
  origin: P3
  dir: P3
}

/** What a gauge reads. `low` and `high` are held against the limits (one value: both the same). */
export interface Reading {
  low: number
  high: number
  text: string
  /** Further figures, in the order they are shown, with their place where they have one. Names of faces stand between slashes. */
  rows: { label: string; text: string; at?: P3 }[]
  places: Place[]
}
type Params = Readonly<Record<string, number | string>>

interface Common {
  kind: string
  label: string
  help: string
  unit: string
  /** The brief's target whose limits count when the gauge has none of its own. */
  target?: Target
  /** A parameter that starts as '' is not told. */
  params: { name: string; label: string; help: string; start: number | '' }[]
  /** Whether it reads between the body and another, named by the parameter `other`; all others when absent. */
  pair?: boolean
}
/** How a gauge reads a body; it gives a sentence where the body has no such measure. */
export interface GaugeSpec extends Common {
  /** On the half-section of a turned body. */
  ofSection?(s: SectionSubject, params: Params): Reading | string
  /** On any closed body: one that is not turned, or where no half-section is needed. */
  ofSolid?(s: SolidSubject, params: Params): Reading | string
  /** On the seams of a body of true surfaces. */
  ofSeams?(seams: readonly SeamOfBody[]): Reading | string
  /** On the lines of the surfaces of such a body. */
  ofLines?(lines: readonly LineOfBody[], params: Params): Reading | string
  /** On the labels that lie on them. */
  ofPanels?(panels: readonly PanelOfBody[]): Reading | string
  /** On how the true surfaces of a body bend; of others on their skin. */
  ofBent?(bent: BentSkin, params: Params): Reading | string
  /** On the wall between true surfaces, or on the gaps between them; of others on their triangles. */
  ofWalls?(walls: TrueWalls | null): Reading | string
  /** What `ofWalls` is given: walls (when absent), or gaps, outside of the material. */
  side?: Side
  /** On the skin of any body. */
  ofSkin?(skin: Skin, params: Params): Reading | string
  /** Between two faces, edges or corners: the parameters `face` of the body and `with` of the body `other`. */
  picks?(a: Measured, b: Measured): Reading | string
  /** Between a body and others. */
  between?(own: TriMesh, others: readonly { name: string; mesh: TriMesh }[]): Reading | string
}

/** Reads a gauge on a body of any kind. */
export function readWith(spec: GaugeSpec, s: Subject, params: Params): Reading | string {
  if (s.section && spec.ofSection) return spec.ofSection(s.section, params)
  if (spec.ofSeams) {
    const seams =
      s.seams?.() ??
      'Seams are read on bodies of the exact kernel; this one is turned, or of triangles.'
    return typeof seams === 'string' ? seams : spec.ofSeams(seams)
  }
  if (spec.ofLines) {
    const lines =
      s.lines?.() ??
      'Lines of surfaces are read on bodies of the exact kernel; this one is turned, or of triangles.'
    return typeof lines === 'string' ? lines : spec.ofLines(lines, params)
  }
  if (spec.ofPanels) {
    const panels =
      s.panels?.(params) ??
      'Labels are laid on bodies of the exact kernel; this one is turned, or of triangles.'
    return typeof panels === 'string' ? panels : spec.ofPanels(panels)
  }
  if (spec.ofBent && s.bent) {
    const bent = s.bent()
    return typeof bent === 'string' ? bent : spec.ofBent(bent, params)
  }
  if (spec.ofWalls && s.walls) {
    const walls = s.walls(spec.side ?? 'in')
    return typeof walls === 'string' ? walls : spec.ofWalls(walls)
  }
  if (spec.ofSkin) return spec.ofSkin(s.skin(), params)
  if (spec.ofSolid) return spec.ofSolid(s.solid, params)
  return 'The body has no half-section to read this on.'
}

export type Verdict = 'holds' | 'marginal' | 'out' | 'none'

/** Share of the band (or of a single limit) within which a reading is called marginal. */
const MARGIN = { band: 0.05, single: 0.02 }

/** How a reading stands against limits: `none` when there are no limits. */
export function verdictOf(low: number, high: number, limits: Limits | undefined): Verdict {
  const { min, max } = limits ?? {}
  if (min === undefined && max === undefined) return 'none'
  if ((min !== undefined && low < min) || (max !== undefined && high > max)) return 'out'
  const margin =
    min !== undefined && max !== undefined
      ? MARGIN.band * (max - min)
      : MARGIN.single * Math.abs(min ?? max ?? 0)
  const close =
    (min !== undefined && low < min + margin) || (max !== undefined && high > max - margin)
  return close ? 'marginal' : 'holds'
}
