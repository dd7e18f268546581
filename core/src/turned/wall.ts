import { boundsOf, intersect, line, placeCurve, tangentAt } from '../curve'
import { along, cross, dot, goldenMin, type P2, POINT, sub, turn } from '../math'
import { AXIS, loopsOf, type Region, type Seg, segsOf } from '../profile'
import { Balls, cornerTrack, curveTrack, parametersOf, type Stand, type Track } from './balls'
import { bodyLoops, type TurnedBody } from './body'
import { cornersOf } from './corners'

/** Wall at a place: the diameter of the largest ball that touches the hollow there. */
export interface WallSpot {
  /** On the hollow's side. */
  at: P2
  /** The far touching point. */
  to: P2
  wall: number
}
export interface WallReading {
  min: WallSpot
  max: WallSpot
  mean: number
}

/**
 * A ball counts as lying between two sides when they face each other more squarely than this (cosine of
 * 135 deg, with room for rounding): an edge of 45 deg or blunter is a rim, a sharper one is thin material.
 */
const FACING = -Math.SQRT1_2 - 1e-9

/** What a reading may change by unseen between two samples that read alike: the slack of offset curves, mm. */
const RIPPLE = 2e-4

/**
 * Wall along the section of a hollow body: at points that face a hollow (one with material farther from
 * the axis at the same height, whether it opens upwards, downwards, through, or not at all) the largest
 * ball inside the material that touches there, kept where it touches an opposite side. Extremes are
 * followed to 1e-6 mm. Null where nothing is hollow.
 */
export function wallAlong(b: TurnedBody): WallReading | null {
  const known = readings.get(b)
  if (known !== undefined) return known
  const probe = new Probe(bodyFaces(b), new Set())
  const reading = read(probe, [...tracksOf(bodyFaces(b)), ...cornerTracks(b)], 192, (s) =>
    probe.facesHollow(s.at, s.out),
  )
  readings.set(b, reading)
  return reading
}

/** Bodies never change, so their walls are read once. */
const readings = new WeakMap<TurnedBody, WallReading | null>()

/**
 * The wall as read from given pieces of the body's boundary (material on their left), at about `total`
 * places; balls that touch a face named in `rims` do not count. Its extremes are those of the places
 * read, not followed further.
 */
export function wallOver(
  b: TurnedBody,
  pieces: readonly Seg[],
  total: number,
  rims: ReadonlySet<string>,
): WallReading | null {
  return read(new Probe(bodyFaces(b), rims), tracksOf(pieces), total, null)
}

/** Corners that turn by more than this are tips, rad. */
const TIP = 0.3

/**
 * The thinnest neck of flat regions, mm: the least of the largest balls between two sides that face each
 * other with thicker ones, or as thick ones, on either hand. A corner that runs out to a tip is none.
 */
export function thinnestNeck(regions: readonly Region[]): WallSpot | null {
  // Balls stay on their side of the axis, so all is looked at well to the right of it.
  const boxes = segsOf(regions).map((s) => boundsOf(s.curve))
  const width = Math.max(...boxes.map((b) => b.max[0])) - Math.min(...boxes.map((b) => b.min[0]))
  const shift = width - Math.min(...boxes.map((b) => b.min[0]))
  const moved = (by: number, p: P2): P2 => [p[0] + by, p[1]]
  const loops = loopsOf(regions).map((loop) =>
    loop.map((s) => ({
      ...s,
      curve: placeCurve(s.curve, { origin: [shift, 0], x: [1, 0], y: [0, 1] }),
    })),
  )
  let least: WallSpot | null = null
  const probe = new Probe(loops.flat(), new Set())
  for (const loop of loops) {
    const spots: (WallSpot | null)[] = []
    for (const [i, track] of tracksOf(loop).entries()) {
      // Both sides of a tip read alike: it parts them.
      const before = loop[(i + loop.length - 1) % loop.length]!.curve
      if (turn(tangentAt(before, 1), tangentAt(loop[i]!.curve, 0)) > TIP) spots.push(null)
      // Between the joints, where one piece alone decides.
      const n = 4 * track.breaks.length
      for (let k = 0.5; k < n; k++) spots.push(probe.ball(track.stand(k / n), probe.reach))
    }
    const n = spots.length
    for (const [i, spot] of spots.entries()) {
      const [before, after] = [spots[(i + n - 1) % n], spots[(i + 1) % n]]
      if (!spot || !before || !after || (least && least.wall <= spot.wall)) continue
      const slack = 1e-6 * spot.wall
      if (before.wall >= spot.wall - slack && after.wall >= spot.wall - slack) least = spot
    }
  }
  return least && { ...least, at: moved(-shift, least.at), to: moved(-shift, least.to) }
}

const tracksOf = (pieces: readonly Seg[]): Track[] => pieces.map((s) => curveTrack(s.curve, 1))

const bodyFaces = (b: TurnedBody): Seg[] =>
  bodyLoops(b)
    .flat()
    .filter((s) => s.name !== AXIS)

/** Corners that point into the material: a ball may touch them from any side between their faces. */
const cornerTracks = (b: TurnedBody): Track[] =>
  cornersOf(b)
    .filter((c) => c.turn < -1e-6 && c.at[0] > POINT)
    .map((c) => cornerTrack(c.at, tangentAt(c.before.curve, 1), tangentAt(c.after.curve, 0), 1))

/** Finds balls within closed faces. */
class Probe {
  readonly #faces: readonly Seg[]
  readonly #balls: Balls
  readonly #rims: ReadonlySet<string>
  readonly reach: number

  constructor(faces: readonly Seg[], rims: ReadonlySet<string>) {
    this.#faces = faces
    this.#balls = new Balls(this.#faces.map((s) => s.curve))
    this.#rims = rims
    this.reach = this.#balls.reach
  }

