import { boundsOf, type Curve, endOf, lengthOf, line, pointAt, reverse, startOf } from '../../curve'
import { dist, FIT, good, type Outcome, type P2, type P3, scale } from '../../math'
import {
  group,
  type Loop,
  loopArea,
  loopsOf,
  offsetChain,
  type Region,
  regionsOf,
  type Seg,
  sideOf,
} from '../../profile'
import { evenBasis, fitted3, offFrame } from '../../surface'
import { START } from '../state'

/** Ends of the kernel's curves may lie so far apart where edges meet, mm. */
const APART = 5e-3
/** Places along a piece of an outline at which it is looked where it lies. */
const LOOKS = 24

/** Pieces whose ends nearly meet, meeting: lines and splines give way, arcs stay. */
function meeting(segs: readonly Seg[]): Seg[] {
  const ends = segs.flatMap(({ curve }, i) => [
    { i, at: startOf(curve) },
    { i, at: endOf(curve) },
  ])
  const targets = ends.map((e) => {
    const near = ends.filter((o) => dist(o.at, e.at) < APART)
    const fixed = near.find((o) => segs[o.i]!.curve.kind === 'arc')
    const sum = near.reduce<P2>((s, o) => [s[0] + o.at[0], s[1] + o.at[1]], [0, 0])
    return fixed?.at ?? scale(sum, 1 / near.length)
  })
  return segs.map((s, i) => ({
    ...s,
    curve: ending(s.curve, targets[2 * i]!, targets[2 * i + 1]!),
  }))
}

function ending(c: Curve, a: P2, b: P2): Curve {
  if (c.kind === 'arc') return c
  return c.kind === 'line' ? line(a, b) : { ...c, poles: [a, ...c.poles.slice(1, -1), b] }
}

/** The edges of one flat face as its area: they meet at their ends only. Null where they do not close. */
export function faceArea(edges: readonly Seg[]): Region | null {
  const left = meeting(edges)
  const loops: Loop[] = []
  for (let first = left.pop(); first; first = left.pop()) {
    const loop = [first]
    while (dist(endOf(loop[loop.length - 1]!.curve), startOf(first.curve)) > APART) {
      const at = endOf(loop[loop.length - 1]!.curve)
      const i = left.findIndex((s) =>
        [startOf(s.curve), endOf(s.curve)].some((p) => dist(p, at) < APART),
      )
      if (i < 0) return null
      const [next] = left.splice(i, 1) as [Seg]
      loop.push(dist(startOf(next.curve), at) < APART ? next : backwards(next))
    }
    loops.push(loop)
  }
  const sized = loops.map((loop) => ({ loop, area: loopArea(loop) }))
  sized.sort((a, b) => Math.abs(b.area) - Math.abs(a.area))
  const way = ({ loop, area }: (typeof sized)[number], left: boolean) =>
    area > 0 === left ? loop : around(loop)
  const [outer, ...holes] = sized
  return outer ? { outer: way(outer, true), holes: holes.map((h) => way(h, false)) } : null
}

const backwards = (s: Seg): Seg => ({ ...s, curve: reverse(s.curve) })
const around = (loop: Loop): Loop => loop.map(backwards).reverse()

/** The openings of an area, each as what it leaves free. */
export const openingsOf = ({ holes }: Region): Region[] =>
  holes.map((h) => ({ outer: around(h), holes: [] }))

/** Areas without holes let out by `d` mm, drawn in where it is less than 0; corners that open are rounded. */
export function grown(areas: readonly Region[], d: number, name: string): Outcome<Region[]> {
  const out: Region[] = []
  for (const { outer } of areas) {
    const curves = outer.map((s) => s.curve)
    const set = d === 0 ? curves : offsetChain(curves, -d, 'round')
    const kept = set
      .filter((c) => lengthOf(c) > APART)
      .map((c): Seg => ({ curve: smoother(c), name }))
    const made = regionsOf(meeting(kept))
    if (!made.ok) return made
    out.push(...made.value.map((r) => ({ outer: r.outer, holes: [] })))
  }
  return good(out)
}

/** A spline that was set off in many short pieces, in fewer that run on in each other: the kernel is quicker with them. */
function smoother(c: Curve): Curve {
  if (c.kind !== 'spline') return c
  const place = (t: number): P3 => [...pointAt(c, t), 0]
  const { curve, off } = fitted3(evenBasis(5, 12), place, FIT / 10)
  return off > FIT / 10 || curve.poles.length >= c.poles.length ? c : offFrame(curve, LEVEL)
}
const LEVEL = START.planes.top!.frame

/** What lies in some areas and not in others, all of whose lines are inside. */
export const without = (areas: readonly Region[], inner: readonly Region[]): Region[] =>
  group([...loopsOf(areas), ...loopsOf(inner).map(around)])

/** All that is farther out than `to` mm inside an outline, as far as `far` mm; nothing where nothing is left inside. */
export function outside(filled: Region, to: number, far: number, name: string): Outcome<Region[]> {
  const left = grown([filled], -to, name)
  if (!left.ok || left.value.length === 0) return left
  return good(without([boxAbout(filled, far)], left.value))
}

function boxAbout({ outer }: Region, far: number): Region {
  const [low, high] = boundsAbout(outer)
  const corners: P2[] = [
    [low[0] - far, low[1] - far],
    [high[0] + far, low[1] - far],
    [high[0] + far, high[1] + far],
    [low[0] - far, high[1] + far],
  ]
  return {
    outer: corners.map((a, i) => ({ curve: line(a, corners[(i + 1) % 4]!), name: 'around' })),
    holes: [],
  }
}

function boundsAbout(loop: Loop): [P2, P2] {
  const boxes = loop.map((s) => boundsOf(s.curve))
  const least = (k: 0 | 1) => Math.min(...boxes.map((b) => b.min[k]))
  const most = (k: 0 | 1) => Math.max(...boxes.map((b) => b.max[k]))
  return [
    [least(0), least(1)],
    [most(0), most(1)],
  ]
}

/** How far an area reaches, the larger of both ways, mm. */
export function sizeOf({ outer }: Region): number {
  const [low, high] = boundsAbout(outer)
  return Math.max(high[0] - low[0], high[1] - low[1])
}

const placesOn = (loop: Loop): P2[] =>
  loop.flatMap((s) => Array.from({ length: LOOKS }, (_, k) => pointAt(s.curve, k / LOOKS)))

/** The least way across a face between its outside and an opening, by places along both, mm. */
export function thickness({ outer, holes }: Region): number {
  const across = (from: Loop, to: readonly Loop[]) =>
    Math.min(...placesOn(from).map((p) => sideOf(to, p).d))
  return Math.min(across(outer, holes), ...holes.map((h) => across(h, [outer])))
}

/** Whether areas lie in one another: by places along the lines of both. */
export function liesIn(areas: readonly Region[], within: readonly Region[]): boolean {
  const [mine, its] = [loopsOf(areas), loopsOf(within)]
  const out = (p: P2, loops: Loop[]) => {
    const { inside, d } = sideOf(loops, p)
    return !inside && d > APART
  }
  const deep = (p: P2) => {
    const { inside, d } = sideOf(mine, p)
    return inside && d > APART
  }
  return !mine.flatMap(placesOn).some((p) => out(p, its)) && !its.flatMap(placesOn).some(deep)
}
