import { type ExactPart, formJob, patchOf } from '../../../exact'
import { bad, good, mirrorIn, mm, norm3, type Outcome, type P3, sub3 } from '../../../math'
import { beside, fromViews, moved3, readAlong, refitted, type View } from '../../../path'
import { liveSegs } from '../../../profile'
import { type Curve3, columnAt, onFrame, place3, rowAt, within } from '../../../surface'
import { exactBody } from '../../exact'
import { pickExactFaces } from '../../pick'
import type { Path } from '../../state'
import { type DatumContext, planeFrame } from '../datum'
import { type Drawn, inOrder } from './from'
import type { PathInputs } from './inputs'

/** Where two drawings, each seen along the normal of its plane, meet in space. */
export function betweenViews(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const view = (id: string | undefined, which: string): Outcome<View> => {
    const profile = ctx.profile(id ?? '')
    if (!profile) return bad('no-profile', `Choose the ${which} drawing.`)
    const segs = liveSegs(profile.shape, '')
    if (segs.length === 0)
      return bad('empty-profile', `The ${which} drawing has nothing drawn in it.`)
    return good({
      frame: profile.frame,
      pieces: segs.map((s) => onFrame(s.curve, profile.frame)),
    })
  }
  const first = view(i.profile, 'first')
  if (!first.ok) return first
  const second = view(i.other, 'second')
  if (!second.ok) return second
  const made = fromViews(first.value, second.value)
  if (!made.ok) return made
  const names = made.value.map((_, k) => `both${k + 1}`)
  return inOrder(made.value, names, i, ctx)
}

function pathOf(i: PathInputs, ctx: DatumContext): Outcome<Path> {
  const path = ctx.path(i.from ?? '')
  return path ? good(path) : bad('no-path', 'Choose the path it is made from.')
}

/** One smooth curve through so many places of a path. */
export function refit(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const path = pathOf(i, ctx)
  if (!path.ok) return path
  const count = ctx.read(i.count, 'number')
  if (!(Number.isInteger(count) && count >= 3 && count <= 500))
    return bad('not-whole', 'It goes through a whole number of places, from 3 to 500.')
  const { pieces, closed } = path.value
  const { curve, off } = refitted(pieces, closed, count)
  const words = `off by ${mm(off, 4)} at most`
  return good({ pieces: [curve], names: ['smooth'], closed, words })
}

/** A path as it is seen in a mirror. */
export function mirrored(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const path = pathOf(i, ctx)
  if (!path.ok) return path
  const frame = planeFrame(i.plane, ctx)
  if (!frame.ok) return frame
  const over = mirrorIn(frame.value)
  const { pieces, names, closed } = path.value
  return good({ pieces: pieces.map((c) => moved3(c, over)), names, closed })
}

/** A path moved aside, as it is seen square to a plane. */
export function movedBeside(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const path = pathOf(i, ctx)
  if (!path.ok) return path
  const frame = planeFrame(i.plane, ctx)
  if (!frame.ok) return frame
  const distance = ctx.read(i.distance, 'length')
  if (!(distance > 0)) return bad('not-positive', 'How far it is moved aside must be more than 0.')
  const { pieces, names, closed } = path.value
  const made = beside(pieces, closed, frame.value.z, i.side === 'left' ? distance : -distance)
  return made.ok ? good({ pieces: made.value, names: [...names], closed }) : made
}

/** A line of a free face, along one of its two ways, at a share of the other. */
export function alongFace(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const on = exactBody(i.body ?? '', ctx)
  if (!on.ok) return on
  const face = oneFace(on.value.part, i, ctx)
  if (!face.ok) return face
  const read = ctx.kernel(formJob(on.value.part.key, { seams: false, ribbons: [], surfaces: true }))
  if (!read.ok) return read
  const s = read.value[0]!.form!.surfaces[face.value]
  if (!s)
    return bad(
      'no-lines',
      'This face has no lines of its own: only a whole free one, as lofts and sweeps make them, has.',
      [{ at: on.value.part.faces[face.value]!.middle }],
    )
  const at = ctx.read(i.fraction, 'number')
  if (!(at >= 0 && at <= 1)) return bad('off-face', 'The share across the face is from 0 to 1.')
  const patch = patchOf(s)
  // The part up to the line ends in it.
  const along = i.lines === 'along'
  const part = along
    ? within(patch, 0, 1, at > 0.5 ? 0 : at, at > 0.5 ? at : 1)
    : within(patch, at > 0.5 ? 0 : at, at > 0.5 ? at : 1, 0, 1)
  const curve: Curve3 = along
    ? { kind: 'spline', basis: part.u, poles: rowAt(part, at > 0.5) }
    : { kind: 'spline', basis: part.v, poles: columnAt(part, at > 0.5) }
  const closed = norm3(sub3(place3(curve, 0), place3(curve, 1))) < 1e-6
  return good({ pieces: [curve], names: ['line'], closed })
}

function oneFace(part: ExactPart, i: PathInputs, ctx: DatumContext): Outcome<number> {
  const picked = pickExactFaces(part, i.faces, ctx, 'faces')
  if (!picked.ok) return picked
  ctx.warnings.push(...picked.value.warnings)
  const [face, second] = picked.value.items
  if (face === undefined) return bad('no-faces', 'Pick the face.')
  return second === undefined ? good(face) : bad('several', 'A line runs on one face: pick one.')
}

/** How near a path pulled onto faces follows them, mm. */
const ON_FACE = 1e-3
/** A path pulled onto faces of a body: to the nearest places of them, or straight along the normal of a plane. */
export function ontoFaces(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const path = pathOf(i, ctx)
  if (!path.ok) return path
  const on = exactBody(i.body ?? '', ctx)
  if (!on.ok) return on
  const { part } = on.value
  const picked = pickExactFaces(part, i.faces, ctx, 'faces')
  if (!picked.ok) return picked
  ctx.warnings.push(...picked.value.warnings)
  if (picked.value.items.length === 0) return bad('no-faces', 'Pick the faces it is pulled onto.')
  const frame = i.pull === 'straight' ? planeFrame(i.plane, ctx) : null
  if (frame && !frame.ok) return frame
  const feet = (from: P3[]): Outcome<P3[]> => {
    const read = ctx.kernel(
      formJob(part.key, {
        seams: false,
        ribbons: [],
        feet: {
          faces: picked.value.items,
          from,
          ...(frame ? { along: frame.value.z } : {}),
        },
      }),
    )
    if (!read.ok) return read
    const found = read.value[0]!.form!.feet
    const missing = found.indexOf(null)
    return missing >= 0
      ? bad('beside', 'Straight before or behind this place there is none of the faces.', [
          { at: from[missing]! },
        ])
      : good(found.map((f) => f!.at))
  }
  const { pieces, names, closed } = path.value
  const out: Curve3[] = []
  let worst = 0
  for (const c of pieces) {
    const made = readAlong(c, feet, (has, told) => norm3(sub3(has, told)), ON_FACE)
    if (!made.ok) return made
    const { curve, off } = made.value
    if (off > 50 * ON_FACE)
      return bad(
        'jumps',
        `On the faces it jumps: no smooth curve follows it nearer than ${mm(off, 2)}. Part it where it goes over an edge.`,
        [{ at: place3(c, 0.5) }],
      )
    out.push(curve)
    worst = Math.max(worst, off)
  }
  return good({ pieces: out, names, closed, words: `on the faces within ${mm(worst, 4)}` })
}
