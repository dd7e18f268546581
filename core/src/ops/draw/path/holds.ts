import { z } from 'zod'
import { bad, type Frame, frameAlong, good, mm, type Outcome, type P3 } from '../../../math'
import {
  add,
  analyseRank,
  atan2,
  conflictOf,
  constant,
  type Dual,
  type Equation,
  hypot,
  linearise,
  MET,
  mul,
  over,
  plus,
  solveLeast,
  sub,
  times,
  valueSchema,
} from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { exactBody } from '../../exact'
import { pickExactFaces } from '../../pick'
import type { OpContext } from '../../state'
import { type DatumContext, datumAxis, planeFrame } from '../datum'

const number = z.number().int().min(1).max(500)

/** What holds between places of a path. Places are counted from 1; "the line to" one comes from the place before it. */
export const holdSchema = z.discriminatedUnion('kind', [
  /** The line to a place runs along an axis: x, y, z or a datum axis. */
  z.object({ kind: z.literal('along'), place: number, axis: z.string().min(1) }),
  /** The line to a place stands square to a flat face. */
  z.object({
    kind: z.literal('square'),
    place: number,
    body: z.string().min(1),
    face: faceRefSchema,
  }),
  /** A place lies in a plane. */
  z.object({ kind: z.literal('plane'), place: number, plane: z.string().min(1) }),
  /** How far two places are apart; along one axis only where that is told. */
  z.object({
    kind: z.literal('apart'),
    place: number,
    other: number,
    along: z.enum(['any', 'x', 'y', 'z']).default('any'),
    value: valueSchema,
  }),
  /** The lines to two places are as long as each other. */
  z.object({ kind: z.literal('equal'), place: number, other: number }),
  /** The lines to two places run along each other. */
  z.object({ kind: z.literal('parallel'), place: number, other: number }),
  /** The angle between the lines to two places, each as it is run. */
  z.object({ kind: z.literal('angle'), place: number, other: number, value: valueSchema }),
])
export type Hold = z.infer<typeof holdSchema>

/** The lever at which an angle that is off counts as a length, mm. */
const ARM = 50

type D3 = readonly [Dual, Dual, Dual]
const sub3 = (a: D3, b: D3): D3 => [sub(a[0], b[0]), sub(a[1], b[1]), sub(a[2], b[2])]
const dot3 = (a: D3, b: D3): Dual => add(add(mul(a[0], b[0]), mul(a[1], b[1])), mul(a[2], b[2]))
const norm3 = (a: D3): Dual => hypot(hypot(a[0], a[1]), a[2])
const along3 = (a: D3, d: P3): Dual =>
  add(add(times(a[0], d[0]), times(a[1], d[1])), times(a[2], d[2]))
const cross3 = (a: D3, b: D3): D3 => [
  sub(mul(a[1], b[2]), mul(a[2], b[1])),
  sub(mul(a[2], b[0]), mul(a[0], b[2])),
  sub(mul(a[0], b[1]), mul(a[1], b[0])),
]
const AXES: Readonly<Record<string, P3>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }

/** A place as it was told: where it is drawn, and which of its coordinates nothing moves. */
export interface DrawnPlace {
  at: P3
  /** Of each coordinate: that it stays, or stays as far from that of the place before; else it gives way. */
  fixed: readonly ('stays' | 'from before' | null)[]
}

/** Places moved as little as can be so that all holds are met, and in how many ways they can still move. */
export interface HeldPlaces {
  places: P3[]
  free: number
}

