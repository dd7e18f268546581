import {
  type ExactPart,
  edgeRef,
  faceCentroid,
  faceRef,
  realEdges,
  resolveEdge,
  resolveFace,
  wholeEdge,
  wholeMiddle,
} from '../exact'
import { norm3, type P2, type P3, sub3 } from '../math'
import type { Resolved } from '../refs'
import type { Op } from '../workpiece'
import { emptyWorkpiece } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import type { Rebuilt } from './rebuild'

/** A route with one number that is changed from one value to another; its body is `d`. */
export interface Family {
  name: string
  from: number
  to: number
  route(value: number): Op[]
}

const at = (x: number, y: number, turn: number, [p, q]: P2): P2 => {
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
  return [x + p * c - q * s, y + p * s + q * c]
}
const bar = (w: number, h: number, turn: number, x = 0, y = 0): P2[] =>
  (
    [
      [-w, -h],
      [w, -h],
      [w, h],
      [-w, h],
    ] as P2[]
  ).map((p) => at(x, y, turn, p))
const disc = (r = 25, length = 20, x = 0) => [
  circles(10, 'c', 'top', [[x, 0, r]]),
  op(20, 'extrude', 'd', { profile: 'c', mode: 'new', length }),
]
const slab = (w = 80, d = 40, length = 20) => [
  rectangle(10, 'c', 'top', [-w / 2, -d / 2], [w, d]),
  op(20, 'extrude', 'd', { profile: 'c', mode: 'new', length }),
]
const carried = (mode: string, pts: P2[], rest: object = { length: 12 }, id = 'b', n = 30) => [
  outline(n, id, 'top', pts),
  op(n + 1, 'extrude', `${id}x`, { profile: id, mode, body: 'd', ...rest }),
]
const bored = (plane: string, x: number, y: number, r: number, mode = 'cut', n = 30) => [
  circles(n, 'h', plane, [[x, y, r]]),
  op(n + 1, 'extrude', 'hx', { profile: 'h', mode, body: 'd', side: 'alike', length: 90 }),
]
const turned = (top: number) => [
  outline(10, 'half', 'front', [
    [0, -30],
    [22, -30],
    [top, 30],
    [0, 30],
  ]),
  op(20, 'revolve', 'd', { profile: 'half', mode: 'new', angle: 360, start: 0 }),
]
const tube = [
  circles(10, 'c', 'top', [
    [0, 0, 25],
    [0, 0, 20],
  ]),
  op(20, 'extrude', 'd', { profile: 'c', mode: 'new', length: 40 }),
]
const tilted = (turn: number) =>
  op(25, 'plane', 'p', { how: 'angle', from: 'front', about: 'upright', turn })
const vase = (r: number) => [
  rectangle(10, 'low', 'top', [-20, -15], [40, 30]),
  op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 40 }),
  circles(14, 'high', 'up', [[0, 0, r]]),
  op(20, 'loft', 'd', {
    sections: [{ profile: 'low' }, { profile: 'high' }],
    run: 'ruled',
    mode: 'new',
  }),
]

