import { formJob } from '../../../exact'
import { bad, good, mm, norm3, type Outcome, type P3, sub3, unit3 } from '../../../math'
import { type Placed, readAlong, squareTo } from '../../../path'
import { type Curve3, place3, way3 } from '../../../surface'
import { exactBody } from '../../exact'
import { pickExactFaces } from '../../pick'
import type { OpContext, Path } from '../../state'
import type { SweepInputs } from './inputs'
import { facing, type Standing, startFrame, type Toward, UPRIGHT } from './way'

/** How the section stands all along, and how it would stand at the start unturned. */
export interface Stood {
  standing: Standing
  first: Placed
}

export function standingOf(i: SweepInputs, path: Path, ctx: OpContext): Outcome<Stood> {
  const first = startFrame(path)
  if (i.standing === 'upright') return good({ standing: UPRIGHT, first })
  if (i.standing === 'guide') {
    const guided = towardsGuide(i, path, ctx)
    return guided.ok ? good({ standing: guided.value, first }) : guided
  }
  if (i.standing !== 'face') return good({ standing: i.standing, first })
  const out = outOfFaces(i, path, ctx)
  if (!out.ok) return out
  const { at } = first
  const up = facing(way3(path.pieces[0]!, 0), out.value.at(0, 0).dir)
  return good({ standing: out.value, first: { at, ...up } })
}

/** The section keeps the side towards another path that it has at the start. */
function towardsGuide(i: SweepInputs, path: Path, ctx: OpContext): Outcome<Toward> {
  const guide = ctx.path(i.guide ?? '')
  if (!guide || i.guide === i.path)
    return bad('no-guide', 'Choose the guide rail: another path that comes earlier in the route.')
  const found = squareTo(path.pieces, guide.pieces)
  if (!found.ok) return found
  const across = found.value
  const whole = norm3(across(0, 0))
  const sized = i.sized === 'yes'
  return good({
    at(piece, t) {
      const dir = across(piece, t)
      return { dir, size: sized ? norm3(dir) / whole : 1 }
    },
    steep: {
      code: 'along-guide',
      message: 'The guide rail lies in the way of the path here: it shows no side.',
    },
  })
}

/** How near directions out of faces are met, rad. */
const NEAR = 2e-4
/** How far a path may lie off the faces it runs on, mm. */
const OFF = 0.05

/** The section's up side looks out of faces of a body. */
function outOfFaces(i: SweepInputs, path: Path, ctx: OpContext): Outcome<Toward> {
  const on = exactBody(i.on ?? '', ctx)
  if (!on.ok) return on
  const { part } = on.value
  const picked = pickExactFaces(part, i.faces, ctx, 'faces')
  if (!picked.ok) return picked
  const faces = picked.value.items
  if (faces.length === 0) return bad('no-faces', 'Pick the faces the path runs on.')
  const fields: Curve3[] = []
  for (const c of path.pieces) {
    const outAt = (from: P3[]): Outcome<P3[]> => {
      const made = ctx.kernel(
        formJob(part.key, { seams: false, ribbons: [], feet: { faces, from, out: true } }),
      )
      if (!made.ok) return made
      const feet = made.value[0]!.form!.feet
      for (const [k, foot] of feet.entries()) {
        const off = foot ? norm3(sub3(foot.at, from[k]!)) : Number.POSITIVE_INFINITY
        if (off > OFF)
          return bad(
            'off-faces',
            foot
              ? `The path lies ${mm(off, 2)} off the faces here; pull it onto them first.`
              : 'None of the faces is near the path here.',
            [{ at: from[k]! }],
          )
      }
      return good(feet.map((f) => f!.out!))
    }
    const read = readAlong(c, outAt, (has, told) => norm3(sub3(unit3(has), told)), NEAR)
    if (!read.ok) return read
    const { curve, off, at } = read.value
    if (off > NEAR)
      return bad(
        'turns-sharply',
        `The faces turn sharply here, by some ${((off * 180) / Math.PI).toFixed(1)}°: the section cannot follow. Pick only the faces of one side, or part the path there.`,
        [{ at }],
      )
    fields.push(curve)
  }
  return good({
    at: (piece, t) => ({ dir: unit3(place3(fields[piece]!, t)), size: 1 }),
    steep: { code: 'out-of-face', message: 'The path runs straight out of the face here.' },
  })
}
