import { type Curve, curvatureAt, flattenParams, pointAt, tangentAt } from '@ivory/core/curve'
import { dist, type P2, scale3 } from '@ivory/core/math'
import { type Body, type Path, type Profile, START } from '@ivory/core/ops'
import { chainFindings } from '@ivory/core/path'
import { type Suggestion, suggestions } from '@ivory/core/profile'
import {
  type GaugeReport,
  type OpReport,
  type Rebuilt,
  readGauges,
  triangleMesh,
} from '@ivory/core/rebuild'
import { bend3, type Curve3, place3, polyline3, shownSkin } from '@ivory/core/surface'
import {
  brimVolume,
  cavityOf,
  cornersOf,
  displayMesh,
  edgeRef,
  faceRef,
  facesOf,
  isSharp,
  isWhole,
  levelFor,
  liquidAt,
  sectionLines,
  spaceBounds,
  type TurnedBody,
  volumeOf,
} from '@ivory/core/turned'
import { sayLengths, type Workpiece } from '@ivory/core/workpiece'
import { cutView, exactView } from './exactview'
import type { BodyView, DatumView, ProfileView, View, ViewRequest } from './protocol'

const FINE = { chord: 0.05, angle: 0.09 }
const DRAFT = { chord: 0.4, angle: 0.22 }

/** Everything the page draws of a rebuilt workpiece. */
export function viewOf(w: Workpiece, built: Rebuilt, request: ViewRequest, ms: number): View {
  return {
    reports: built.reports.map((r) => saidReport(r, w.unit)),
    bodies: Object.values(built.state.bodies).map((b) => trayed(bodyView(b, request), w)),
    profiles: Object.entries(built.state.profiles).map(([id, p]) =>
      profileView(id, p, request.draft),
    ),
    datums: datumViews(built.state),
    gauges: request.solid ? readGauges(w, built).map((g) => saidGauge(g, w.unit)) : [],
    figures: built.figures.values,
    available: Object.fromEntries(
      Object.entries(built.before).map(([op, s]) => [
        op,
        {
          bodies: Object.values(s.bodies).map((b) => ({ id: b.id, name: b.name })),
          profiles: Object.keys(s.profiles),
          paths: Object.keys(s.paths),
          sheets: Object.keys(s.sheets),
          planes: Object.keys(s.planes),
          axes: Object.keys(s.axes),
          points: Object.keys(s.points),
          ops: Object.entries(s.tools).flatMap(([id, { how, body }]) =>
            how === 'round' ? [] : [{ id, body }],
          ),
        },
      ]),
    ),
    ms,
    waits: built.waits.length,
  }
}

/** What is hidden or put away has neither triangles nor section to show. */
function trayed(v: BodyView, w: Workpiece): BodyView {
  const { hidden = false, away = false, content = false, look } = w.bodies[v.id] ?? {}
  // Content is seen through unless somebody says otherwise.
  const shown: BodyView = { ...v, content, look: look ?? (content ? 'clear' : 'shaded') }
  if (!hidden && !away) return shown
  return { ...shown, hidden, away, mesh: null, liquid: null, section: [] }
}

/** Datums that ops set; the planes every workpiece starts with are not among them. */
const datumViews = ({ planes, axes, points, paths, sheets }: Rebuilt['state']): DatumView[] => [
  ...Object.entries(planes)
    .filter(([id]) => !(id in START.planes))
    .map(([id, { frame }]) => ({ id, kind: 'plane' as const, frame })),
  ...Object.entries(axes).map(([id, { origin, dir }]) => ({
    id,
    kind: 'axis' as const,
    origin,
    dir,
  })),
  ...Object.entries(points).map(([id, { at }]) => ({ id, kind: 'point' as const, at })),
  ...Object.entries(paths).map(([id, p]) => pathView(id, p)),
  ...Object.entries(sheets).map(([id, s]) => ({
    id,
    kind: 'sheet' as const,
    skin: shownSkin(s.patches.map((p) => p.patch)),
  })),
]

/** How finely paths are shown: chord in mm. */
const PATH_CHORD = 0.05

const pathView = (id: string, { pieces, closed, stops = [], aside = [] }: Path): DatumView => ({
  id,
  kind: 'path',
  stops,
  aside,
  pieces: pieces.map((c) => polyline3(c, PATH_CHORD)),
  teeth: pieces.map(teethOf),
  kinks: chainFindings(pieces, closed).flatMap((f) => (f.code === 'kink' ? [f.at] : [])),
})

/** Teeth of a comb along a piece of a path: how many. */
const TEETH = 24
const teethOf = (c: Curve3) =>
  Array.from({ length: TEETH + 1 }, (_, i) => ({
    at: place3(c, i / TEETH),
    bend: scale3(bend3(c, i / TEETH), -1),
  }))