export const FAMILIES: Family[] = [
  {
    name: 'a bar on a disc, turned',
    from: 0,
    to: 170,
    route: (a) => [...disc(), ...carried('join', bar(40, 5, a))],
  },
  {
    name: 'a bar on a disc, moved',
    from: -15,
    to: 15,
    route: (y) => [...disc(), ...carried('join', bar(40, 5, 0, 3, y))],
  },
  {
    name: 'a bar across a slab, turned',
    from: -50,
    to: 50,
    route: (a) => [...slab(), ...carried('join', bar(60, 4, a), { length: 30 })],
  },
  {
    name: 'a slot across a disc, moved',
    from: -15,
    to: 15,
    route: (y) => [...disc(), ...carried('cut', bar(40, 3, 0, 0, y), { length: 8 })],
  },
  {
    name: 'a slot across a disc, turned',
    from: 0,
    to: 170,
    route: (a) => [...disc(), ...carried('cut', bar(40, 3, a, 2, 1), { length: 8 })],
  },
  {
    name: 'a slot over two ribs',
    from: -12,
    to: 12,
    route: (x) => [
      ...slab(80, 40, 6),
      ...carried('join', bar(30, 3, 0, 0, 9), { length: 16 }, 'r', 22),
      ...carried('cut', bar(2, 30, 0, x), { length: 12, offset: 5 }, 's', 40),
    ],
  },
  {
    name: 'a stub across a turned body',
    from: -14,
    to: 14,
    route: (x) => [...turned(18), ...bored('front', x, 4, 3.5, 'join')],
  },
  {
    name: 'a stub across a drum',
    from: 3,
    to: 12,
    route: (r) => [...turned(22), ...bored('front', 1, 4, r, 'join')],
  },
  {
    name: 'a tilted hole in a disc',
    from: -40,
    to: 40,
    route: (a) => [...disc(), tilted(a), ...bored('p', 2, 10, 4)],
  },
  {
    name: 'a tilted hole in a slab',
    from: -35,
    to: 35,
    route: (a) => [...slab(), tilted(a), ...bored('p', 5, 9, 4)],
  },
  {
    name: 'a hole across a tube',
    from: -10,
    to: 10,
    route: (x) => [...tube, ...bored('front', x, 18, 4)],
  },
  {
    name: 'a hole across a tube, larger',
    from: 2,
    to: 11,
    route: (r) => [...tube, ...bored('front', 3, 19, r)],
  },
  {
    name: 'a pocket over a hole',
    from: -8,
    to: 8,
    route: (x) => [
      ...slab(),
      ...bored('top', x, 0, 8),
      ...carried('cut', bar(12, 3, 0, x), { length: 6 }, 'q', 40),
    ],
  },
  {
    name: 'two slots crossing',
    from: 40,
    to: 140,
    route: (a) => [
      ...disc(30),
      ...carried('cut', bar(50, 3, 0), { length: 8 }),
      ...carried('cut', bar(50, 4, a), { length: 6 }, 'k', 40),
    ],
  },
  {
    name: 'holes round, nearer and farther',
    from: 12,
    to: 24,
    route: (x) => [
      ...disc(30),
      ...bored('top', x, 0, 4),
      op(50, 'pattern', 'pat', { what: 'ops', body: 'd', ops: ['hx'], how: 'round', count: 5 }),
    ],
  },
  {
    name: 'notches round, wider',
    from: 2,
    to: 6,
    route: (w) => [
      ...disc(30),
      ...carried('cut', bar(6, w, 0, 30), { length: 20 }),
      op(50, 'pattern', 'pat', { what: 'ops', body: 'd', ops: ['bx'], how: 'round', count: 6 }),
    ],
  },
  {
    name: 'a notched half and its mirror image',
    from: -9,
    to: 9,
    route: (y) => [
      rectangle(10, 'c', 'top', [0, -20], [40, 40]),
      op(20, 'extrude', 'd', { profile: 'c', mode: 'new', length: 15 }),
      ...carried('cut', bar(3, 4, 20, 20, y)),
      op(50, 'mirror', 'm', {
        what: 'body',
        body: 'd',
        plane: 'side',
        keep: 'joined',
      }),
    ],
  },
  {
    name: 'a part of a disc that was split',
    from: -12,
    to: 12,
    route: (o) => [
      ...disc(),
      ...carried('cut', bar(40, 3, 0, 0, 4), { length: 8 }),
      op(45, 'plane', 'p', { how: 'offset', from: 'side', offset: o }),
      op(50, 'split', 's', { body: 'd', how: 'plane', plane: 'p', keep: 'below' }),
    ],
  },
  {
    name: 'a slot across a loft',
    from: -8,
    to: 8,
    route: (y) => [...vase(14), ...carried('cut', bar(60, 3, 0, 0, y), { length: 8, offset: 12 })],
  },
  {
    name: 'a bore through a loft',
    from: 10,
    to: 30,
    route: (z) => [...vase(16), ...bored('front', 0, z, 4)],
  },
  {
    name: 'a disc moved off its arm',
    from: -10,
    to: 10,
    route: (x) => [...disc(25, 20, x), ...carried('join', bar(50, 6, 20))],
  },
]

