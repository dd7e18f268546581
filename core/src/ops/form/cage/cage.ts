import {
  type Cage,
  CageSkinner,
  cageCrossing,
  edgeOfKey,
  levelsFor,
  motionsOf,
  neighbours,
  openLoops,
  surfaced,
  type Table,
  tableOf,
} from '../../../cage'
import { bad, type Diagnosis, fixed, mm, type Outcome, type P3 } from '../../../math'
import { unitary } from '../../../surface'
import { defineOp } from '../../spec'
import { type OpContext, type OpResult, RoughEnough, type ShownCage } from '../../state'
import { ontoFields, placed } from '../onto'
import { quilted } from '../quilted'
import { symmetryOf } from './begin'
import { flatEnds } from './ends'
import { flatOne, isFlat } from './flat'
import { type CageInputs, cageInputs } from './inputs'
import { replayed } from './replay'
import type { Stand } from './stand'

/** A cage of more faces is not made exact. */
const MOST = 4000
/** Quads of the skin that is shown, and how often it is refined at most. */
const [SHOWN, FINEST] = [40_000, 3]

const LEVELS = ['once', 'twice', 'three times', 'four times'].map((label, k) => ({
  value: String(k + 1),
  label: `refined ${label}`,
}))

export const cageOp = defineOp<CageInputs>({
  kind: 'cage',
  version: 4,
  label: 'Cage',
  help: 'A form pushed and pulled by the points of a coarse cage around it; its smooth limit becomes a body.',
  stage: 'form',
  inputs: cageInputs,
  fields: [
    {
      name: 'edits',
      label: 'Cage',
      help: 'What it begins as, and what is done to it.',
      type: 'cage',
    },
    {
      name: 'as',
      label: 'Becomes',
      help: 'Few exact faces, or triangles where those are too many or cannot be.',
      type: 'choice',
      options: [
        { value: 'exact', label: 'exact faces' },
        { value: 'triangles', label: 'triangles' },
      ],
    },
    {
      name: 'level',
      label: 'Triangles',
      help: 'How often the cage is refined for the triangles: each time four for one.',
      type: 'choice',
      options: LEVELS,
      when: (i) => i.as === 'triangles',
    },
    {
      name: 'seen',
      label: 'Seen while pushed',
      help: 'How often the cage is refined for what is drawn of it until the body is made: seldom is quicker, often is smoother.',
      type: 'choice',
      options: [{ value: 'auto', label: 'as its faces allow' }, ...LEVELS],
    },
    {
      name: 'within',
      label: 'Exact to',
      help: 'How far the body may be off the limit where faces other than four meet in a point; elsewhere it is exact.',
      type: 'value',
      dim: 'length',
      when: (i) => i.as !== 'triangles',
    },
    {
      name: 'meet',
      label: 'Faces meet within',
      help: 'The angle at which faces of the body may meet there where the limit is smooth: knots are added until it is less.',
      type: 'value',
      dim: 'angle',
      when: (i) => i.as !== 'triangles',
    },
    ...ontoFields,
  ],
  start: ({ body }) => ({
    start: {
      kind: 'cylinder',
      radius: 40,
      height: 80,
      columns: 8,
      bands: 4,
      floor: 'open',
      lid: 'open',
    },
    turns: 1,
    mirrors: [],
    edits: [],
    as: 'exact',
    level: '2',
    seen: 'auto',
    within: 0.01,
    meet: 0.1,
    mode: 'new',
    ...(body ? { body } : {}),
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const shows = ({ cage, free }: Stand) => {
      ctx.shows({ cage: shownCage(cage, free) })
      const table = tabled(cage)
      if (table.ok) ctx.shows({ skin: skinOf(cage, table.value, input.seen) })
      return table
    }
    // What stands before an edit that fails stays seen: something else is picked on it then.
    const replay = replayed(input, ctx, shows)
    if (!replay.ok) return replay
    const { cage, warnings, words, laid } = replay.value
    if (laid) ctx.shows({ laid })
    const table = shows(replay.value)
    if (!table.ok) return table
    if (ctx.rough) throw new RoughEnough()
    if (isFlat(cage)) return flatOne(input, ctx.op)
    return input.as === 'triangles'
      ? asTriangles(input, cage, table.value, { warnings, words }, ctx)
      : exactly(input, cage, table.value, { warnings, words }, ctx)
  },
  slow: () => true,
})

/** While only points move, a cage's table stays. */
const tables = new WeakMap<object, ReturnType<typeof tableOf>>()
function tabled(cage: Cage): ReturnType<typeof tableOf> {
  let table = tables.get(cage.layout)
  if (!table?.ok) table = tableOf(cage)
  tables.set(cage.layout, table)
  return table
}

const skinners = new WeakMap<object, { levels: number; skinner: CageSkinner }>()
function skinOf(cage: Cage, table: Table, seen: CageInputs['seen']) {
  const levels = seen === 'auto' ? levelsFor(table, SHOWN, FINEST) : Number(seen)
  let known = skinners.get(cage.layout)
  if (known?.levels !== levels) {
    known = { levels, skinner: new CageSkinner(table, levels) }
    skinners.set(cage.layout, known)
  }
  return known.skinner.skin(cage)
}

const shownCage = ({ layout, at }: Cage, free: ReadonlySet<string>): ShownCage => ({
  points: layout.points,
  at,
  faces: layout.faces,
  creases: [...layout.creases].map(([key, sharp]) => {
    const [a, b] = edgeOfKey(key)
    return { a, b, sharp }
  }),
  rows: layout.rows,
  free: layout.points.flatMap((name, p) => (free.has(name) ? [p] : [])),
})

/** What is told of a cage on the way to a body. */
interface Told {
  warnings: Diagnosis[]
  words: string[]
}
/** Triangles a body of a cage has at most. */
const MOST_TRIANGLES = 400_000

function asTriangles(
  input: CageInputs,
  cage: Cage,
  table: Table,
  told: Told,
  ctx: OpContext,
): Outcome<OpResult> {
  const { layout, at } = cage
  const level = Number(input.level)
  const count = 2 * table.corners.length * 4 ** (level - 1)
  if (count > MOST_TRIANGLES)
    return bad(
      'cage-many',
      `Refined so often the cage has ${count} triangles; up to ${MOST_TRIANGLES} become a body.`,
    )
  const crossing = crossingOf(cage, table, told, ctx)
  if (crossing) return crossing
  const part = ctx.kernel({
    verb: 'limit',
    args: {
      op: ctx.op,
      at: [...at],
      faces: layout.faces.map(({ name, corners }) => ({ name, corners: [...corners] })),
      creases: [...layout.creases],
      peaks: [...layout.peaks],
      level,
    },
    on: [],
  })
  if (!part.ok) return part
  const words = `${wordsOf(input, table, told)}${count} triangles on the form, flat between; `
  return placed(part.value[0]!, input, ctx, { warnings: told.warnings, words })
}

/** Told before the kernel is asked, which would work long on it; with what an edit was told that offers a way out. */
function crossingOf(
  cage: Cage,
  table: Table,
  { warnings }: Told,
  ctx: OpContext,
): Outcome<never> | null {
  const at = ctx.once('crossing', () => cageCrossing(table, cage))
  if (!at) return null
  const ways = warnings.filter((w) => w.fixes.length > 0)
  const words = [
    'The form goes through itself here: move less, or take an edit back.',
    ...ways.map((w) => w.message),
  ]
  return bad(
    'crosses-itself',
    words.join(' '),
    [{ at }, ...ways.flatMap((w) => w.places)],
    ways.flatMap((w) => w.fixes),
  )
}

function wordsOf(input: CageInputs, table: Table, { words }: Told): string {
  const copies = motionsOf(symmetryOf(input)).length
  return `${words.map((w) => `${w}; `).join('')}${table.faces} faces${copies > 1 ? `, ${copies} alike` : ''}; `
}

/** Faces of a body that meet at an angle where the limit is smooth, and why: about a point with two edges no more than a crease comes of it. */
function kinkedAt(cage: Cage, at: P3, angle: string, meet: string): Diagnosis {
  const half = neighbours(cage).findIndex((of) => of.length === 2)
  const border = half !== -1 && openLoops(cage).some((l) => l.includes(half))
  const why =
    half !== -1 && !border
      ? `the point ${cage.layout.points[half]} has two edges only; draw one from it`
      : 'so many faces about one point bring it no nearer'
  return {
    code: 'cage-kinked',
    message: `Faces of it meet at ${angle} here, not within ${meet}: ${why}.`,
    places: [{ at, label: angle }],
    fixes: [],
  }
}

function exactly(
  input: CageInputs,
  cage: Cage,
  table: Table,
  told: Told,
  ctx: OpContext,
): Outcome<OpResult> {
  const within = ctx.read(input.within, 'length')
  if (!(within > 0)) return bad('cage-within', 'How far the body may be off the limit is above 0.')
  if (table.faces > MOST)
    return bad(
      'cage-many',
      `The cage has ${table.faces} faces; up to ${MOST} become an exact body: let it become triangles.`,
    )
  const crossing = crossingOf(cage, table, told, ctx)
  if (crossing) return crossing
  const meet = ctx.read(input.meet, 'angle')
  if (!(meet > 0)) return bad('cage-meet', 'The angle at which faces may meet is above 0.')
  const made = ctx.once('surfaces', () => surfaced(table, cage, within, meet))
  if (made.folds)
    return bad(
      'cage-folds',
      'The form folds over itself here, as at sharp corners that bend in: take the sharpness away there, or move what is near.',
      [{ at: made.folds }],
    )
  const ends = flatEnds(made, cage, ctx.op)
  if (!ends.ok) return ends
  const patches = made.patches.map(({ patch, face }) => ({
    patch: unitary(patch),
    names: [`${ctx.op}:${cage.layout.faces[face]!.name}`],
  }))
  const part = quilted(patches, ends.value, ctx)
  if (!part.ok) return part
  const degrees = (rad: number) => `${fixed((rad * 180) / Math.PI, 2)}°`
  const { angle, at } = made.between
  const off =
    made.stars === 0
      ? 'exact'
      : `within ${mm(Math.max(made.off, 1e-4), 4)} and ${degrees(made.turned)}, meeting within ${degrees(angle)}`
  const kinked = angle > meet && at ? [kinkedAt(cage, at, degrees(angle), degrees(meet))] : []
  const words = `${wordsOf(input, table, told)}${part.value.faces.length} on the body, ${off}; `
  return placed(part.value, input, ctx, { warnings: [...told.warnings, ...kinked], words })
}