/** Reports and gauges speak in millimetres; the page shows the workpiece's unit. */
const saidReport = (r: OpReport, unit: Workpiece['unit']): OpReport => ({
  ...r,
  consequence: sayLengths(r.consequence, unit),
  diagnoses: r.diagnoses.map((d) => ({
    ...d,
    message: sayLengths(d.message, unit),
    fixes: d.fixes.map((f) => ({ ...f, label: sayLengths(f.label, unit) })),
  })),
})
const saidGauge = (g: GaugeReport, unit: Workpiece['unit']): GaugeReport => ({
  ...g,
  reading: g.reading && {
    ...g.reading,
    text: sayLengths(g.reading.text, unit),
    rows: g.reading.rows.map((r) => ({ ...r, text: sayLengths(r.text, unit) })),
    places: g.reading.places.map((p) =>
      p.label === undefined ? p : { ...p, label: sayLengths(p.label, unit) },
    ),
  },
})

/** Half of a whole turn, the half behind the section plane as seen from the front. */
const behind = (t: TurnedBody): TurnedBody => (isWhole(t) ? { ...t, start: 0, sweep: Math.PI } : t)

export function bodyView(b: Body, request: ViewRequest): BodyView {
  if (b.shape.kind !== 'turned') return exactView(b, b.shape, request)
  const t = b.shape.turned
  const fine = request.draft ? DRAFT : FINE
  const { free } = request.cut
  const whole = free || !request.cutaway
  const mesh = request.solid ? displayMesh(whole ? t : behind(t), fine) : null
  return {
    id: b.id,
    name: b.name,
    key: b.key,
    mesh,
    liquid:
      request.fill === null || !request.solid
        ? null
        : liquidMesh(t, request.fill, request.cutaway && !free, fine),
    bounds: spaceBounds(t),
    volume: volumeOf(t),
    hidden: false,
    away: false,
    content: false,
    look: 'shaded',
    ...(free
      ? cutView(triangleMesh(b), request)
      : {
          section: sectionLines(t, request.draft ? 0.1 : 0.02),
          frame: t.frame,
          cap: null,
          turned: true,
        }),
    faces: facesOf(t).map((f) => ({
      ref: faceRef(t, f),
      at: f.at,
      shown: mesh?.faces.indexOf(f.seg.name) ?? -1,
    })),
    edges: cornersOf(t).map((c) => ({
      ref: edgeRef(t, c),
      at: c.at,
      sharp: isSharp(c),
      shown: mesh?.edges.findIndex((e) => e.at && dist(e.at, c.at) < 1e-6) ?? -1,
    })),
    vertices: [],
  }
}

function liquidMesh(t: TurnedBody, share: number, cutaway: boolean, fine: typeof FINE) {
  const cavity = cavityOf(t)
  if (!cavity || share <= 0) return null
  const level = levelFor(cavity, brimVolume(cavity) * Math.min(1, share)) ?? cavity.brim
  const liquid = { ...t, regions: liquidAt(cavity, level) }
  return displayMesh(cutaway ? behind(liquid) : liquid, fine)
}

/** Suggestions are worked out once for each state of a profile, not with every view of it. */
const suggested = new WeakMap<Profile['shape'], Suggestion[]>()
function suggestionsFor({ shape, drawing }: Profile): Suggestion[] {
  const known = suggested.get(shape) ?? suggestions({ ...shape, drawing }, shape.hold)
  suggested.set(shape, known)
  return known
}

function profileView(id: string, p: Profile, draft: boolean): ProfileView {
  return {
    id,
    frame: p.frame,
    points: p.shape.points,
    curves: p.shape.drawn.map((d) => ({
      id: d.id,
      construction: d.construction,
      points: flattenParams(d.curve, 0.02).map((t) => pointAt(d.curve, t)),
      comb: draft || d.curve.kind !== 'spline' ? [] : combOf(d.curve),
    })),
    health: p.health,
    axis: p.shape.axis,
    radii: p.shape.radii,
    targets: p.shape.targets,
    rows: p.shape.rows,
    hold: p.shape.hold,
    given: p.shape.given,
    suggestions: draft ? [] : suggestionsFor(p),
  }
}

/** Teeth of a curvature comb, on the outer side of the bend. */
function combOf(c: Curve): { at: P2; bend: P2 }[] {
  return Array.from({ length: 81 }, (_, i) => {
    const t = i / 80
    const [u, k] = [tangentAt(c, t), curvatureAt(c, t)]
    return { at: pointAt(c, t), bend: [u[1] * k, -u[0] * k] as P2 }
  })
}

/** Buffers of a view that may be handed over instead of copied. */
export function transferables(v: View): ArrayBuffer[] {
  return v.bodies.flatMap((b) =>
    [b.mesh, b.liquid].flatMap((m) =>
      m === null
        ? []
        : [m.positions, m.normals, m.triangles, m.faceOf, m.lines, m.edgeOf].map(
            (x) => x.buffer as ArrayBuffer,
          ),
    ),
  )
}
