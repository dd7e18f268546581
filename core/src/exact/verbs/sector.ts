import {
  add3,
  bad,
  dot3,
  frameAlong,
  good,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
  toSpace,
  turnAbout,
} from '../../math'
import { soundVolume } from '../accept'
import { namesFrom, putAbout } from '../names'
import { type Bench, keepMade, type Named, type Verb } from './verb'

export interface SectorArgs {
  /** How many sectors go round the axis. */
  count: number
  origin: P3
  dir: P3
  /** How many of the bodies, the first, look alike in every sector; the others are copied into all. */
  whole: number
}

/** Where the sector starts, as shares of it: no wall of what repeats may lie in its sides. */
const STARTS = [0.13, 0.31, 0.47]
/** Ways its pieces are joined. Merged, faces that run on in each other over many crossings come out broken. */
const WAYS = [{ apart: true }, { apart: true, near: 1e-5 }, { apart: true, near: 1e-4 }]
/** Share by which the whole may differ from its sectors. */
const SAME = 1e-6
/** Names of the sides of the sector; they vanish. */
const SIDE = 'sector:side'

/**
 * Bodies that repeat round an axis joined to one: all that lies in one sector is joined, copied round and
 * sewn. Many copies that cross each other all round are out of the kernel's reach any other way.
 */
export const sectorVerb: Verb<SectorArgs> = {
  version: 1,
  run(bench, on, args) {
    let why: Outcome<Named[]> | null = null
    for (const start of STARTS) {
      const one = inSector(bench, on, args, start)
      const made = one.ok ? allRound(bench, one.value, args) : one
      if (made.ok) return made
      why ??= made
    }
    return why!
  },
}

/** What lies in the sector, joined. */
function inSector(
  bench: Bench,
  on: readonly Named[],
  { count, origin, dir, whole }: SectorArgs,
  start: number,
): Outcome<Named> {
  const { kernel } = bench
  const wedge = wedgeOf(bench, on, { count, origin, dir }, start)
  const pieces: Named[] = []
  const take = (x: Named) => {
    const made = keepMade(bench, kernel.boolean('meet', x.shape, [wedge.shape]))
    if (kernel.measure(made.shape).solids === 0) return
    pieces.push({
      shape: made.shape,
      names: namesFrom(made.origins, [x.names, wedge.names], 'sector'),
    })
  }
  for (const x of on.slice(0, whole)) take(x)
  for (const x of on.slice(whole))
    for (let k = 0; k < count; k++) {
      const motion = turnAbout(origin, dir, (k * 2 * Math.PI) / count)
      take({
        shape: keepMade(bench, kernel.moved(x.shape, motion)).shape,
        names: putAbout(`sector:copy${k + 1}`, x.names),
      })
    }
  const [first, ...others] = pieces
  if (!first) return bad('nothing-left', 'Nothing lies in the sector.')
  let why: Outcome<Named> | null = null
  for (const way of WAYS) {
    const made = keepMade(
      bench,
      kernel.boolean(
        'join',
        first.shape,
        others.map((p) => p.shape),
        way,
      ),
    )
    const sound = soundVolume(kernel, made.shape, 'One sector')
    const names = namesFrom(
      made.origins,
      pieces.map((p) => p.names),
      'sector',
    )
    if (sound.ok) return good({ shape: made.shape, names })
    why ??= sound
  }
  return why!
}

/** The sector copied round and sewn, without its sides. */
function allRound(bench: Bench, one: Named, { count, origin, dir }: SectorArgs): Outcome<Named[]> {
  const { kernel } = bench
  const kept = one.names.flatMap((n, i) => (n.includes(SIDE) ? [] : [i]))
  const motions = Array.from({ length: count - 1 }, (_, k) =>
    turnAbout(origin, dir, ((k + 1) * 2 * Math.PI) / count),
  )
  const made = keepMade(bench, kernel.sewnCopies(one.shape, kept, motions))
  const sound = soundVolume(kernel, made.shape, 'What the sectors make')
  if (!sound.ok) return sound
  const whole = count * kernel.measure(one.shape).volume
  if (Math.abs(sound.value / whole - 1) > SAME)
    return bad('not-right', 'The sectors do not make up the whole, so it is not used.')
  const copies = [one.names, ...motions.map((_, k) => putAbout(`sector:copy${k + 2}`, one.names))]
  return good([{ shape: made.shape, names: namesFrom(made.origins, copies, 'sector') }])
}

/** A wedge about the axis that holds a sector of all the bodies. */
function wedgeOf(
  bench: Bench,
  on: readonly Named[],
  { count, origin, dir }: Omit<SectorArgs, 'whole'>,
  start: number,
): Named {
  const corners = on.flatMap(({ shape }) => {
    const { min, max } = bench.kernel.measure(shape).bounds
    return [0, 1, 2, 3, 4, 5, 6, 7].map(
      (i): P3 => [i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]],
    )
  })
  const up = (p: P3) => dot3(sub3(p, origin), dir)
  const away = (p: P3) => norm3(sub3(sub3(p, origin), scale3(dir, up(p))))
  const [low, high] = [Math.min(...corners.map(up)) - 1, Math.max(...corners.map(up)) + 1]
  const step = (2 * Math.PI) / count
  // Its outer side is straight: it has to clear the bodies in its middle.
  const reach = (1.1 * Math.max(...corners.map(away)) + 1) / Math.cos(step / 2)
  const f = frameAlong(add3(origin, scale3(dir, low)), dir)
  const at = (a: number): P3 => toSpace(f, reach * Math.cos(a), reach * Math.sin(a))
  const loop: P3[] = [f.origin, at(start * step), at((start + 1) * step)]
  const lines = loop.map((a, i) => ({ kind: 'line' as const, a, b: loop[(i + 1) % 3]! }))
  const made = keepMade(bench, bench.kernel.prism([lines], scale3(dir, high - low)))
  const swept = [SIDE, 'sector:out', SIDE]
  return {
    shape: made.shape,
    names: namesFrom(made.origins, [], 'sector', { swept, ends: ['sector:low', 'sector:high'] }),
  }
}