/** What cannot hold together is named, each with the offer to let it go. */
export function heldPlaces(
  drawn: readonly DrawnPlace[],
  holds: readonly Hold[],
  closed: boolean,
  ctx: DatumContext,
): Outcome<HeldPlaces> {
  const start = Float64Array.from(drawn.flatMap((d) => [...d.at]))
  const eqs: Equation[] = fixedEquations(drawn, start)
  for (const [k, h] of holds.entries()) {
    const values = holdValues(h, drawn, closed, start, ctx)
    if (!values.ok) return values
    const { uses, of } = values.value
    const vars = [...new Set(uses)].flatMap((p) => [3 * p, 3 * p + 1, 3 * p + 2])
    const read = (x: ArrayLike<number>, p: number): D3 =>
      [0, 1, 2].map((c) =>
        variable(x[3 * p + c]!, vars.indexOf(3 * p + c), vars.length),
      ) as unknown as D3
    const count = of((p) => read(start, p)).length
    for (let i = 0; i < count; i++)
      eqs.push({ of: `${k}`, vars, value: (x) => of((p) => read(x, p))[i]! })
  }
  const spans = [0, 1, 2].map((c) => {
    const xs = drawn.map((d) => d.at[c]!)
    return Math.max(...xs) - Math.min(...xs)
  })
  const reach = Math.max(10, ...spans) / 2
  const solved = solveLeast(eqs, start, { reach })
  if (solved.residual > MET) return overHeld(conflictOf(eqs, start, reach, null), holds, drawn, ctx)
  const { rank } = analyseRank(linearise(eqs, solved.x), start.length)
  const places = drawn.map(
    (_, p): P3 => [solved.x[3 * p]!, solved.x[3 * p + 1]!, solved.x[3 * p + 2]!],
  )
  return good({ places, free: start.length - rank })
}

function variable(v: number, index: number, count: number): Dual {
  const g = constant(v, count)
  if (index >= 0) g.g[index] = 1
  return g
}

/** Coordinates that stay. */
const fixedEquations = (drawn: readonly DrawnPlace[], start: Float64Array): Equation[] =>
  drawn.flatMap((d, p) =>
    d.fixed.flatMap((how, c): Equation[] => {
      if (!how) return []
      const [i, j] = [3 * p + c, 3 * (p - 1) + c]
      const value = how === 'stays' ? start[i]! : start[i]! - start[j]!
      return how === 'stays'
        ? [{ of: '', vars: [i], value: (x) => ({ v: x[i]! - value, g: [1] }) }]
        : [{ of: '', vars: [i, j], value: (x) => ({ v: x[i]! - x[j]! - value, g: [1, -1] }) }]
    }),
  )

interface HoldValues {
  /** Places by number from 0. */
  uses: number[]
  /** What has to vanish, mm. */
  of: (at: (place: number) => D3) => Dual[]
}

