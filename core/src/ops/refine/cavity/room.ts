import { endOf, line, pointAt, type Spline, startOf } from '../../../curve'
import { bad, good, mm, type Outcome, type P2, type P3 } from '../../../math'
import { type MeshTree, ringAway, roomAbout } from '../../../mesh'
import type { Seg } from '../../../profile'
import { FULL_TURN, type TurnedBody } from '../../../turned'
import { curveUnder, drawnIn } from './under'

/** Heights and places round that the room is fitted by, and that the wall is measured at. */
const FIT = { heights: 72, around: 120 }
const CHECK = { heights: 240, around: 240 }
/** How often the room is drawn in by what is missing, and the most it may miss at last, mm. */
const [ROUNDS, MISSING] = [6, 5e-4]
/** How far the room runs on beyond the open face, mm. */
const BEYOND = 1
/** A room narrower than this is none, mm. */
const NARROW = 0.5

/** What a room is fitted to, heights counted along the way it opens. */
export interface Asked {
  tree: MeshTree
  centre: readonly [number, number]
  /** 1 where it opens upward, -1 downward. */
  up: 1 | -1
  floor: number
  /** Of the open face. */
  top: number
  foot: number
  wall: number
  drain: number
  points: number
  /** Farther than anything of the body. */
  most: number
}

interface Room {
  outline: Spline
  /** The least wall measured, and where. */
  wall: number
  at: P3
}

/** The widest room that is found, with the wall as it was measured; a refusal tells where there is none. */
export function roomOf(a: Asked): Outcome<Room> {
  const { tree, centre, up, floor, top, wall, drain } = a
  const place = (r: number, angle: number, h: number): P3 => [
    centre[0] + r * Math.cos(angle),
    centre[1] + r * Math.sin(angle),
    up * h,
  ]
  if (!(top - floor > wall))
    return bad(
      'no-room',
      `Between floor and open face are ${mm(top - floor)}: too little for a room.`,
    )
  const evenly = (from: number, count: number) =>
    Array.from({ length: count }, (_, i) => from + ((top - from) * i) / (count - 1))
  const reachesAt = (hs: readonly number[]) => roomAbout(tree, centre, hs, wall, FIT.around, a.most)
  // Over a bottom that is not flat the room begins where there is first space for it.
  const least = Math.max(NARROW, drain / 2)
  const none = (h: number) =>
    bad(
      'no-room',
      `With a wall of ${mm(wall)} there is no room ${drain > 0 ? 'for the drain hole' : 'about the axis'} here.`,
      [{ at: place(0, 0, h) }],
    )
  const start = evenly(floor, FIT.heights).find((h) => reachesAt([h])[0]! >= least)
  if (start === undefined || top - start < wall) return none(floor)
  const heights = evenly(start, FIT.heights)
  const reaches = reachesAt(heights)
  const narrow = reaches.findIndex((r) => r < least)
  if (narrow !== -1) return none(heights[narrow]!)
  let outline = curveUnder(heights, reaches, a.points)
  for (let k = 0; ; k++) {
    const found = leastWall(a, outline)
    const missing = wall - found.d
    if (missing <= MISSING)
      return good({ outline, wall: found.d, at: place(found.r, found.angle, found.h) })
    if (k === ROUNDS || pointAt(outline, 0)[0] - missing < NARROW)
      return bad('no-room', `The wall comes to ${mm(found.d, 3)} only, here.`, [
        { at: place(found.r, found.angle, found.h) },
      ])
    outline = drawnIn(outline, missing)
  }
}

/** The least distance between a room's side and the outside, between the places it was fitted at too. */
function leastWall({ tree, centre, most }: Asked, outline: Spline) {
  let least = { d: most, r: 0, h: 0, angle: 0 }
  for (let i = 0; i <= CHECK.heights; i++) {
    const [r, h] = pointAt(outline, i / CHECK.heights)
    const { d, angle } = ringAway(tree, centre, r, h, CHECK.around, least.d)
    if (d < least.d) least = { d, r, h, angle }
  }
  return least
}

/** The room as a body of revolution that runs on beyond the open face, and through the floor where it has a drain. */
export function turnedRoom(
  { centre, up, foot, top, drain }: Asked,
  side: Spline,
  op: string,
): TurnedBody {
  const [first, last] = [startOf(side), endOf(side)]
  const floor = first[1]
  const end = top + BEYOND
  const corners: P2[] =
    drain > 0
      ? [[0, foot - BEYOND], [drain / 2, foot - BEYOND], [drain / 2, floor], first]
      : [[0, floor], first]
  const named = ['drainEnd', 'drain', 'floor'].slice(drain > 0 ? 0 : 2)
  const piece = (a: P2, b: P2, name: string): Seg => ({ curve: line(a, b), name: `${op}:${name}` })
  const outer: Seg[] = [
    ...corners.slice(1).map((b, i) => piece(corners[i]!, b, named[i]!)),
    { curve: side, name: `${op}:side` },
    piece(last, [last[0], end], 'side'),
    piece([last[0], end], [0, end], 'top'),
    piece([0, end], corners[0]!, 'axis'),
  ]
  return {
    frame: {
      origin: [centre[0], centre[1], 0] as P3,
      x: [1, 0, 0] as P3,
      y: [0, up, 0] as P3,
      z: [0, 0, up] as P3,
    },
    start: 0,
    sweep: FULL_TURN,
    regions: [{ outer, holes: [] }],
  }
}