  /** The largest ball there, where it touches an opposite side. */
  ball(stand: Stand, from: number): WallSpot | null {
    const ball = this.#balls.at(stand, from)
    if (!ball || this.#rims.has(this.#faces[ball.index]!.name)) return null
    const outward = sub(ball.q, ball.centre)
    // Direction from the ball's centre to the far contact against the direction to the stand.
    if (dot(outward, stand.out) > FACING * Math.hypot(outward[0], outward[1])) return null
    return { at: stand.at, to: ball.q, wall: 2 * ball.radius }
  }

  /** Whether the empty side of a place has material farther out at its height. */
  facesHollow(at: P2, out: P2): boolean {
    const q = along(at, out, 1e-4)
    const far = Math.abs(q[0]) + this.reach
    const ray = line(q, [far, q[1]])
    return this.#faces.some((f) => {
      const box = boundsOf(f.curve)
      if (box.max[0] < q[0] || box.min[1] > q[1] || box.max[1] < q[1]) return false
      return intersect(ray, f.curve).some((m) => {
        const u = tangentAt(f.curve, m.s)
        return m.t * (far - q[0]) > 10 * POINT && Math.abs(cross(u, [1, 0])) > 1e-9
      })
    })
  }
}

/** A reading with the track and stretch on which its extreme lies. */
interface Sample {
  track: Track
  spot: WallSpot
  t: number
  lo: number
  hi: number
}

function read(
  probe: Probe,
  tracks: readonly Track[],
  total: number,
  counts: ((s: Stand) => boolean) | null,
): WallReading | null {
  const whole = tracks.reduce((sum, t) => sum + t.length, 0)
  const samples: Sample[] = []
  let sum = 0
  let weight = 0
  for (const track of tracks) {
    const wanted = (total * track.length) / whole
    const each = Math.max(track.length === 0 ? 8 : 3, Math.ceil(wanted / (track.breaks.length - 1)))
    const ts = parametersOf(track, each)
    let last = probe.reach
    for (const [i, t] of ts.entries()) {
      const stand = track.stand(t)
      if (counts && !counts(stand)) continue
      // Neighbours are alike: start above the last ball, from afar only if nothing is met.
      const spot = probe.ball(stand, 1.2 * last) ?? probe.ball(stand, probe.reach)
      last = spot ? spot.wall / 2 : probe.reach
      if (!spot) continue
      samples.push({ track, spot, t, lo: ts[i - 1] ?? 0, hi: ts[i + 1] ?? 1 })
      const share = (((ts[i + 1] ?? 1) - (ts[i - 1] ?? 0)) / 2) * track.length
      sum += spot.wall * share
      weight += share
    }
  }
  if (samples.length === 0) return null
  const mean = weight > 0 ? sum / weight : samples[0]!.spot.wall
  if (!counts) {
    const spots = samples.map((s) => s.spot).sort((a, b) => a.wall - b.wall)
    return { min: spots[0]!, max: spots[spots.length - 1]!, mean }
  }
  const at = (s: Sample) => (t: number) => {
    const stand = s.track.stand(t)
    return counts(stand) ? probe.ball(stand, probe.reach) : null
  }
  return { min: extreme(samples, at, 1), max: extreme(samples, at, -1), mean }
}

/** Follows every sample that may lead to the least (sign 1) or greatest (-1) reading. */
function extreme(
  samples: readonly Sample[],
  at: (s: Sample) => (t: number) => WallSpot | null,
  sign: 1 | -1,
): WallSpot {
  const value = (s: WallSpot) => sign * s.wall
  // Only samples at least as extreme as their neighbours on the same track lead anywhere new, and no
  // farther than about half of what the reading changes between them.
  const leads = samples.flatMap((s, i) => {
    const near = [samples[i - 1], samples[i + 1]].filter((o) => o?.track === s.track)
    const rises = near.map((o) => value(o!.spot) - value(s.spot))
    if (rises.some((r) => r < 0)) return []
    return [{ s, hope: value(s.spot) - Math.max(0, ...rises) / 2 - RIPPLE }]
  })
  leads.sort((a, b) => a.hope - b.hope)
  let best = leads.reduce((p, q) => (value(q.s.spot) < value(p.s.spot) ? q : p)).s.spot
  for (const { s, hope } of leads.slice(0, MOST_FOLLOWED)) {
    if (hope > value(best)) break
    const spot = at(s)
    const a = spot(s.lo) ? s.lo : edgeOf(spot, s.lo, s.t)
    const b = spot(s.hi) ? s.hi : edgeOf(spot, s.hi, s.t)
    for (const found of follow(spot, a, b, value)) if (value(found) < value(best)) best = found
  }
  return best
}
/** Samples followed at most for one extreme. */
const MOST_FOLLOWED = 40

/** Where readings begin, from a place without one towards one with. */
function edgeOf(spot: (t: number) => WallSpot | null, without: number, having: number): number {
  let [x, y] = [without, having]
  for (let i = 0; i < 40; i++) {
    const m = (x + y) / 2
    if (spot(m)) y = m
    else x = m
  }
  return y
}

/** Readings that differ by less than this are one, mm. */
const SAME = 2e-8

/** All readings met on the way to the least value between a and b, both ends included. */
function follow(
  spot: (t: number) => WallSpot | null,
  a: number,
  b: number,
  value: (s: WallSpot) => number,
): WallSpot[] {
  const seen: WallSpot[] = []
  const read = (t: number): number => {
    const s = spot(t)
    if (!s) return Number.MAX_VALUE
    seen.push(s)
    return value(s)
  }
  goldenMin(read, a, b, 1e-9 * (b - a), SAME)
  return seen
}
