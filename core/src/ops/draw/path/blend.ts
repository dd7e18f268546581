import {
  angle3,
  bad,
  curvatureOff,
  good,
  norm3,
  type Outcome,
  rounded,
  scale3,
  sub3,
  unit3,
} from '../../../math'
import { type Above, blended, type Order } from '../../../path'
import { bend3, type Curve3, reversed3, way3 } from '../../../surface'
import type { Path } from '../../state'
import { type DatumContext, datumAxis, planeFrame } from '../datum'
import type { Drawn } from './from'
import type { PathInputs } from './inputs'

const ORDERS: Record<PathInputs['order'], Order> = { direction: 1, curvature: 2, change: 3 }

/** On from an end of one path to an end of another, by a curve that meets both; with them or by itself. */
export function fromPathToPath(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const first = openPath(i.from, 'leaves', ctx)
  if (!first.ok) return first
  const second = openPath(i.into, 'goes on in', ctx)
  if (!second.ok) return second
  if (i.from === i.into && i.leaves === i.reaches)
    return bad(
      'same-end',
      'It leaves and reaches the same end of one path: choose the other end of it.',
    )
  const before = run(first.value, i.leaves === 'start')
  const after = run(second.value, i.reaches === 'end')
  const pulls = [ctx.read(i.leavePull, 'number'), ctx.read(i.reachPull, 'number')] as const
  const [last, next] = [before.pieces[before.pieces.length - 1]!, after.pieces[0]!]
  const above = staysAbove(i, ctx)
  if (!above.ok) return above
  const made = blended(last, next, ORDERS[i.order], pulls, above.value)
  if (!made.ok) return made
  const { curve: blend, cost } = made.value
  const words = above.value.length
    ? `its curvature changes ${rounded(cost, 2)} times as much as free`
    : ''
  const told = words ? { words } : {}
  if (i.keeps === 'blend')
    return good({ pieces: [blend], names: ['blend'], closed: false, ...told })
  // Between both ends of one path it closes it.
  if (i.from === i.into)
    return good({
      pieces: [...before.pieces, blend],
      names: [...before.names, 'blend'],
      closed: true,
      ...told,
    })
  return good({
    pieces: [...before.pieces, blend, ...after.pieces],
    names: [...before.names, 'blend', ...apartFrom(before.names, after.names)],
    closed: false,
    ...told,
  })
}

/** A line steeper than this share of up has no upper side. */
const UPRIGHT = 1e-6

/** What it is not to go below: a plane, and the plane through a line that lies level across it. */
function staysAbove(i: PathInputs, ctx: DatumContext): Outcome<Above[]> {
  const above: Above[] = []
  if (i.above) {
    const plane = planeFrame(i.above, ctx)
    if (!plane.ok) return plane
    above.push({ ...plane.value, called: 'plane' })
  }
  if (i.over) {
    const line = datumAxis(i.over, ctx)
    if (!line.ok) return line
    const { origin, dir } = line.value
    const up = sub3([0, 0, 1], scale3(dir, dir[2]))
    if (norm3(up) < UPRIGHT)
      return bad('upright', 'That line stands upright: nothing lies above it. Choose another.', [
        { at: origin },
      ])
    above.push({ origin, z: unit3(up), called: 'line' })
  }
  return good(above)
}

function openPath(id: string | undefined, verb: string, ctx: DatumContext): Outcome<Path> {
  const path = ctx.path(id ?? '')
  if (!path) return bad('no-path', `Choose the path it ${verb}; it must come earlier in the route.`)
  return path.closed
    ? bad('closed', `The path it ${verb} is closed: it has no ends to blend between.`)
    : good(path)
}

const run = (
  { pieces, names }: Path,
  back: boolean,
): { pieces: readonly Curve3[]; names: readonly string[] } =>
  back
    ? { pieces: [...pieces].reverse().map(reversed3), names: [...names].reverse() }
    : { pieces, names }

/** Names of the second path, told apart from those of the first. */
const apartFrom = (first: readonly string[], second: readonly string[]): string[] =>
  second.map((n) => {
    let name = n
    while (first.includes(name) || name === 'blend') name = `${name}b`
    return name
  })

/** How two pieces meet, as measured: angle (rad) and difference of curvature over the larger (at least 0.001/mm). */
export function jointOff(a: Curve3, b: Curve3): { angle: number; bend: number } {
  const [k, l] = [bend3(a, 1), bend3(b, 0)]
  return {
    angle: angle3(way3(a, 1), way3(b, 0)),
    bend: curvatureOff(norm3(sub3(k, l)), norm3(k), norm3(l)),
  }
}