function holdValues(
  h: Hold,
  drawn: readonly DrawnPlace[],
  closed: boolean,
  start: Float64Array,
  ctx: DatumContext,
): Outcome<HoldValues> {
  const n = drawn.length
  const named = 'other' in h ? [h.place, h.other] : [h.place]
  const missing = named.find((p) => p > n)
  if (missing) return bad('no-place', `"${holdWords(h)}" names place ${missing}; there are ${n}.`)
  /** The line to a place: from which, to which. */
  const line = (place: number): [number, number] => [(place - 2 + n) % n, place - 1]
  const noLine = h.kind !== 'plane' && h.kind !== 'apart' && !closed && named.includes(1)
  if (noLine)
    return bad('no-line', `"${holdWords(h)}" names the line to place 1; no line leads there.`)
  const run = (place: number) => (at: (p: number) => D3) => {
    const [a, b] = line(place)
    return sub3(at(b), at(a))
  }
  const parallelTo = (place: number, { x, y }: Frame): HoldValues => ({
    uses: line(place),
    of: (at) => {
      const d = run(place)(at)
      return [along3(d, x), along3(d, y)]
    },
  })
  switch (h.kind) {
    case 'along': {
      const dir = AXES[h.axis]
      if (dir) return good(parallelTo(h.place, frameAlong([0, 0, 0], dir)))
      const axis = datumAxis(h.axis, ctx)
      return axis.ok ? good(parallelTo(h.place, frameAlong([0, 0, 0], axis.value.dir))) : axis
    }
    case 'square': {
      const on = exactBody(h.body, ctx)
      if (!on.ok) return on
      const picked = pickExactFaces(on.value.part, [h.face], ctx, 'holds')
      if (!picked.ok) return picked
      ctx.warnings.push(...picked.value.warnings)
      const face = on.value.part.faces[picked.value.items[0]!]!
      if (face.kind !== 'plane')
        return bad('not-flat', `"${holdWords(h)}": the face is not flat.`, [{ at: face.middle }])
      return good(parallelTo(h.place, frameAlong([0, 0, 0], face.normal)))
    }
    case 'plane': {
      const frame = planeFrame(h.plane, ctx)
      if (!frame.ok) return frame
      const { origin, z: up } = frame.value
      const level = origin[0] * up[0] + origin[1] * up[1] + origin[2] * up[2]
      return good({ uses: [h.place - 1], of: (at) => [plus(along3(at(h.place - 1), up), -level)] })
    }
    case 'apart': {
      const value = ctx.read(h.value, 'length')
      if (!(value >= 0)) return bad('negative', `"${holdWords(h)}": a distance is 0 or more.`)
      const [a, b] = [h.place - 1, h.other - 1]
      if (a === b) return bad('same-place', `"${holdWords(h)}" names one place twice.`)
      if (h.along === 'any')
        return good({ uses: [a, b], of: (at) => [plus(norm3(sub3(at(b), at(a))), -value)] })
      // To the side it is drawn on.
      const dir = AXES[h.along]!
      const c = 'xyz'.indexOf(h.along)
      const sign = start[3 * b + c]! < start[3 * a + c]! ? -1 : 1
      return good({
        uses: [a, b],
        of: (at) => [plus(times(along3(sub3(at(b), at(a)), dir), sign), -value)],
      })
    }
    case 'equal':
    case 'parallel':
    case 'angle': {
      if (h.place === h.other) return bad('same-place', `"${holdWords(h)}" names one line twice.`)
      const [u, v] = [run(h.place), run(h.other)]
      const uses = [...line(h.place), ...line(h.other)]
      if (h.kind === 'equal') return good({ uses, of: (at) => [sub(norm3(v(at)), norm3(u(at)))] })
      if (h.kind === 'parallel') {
        // Of the three that vanish together the one along the line adds nothing to the other two.
        const [from, to] = line(h.place)
        const size = [0, 1, 2].map((c) => Math.abs(start[3 * to + c]! - start[3 * from + c]!))
        const along = size.indexOf(Math.max(...size))
        return good({
          uses,
          of: (at) => {
            const p = u(at)
            const across = cross3(p, v(at)).filter((_, c) => c !== along)
            return across.map((c) => over(c, norm3(p)))
          },
        })
      }
      const value = ctx.read(h.value, 'angle')
      if (!(value > 0 && value < Math.PI))
        return bad('angle', `"${holdWords(h)}": the angle lies between 0 and 180°.`)
      return good({
        uses,
        of: (at) => {
          const [p, q] = [u(at), v(at)]
          return [times(plus(atan2(norm3(cross3(p, q)), dot3(p, q)), -value), ARM)]
        },
      })
    }
  }
}

/** A hold in words. */
export function holdWords(h: Hold): string {
  switch (h.kind) {
    case 'along':
      return `the line to ${h.place} along ${h.axis}`
    case 'square':
      return `the line to ${h.place} square to a face`
    case 'plane':
      return `place ${h.place} in ${h.plane}`
    case 'apart':
      return `${h.place} to ${h.other}${h.along === 'any' ? '' : ` along ${h.along}`}: ${typeof h.value === 'number' ? mm(h.value) : h.value}`
    case 'equal':
      return `the lines to ${h.place} and ${h.other} equal`
    case 'parallel':
      return `the lines to ${h.place} and ${h.other} parallel`
    case 'angle':
      return `the angle of the lines to ${h.place} and ${h.other}: ${typeof h.value === 'number' ? `${h.value}°` : h.value}`
  }
}

function overHeld(
  conflict: readonly string[],
  holds: readonly Hold[],
  drawn: readonly DrawnPlace[],
  ctx: OpContext,
): Outcome<never> {
  const named = conflict.map(Number)
  if (named.length === 0)
    return bad(
      'not-found',
      'No places were found that meet all holds from where they are drawn: draw them nearer to how they are meant.',
    )
  const places = [...new Set(named.map((k) => holds[k]!.place - 1))]
  return bad(
    'over-held',
    named.length === 1
      ? `This cannot hold: ${holdWords(holds[named[0]!]!)}.`
      : `These cannot hold together: ${named.map((k) => holdWords(holds[k]!)).join('; ')}.`,
    places.map((p) => ({ at: drawn[p]!.at })),
    named.map((k) => ({
      label: `Let go: ${holdWords(holds[k]!)}`,
      op: ctx.op,
      inputs: { holds: holds.filter((_, i) => i !== k) },
    })),
  )
}