export interface Followed {
  /** References tried, those of them whose name several bear, and what came of them. */
  tried: number
  several: number
  wrong: string[]
  asked: number
}

interface Kind {
  list(p: ExactPart): number[]
  middle(p: ExactPart, x: number): P3
  name(p: ExactPart, x: number): string
  again(p: ExactPart, x: number, now: ExactPart): Resolved<number>
  same(p: ExactPart, x: number, y: number): boolean
}
const KINDS: Kind[] = [
  {
    list: (p) => realEdges(p).filter((e) => wholeEdge(p, e)[0] === e),
    middle: wholeMiddle,
    name: (p, e) =>
      p.edges[e]!.faces.map((f) => p.faces[f]!.names[0])
        .sort()
        .join('|'),
    again: (p, e, now) => resolveEdge(now, edgeRef(p, e)),
    same: (p, x, y) => wholeEdge(p, x).includes(y),
  },
  {
    list: (p) => p.faces.map((_, i) => i),
    middle: faceCentroid,
    name: (p, f) => p.faces[f]!.names[0] ?? '?',
    again: (p, f, now) => resolveFace(now, faceRef(p, f)),
    same: (_, x, y) => x === y,
  },
]

/** What each thing has become one small step on: the nearest of its name, both ways, where no other is half as near. */
function step(kind: Kind, p: ExactPart, q: ExactPart): Map<number, number> {
  const near = (a: ExactPart, x: number, b: ExactPart) =>
    kind
      .list(b)
      .filter((y) => kind.name(b, y) === kind.name(a, x))
      .map((y) => ({ y, d: norm3(sub3(kind.middle(b, y), kind.middle(a, x))) }))
      .sort((u, v) => u.d - v.d)
  const out = new Map<number, number>()
  for (const x of kind.list(p)) {
    const [best, second] = near(p, x, q)
    if (!best || (second && second.d < 2 * best.d)) continue
    if (near(q, best.y, p)[0]!.y === x) out.set(x, best.y)
  }
  return out
}

/**
 * References taken at every step of a family and asked for at every later one, against what the things became in small steps. What
 * cannot be followed so is not counted.
 */
export async function follow(
  { name, from, to, route }: Family,
  build: (w: ReturnType<typeof emptyWorkpiece>) => Promise<Rebuilt>,
  steps: number,
): Promise<Followed> {
  const parts: ExactPart[] = []
  for (let i = 0; i <= steps; i++) {
    const w = { ...emptyWorkpiece('w', 'W'), route: route(from + ((to - from) * i) / steps) }
    const { state, reports } = await build(w)
    const failed = reports.find((r) => r.status === 'fail')
    if (failed) throw new Error(`${name}: ${failed.id}: ${failed.diagnoses[0]?.message}`)
    const shape = state.bodies.d!.shape
    if (shape.kind === 'turned') throw new Error(`${name}: its body is turned`)
    parts.push(shape)
  }
  const told: Followed = { tried: 0, several: 0, wrong: [], asked: 0 }
  for (const kind of KINDS)
    for (const [i, p] of parts.entries()) {
      const names = kind.list(p).map((x) => kind.name(p, x))
      let truth = new Map(kind.list(p).map((x) => [x, x]))
      for (const [j, q] of parts.entries()) {
        if (j <= i) continue
        const on = step(kind, parts[j - 1]!, q)
        truth = new Map([...truth].flatMap(([x, y]) => (on.has(y) ? [[x, on.get(y)!]] : [])))
        for (const [x, y] of truth) {
          const found = kind.again(p, x, q)
          told.tried++
          if (names.filter((n) => n === kind.name(p, x)).length > 1) told.several++
          if (found.state !== 'found') told.asked++
          else if (!kind.same(q, found.item, y))
            told.wrong.push(`${name}: ${kind.name(p, x)} of step ${i} at step ${j}`)
        }
      }
    }
  return told
}
