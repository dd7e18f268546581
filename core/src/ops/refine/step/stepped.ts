import { bad, good, mm, type Outcome } from '../../../math'
import type { Asked, Shop, Stand, Stepped } from './asked'

/** A measured gap may be less than what was asked by so much, mm. */
const SHORT = 2e-3
/** The foot of a step in an opening: as high as the step, else halved so often. */
const HALVINGS = 3

/** Names of the bodies, and the op whose inputs fixes change. */
export interface Told {
  op: string
  own: string
  other: string
}

/** A step on one body that centres it in the other. */
export function stepped<S>(shop: Shop<S>, asked: Asked, told: Told): Outcome<Stepped<S>> {
  const made =
    asked.stand === 'opening'
      ? inOpening(shop, asked, told)
      : inWall(shop, asked, asked.stand, told)
  if (!made.ok) return made
  const { own, other, step, left } = made.value
  const loose = shop.solids(own) > shop.solids(shop.own)
  if (loose)
    return bad('loose', `The step does not hang on ${told.own}: it has no material over it.`, [
      { at: shop.at(step) },
    ])
  const gap = shop.gap(step, other)
  if (!gap.ok) return gap
  const { d, at } = gap.value
  if (d < asked.clearance - SHORT)
    return bad(
      'too-near',
      `The step comes as near as ${mm(d)} to ${told.other}, where ${mm(asked.clearance)} was asked: it is narrower inside there, or less deep.`,
      [{ at }],
    )
  return good({ own, other, gap: d, left })
}

interface Standing<S> {
  own: S
  other: S
  step: S
  left: number | null
}

const noOpening = ({ op, other }: Told) =>
  bad(
    'no-opening',
    `${other} has no opening where they touch: the step goes along its outside.`,
    [],
    [{ label: 'Along the outside', op, inputs: { stand: 'outer' } }],
  )

/** In the wall: what is taken from the other along the line, less the clearance, goes on to the body. */
function inWall<S>(
  shop: Shop<S>,
  { height, wall, clearance }: Asked,
  stand: Exclude<Stand, 'opening'>,
  told: Told,
): Outcome<Standing<S>> {
  const { op, other } = told
  const along = stand === 'inner' ? 'opening' : 'outside'
  if (along === 'opening' && shop.openings === 0) return noOpening(told)
  const left = shop.thick === null ? null : shop.thick - wall - clearance
  if (left !== null && !(left > 0))
    return bad(
      'no-wall',
      `The wall of ${other} is ${mm(shop.thick!)} where they touch: ${mm(wall)} and ${mm(clearance)} leave nothing of it.`,
      [{ at: shop.at(shop.other) }],
      [{ label: 'Stand it in the opening', op, inputs: { stand: 'opening' } }],
    )
  const beside = (to: number, high: number, name: string) =>
    shop.zone({ along, from: null, to, low: 0, high, name })
  const bound = beside(wall, height, 'step')
  if (!bound.ok) return bound
  const step = shop.combine('meet', shop.other, [bound.value])
  if (!step.ok) return step
  const room = beside(wall + clearance, height + clearance, 'seat')
  if (!room.ok) return room
  const cut = shop.combine('cut', shop.other, [room.value])
  if (!cut.ok) return cut
  if (shop.solids(cut.value) > shop.solids(shop.other))
    return bad('apart', `What is taken for the step parts ${other}.`, [{ at: shop.at(step.value) }])
  const joined = shop.combine('join', shop.own, [step.value])
  if (!joined.ok) return joined
  return good({ own: joined.value, other: cut.value, step: step.value, left })
}

/** In the opening: a ring that hangs in it, and reaches up along the inside of its own body where that is hollow. */
function inOpening<S>(
  shop: Shop<S>,
  { height, wall, clearance }: Asked,
  told: Told,
): Outcome<Standing<S>> {
  if (shop.openings === 0) return noOpening(told)
  const [from, to] = [-clearance - wall, -clearance]
  const step = shop.zone({ along: 'opening', from, to, low: 0, high: height, name: 'step' })
  if (!step.ok) return step
  const shared = shop.combine('meet', shop.other, [step.value])
  if (shared.ok)
    return bad(
      'too-near',
      `The step runs into ${told.other}: it is narrower inside there, or less deep.`,
      [{ at: shop.at(shared.value) }],
    )
  if (shared.diagnosis.code !== 'nothing-left') return shared
  const covered = shop.covers(from, to)
  if (!covered.ok) return covered
  const feet: S[] = []
  if (!covered.value) {
    const foot = footOf(shop, from, height, told.own)
    if (!foot.ok) return foot
    feet.push(foot.value)
  }
  const joined = shop.combine('join', shop.own, [step.value, ...feet])
  if (!joined.ok) return joined
  return good({ own: joined.value, other: shop.other, step: step.value, left: null })
}

/**
 * What a step hangs on in a hollow body: a ring from the step into half its wall. What of it is not in the material has to be in one
 * piece for each opening; another piece would stand out of the body on its far side. It is made lower until none does.
 */
function footOf<S>(shop: Shop<S>, from: number, height: number, own: string): Outcome<S> {
  const to = (shop.thick ?? 0) / 2
  for (let k = 0, low = -height; k <= HALVINGS; k++, low /= 2) {
    const foot = shop.zone({ along: 'opening', from, to, low, high: 0, name: 'step' })
    if (!foot.ok) return foot
    const bare = shop.combine('cut', foot.value, [shop.own])
    if (!bare.ok && bare.diagnosis.code !== 'nothing-left') return bare
    if (!bare.ok || shop.solids(bare.value) <= shop.openings) return foot
  }
  return bad(
    'no-foot',
    `A step has nothing to hang on inside ${own}: what would hold it comes out of it on the other side.`,
    [{ at: shop.at(shop.own) }],
  )
}
