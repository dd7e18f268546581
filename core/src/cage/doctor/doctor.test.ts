import { describe, expect, test } from 'vitest'
import { add3, type P3, placeAt } from '../../math'
import type { Cage, Orbits } from '..'
import {
  creased,
  cutAcross,
  edgesOf,
  orbitsOf,
  pointNormals,
  rotated,
  startBox,
  startCylinder,
  startPlane,
  tableOf,
  turnedAlike,
} from '..'
import { facesAtEdges } from '../layout'
import { pointsOf } from './cure'
import { curedBy, examined } from './examine'
import { unevenFaces } from './fairness'

/** Numbers from 0 to 1, the same each time (Numerical Recipes' linear congruential generator). */
const seeded = (s: number) => () => {
  s = (Math.imul(s, 1664525) + 1013904223) >>> 0
  return s / 2 ** 32
}
const alone = (cage: Cage): Orbits => orbitsOf(cage, { turns: 1, mirrors: [] }) as Orbits
const rings = (count: number, radius: (k: number) => number) =>
  Array.from({ length: count }, (_, k) => ({ radius: radius(k), z: k * 14 }))
const open = { floor: false, lid: false }

/** Tubes, a vase, lobes, a bent panel and a ball whose eight stars have to be there. */
function forms(): Record<string, Cage> {
  const lobed = startCylinder(
    16,
    rings(8, (k) => 40 + 3 * Math.cos(k)),
    open,
  )
  for (const p of lobed.layout.points.keys())
    for (const d of [0, 1]) lobed.at[3 * p + d]! *= p % 2 ? 1.06 : 1
  const panel = startPlane([120, 90], 8, 6)
  for (const p of panel.layout.points.keys()) {
    const [x, y] = [panel.at[3 * p]!, panel.at[3 * p + 1]!]
    panel.at[3 * p + 2] = (-x * x) / 200 - (y * y) / 300 + (x * y) / 900
  }
  return {
    tube: startCylinder(
      14,
      rings(8, () => 40),
      open,
    ),
    vase: startCylinder(
      12,
      rings(8, (k) => 36 + 10 * Math.sin(k / 2)),
      open,
    ),
    lobed,
    panel,
    ball: startBox([80, 80, 80], [5, 5, 5], true),
  }
}

const CULPRITS = {
  move: (cage: Cage, [a]: readonly number[]) => {
    const normal = pointNormals({ faces: cage.layout.faces, at: cage.at })[a!]!
    const at = cage.at.slice()
    for (const d of [0, 1, 2] as const) at[3 * a! + d]! += 2 * normal[d]
    return { cage: { layout: cage.layout, at }, want: [a!] }
  },
  dissolve: (cage: Cage, [a, , c]: readonly number[]) => {
    const made = cutAcross(cage, [[a!, c!]], 'x')
    if (!made.ok) throw new Error()
    return { cage: made.value, want: [a!, c!] }
  },
  rotate: (cage: Cage, [a, b]: readonly number[], face: string) => {
    const made = rotated(cage, [{ edge: [a!, b!], way: 'on' }])
    if (!made.ok) throw new Error()
    return { cage: made.value, want: made.value.layout.faces.find((f) => f.name === face)!.corners }
  },
  crease: (cage: Cage, [a, b, c]: readonly number[]) => {
    // The edge over which it bends more.
    const normals = pointNormals({ faces: cage.layout.faces, at: cage.at })
    const bend = (p: number, q: number) =>
      1 - normals[p]!.reduce((s, x, d) => s + x * normals[q]![d]!, 0)
    const want = bend(b!, c!) > bend(a!, b!) ? [a!, b!] : [b!, c!]
    return { cage: creased(cage, [want as [number, number]], [], 1.5), want }
  },
} as const

describe('what makes a form uneven', () => {
  test('a ball is even, whatever its size; finer cages of one form come near it', () => {
    const sum = (cage: Cage) => {
      const t = tableOf(cage)
      if (!t.ok) throw new Error()
      return unevenFaces({ table: t.value, at: cage.at }, 2).plain.reduce((a, b) => a + b, 0)
    }
    const ball = startBox([80, 80, 80], [4, 4, 4], true)
    const large = { ...ball, at: ball.at.map((x) => 10 * x) }
    expect(sum(large) / sum(ball)).toBeCloseTo(1, 9)
    expect(sum(startBox([80, 80, 80], [8, 8, 8], true))).toBeLessThan(sum(ball) / 3)
  })

  test('a known culprit comes first in nine of ten, on clean and noisy forms', () => {
    const r = seeded(7)
    let [found, all] = [0, 0]
    const missed: string[] = []
    for (const [name, base] of Object.entries(forms()))
      for (const noise of [0, 0.05])
        for (const [kind, put] of Object.entries(CULPRITS)) {
          const noisy = { ...base, at: base.at.map((x) => x + noise * (2 * r() - 1)) }
          const at = facesAtEdges(base.layout.faces)
          const border = new Set(
            [...at].flatMap(([k, f]) => (f.length < 2 ? k.split(' ').map(Number) : [])),
          )
          const inner = base.layout.faces.filter((f) => !f.corners.some((p) => border.has(p)))
          const face = inner[Math.floor(r() * inner.length)]!
          const { cage, want } = put(noisy, face.corners, face.name)
          const top = examined(cage, alone(cage))[0]
          all++
          if (
            top?.cure.kind === (kind === 'move' ? 'shape' : kind) &&
            pointsOf(top.cure).every((p) => want.includes(p))
          )
            found++
          else missed.push(`${name} ${noise} ${kind}`)
        }
    expect([found / all >= 0.9, missed.join('; ')]).toEqual([true, expect.anything()])
  })

  test('a cure acts on all copies, mirrored ones turned the other way; the symmetry stays', () => {
    const panel = startPlane([120, 80], 8, 6)
    for (const p of panel.layout.points.keys())
      panel.at[3 * p + 2] = -((panel.at[3 * p]! / 40) ** 2) * 4 - (panel.at[3 * p + 1]! / 20) ** 2
    const symmetry = { turns: 1, mirrors: [0] as const }
    const before = orbitsOf(panel, symmetry)
    if ('without' in before) throw new Error()
    const { corners } = panel.layout.faces[10]!
    const turned = curedBy(
      panel,
      { kind: 'rotate', edge: [corners[0]!, corners[1]!], way: 'on' },
      before,
    )!
    const orbits = orbitsOf(turned, symmetry)
    if ('without' in orbits) throw new Error('the symmetry is gone')
    const findings = examined(turned, orbits)
    expect(findings[0]!.cure.kind).toBe('rotate')
    const cured = curedBy(turned, findings[0]!.cure, orbits)!
    expect('without' in orbitsOf(cured, symmetry)).toBe(false)
    // The layout it had: all edges again.
    const edges = (c: Cage) => [...edgesOf(c.layout.faces).keys()].sort()
    expect(edges(cured)).toEqual(edges(panel))
  })

  test('what is even is left alone; creases from border to border are meant', () => {
    const tube = startCylinder(
      24,
      rings(9, () => 40),
      open,
    )
    const names = new Map(tube.layout.points.map((n, p) => [n, p]))
    const column = Array.from(
      { length: 8 },
      (_, k) => [names.get(`${k}.3`)!, names.get(`${k + 1}.3`)!] as const,
    )
    const cage = creased(tube, column, [], 10)
    expect(examined(cage, alone(cage)).filter((f) => f.cure.kind === 'crease')).toEqual([])
    expect(examined(tube, alone(tube))).toEqual([])
  })
})

describe('what was moved together', () => {
  const tube = startCylinder(
    14,
    rings(8, () => 40),
    open,
  )
  const { vase, panel } = forms()
  const turn =
    (a: number) =>
    ([x, y, z]: P3): P3 => [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a), z]
  const size =
    (s: number) =>
    ([x, y, z]: P3): P3 => [s * x, s * y, z]
  const by =
    (w: P3) =>
    (p: P3): P3 =>
      add3(p, w)
  const moved = (cage: Cage, names: readonly string[], to: (p: P3) => P3): Cage => {
    const at = cage.at.slice()
    for (const [p, name] of cage.layout.points.entries())
      if (names.includes(name)) at.set(to(placeAt(cage.at, p)), 3 * p)
    return { layout: cage.layout, at }
  }
  const row = (cage: Cage, k: number) => cage.layout.points.filter((n) => n.startsWith(`${k}.`))
  const three = ['3.3', '3.4', '3.5']
  test.each([
    ['a row of a tube sized', tube, row(tube, 3), size(1.08)],
    ['a row of a tube aside', tube, row(tube, 4), by([3, 1, 0])],
    ['a row of a tube twisted', tube, row(tube, 3), turn(0.2)],
    ['a row of a vase sized', vase!, row(vase!, 2), size(0.93)],
    ['a row of a vase lifted', vase!, row(vase!, 3), by([0, 0, 5])],
    ['a row of a vase twisted', vase!, row(vase!, 3), turn(-0.15)],
    ['three points of a tube slid round it', tube, three, turn(0.15)],
    ['three points of a vase slid down it', vase!, three, by([0, 0, -5])],
    ['three points of a panel lifted', panel!, three, by([0, 0, 6])],
  ] as const)('%s is put back by one cure, which comes first', (_, clean, names, to) => {
    const cage = moved(clean, names, to)
    const first = examined(cage, alone(cage))[0]!
    expect(first.cure.kind).toBe('shape')
    expect(new Set(pointsOf(first.cure).map((p) => cage.layout.points[p]))).toEqual(new Set(names))
    // What was there before comes back to a tenth.
    const cured = curedBy(cage, first.cure, alone(cage))!
    const off = (c: Cage) => Math.hypot(...c.at.map((x, k) => x - clean.at[k]!))
    expect(off(cured)).toBeLessThan(0.15 * off(cage))
  })

  test.each([
    [60, 60, 60],
    [80, 50, 30],
    [120, 20, 20],
  ] as const)('a clean box of %d x %d x %d has nothing to cure, however many faces', (...sizes) => {
    for (const faces of [
      [1, 1, 1],
      [2, 2, 2],
      [3, 2, 1],
      [5, 4, 3],
      [6, 6, 6],
    ] as const) {
      const box = startBox(sizes, faces, false)
      expect(examined(box, alone(box))).toEqual([])
    }
  })
})

describe('an edge turned', () => {
  test('there and back it is what it was; on a border it is refused', () => {
    const panel = startPlane([50, 40], 4, 3)
    const [a, b] = [6, 7]
    const on = rotated(panel, [{ edge: [a, b], way: 'on' }])
    if (!on.ok) throw new Error()
    const { corners } = on.value.layout.faces.find(
      (f) => f.corners.includes(b) && f.corners.length === 4 && !f.corners.includes(a),
    )!
    expect(corners).toHaveLength(4)
    const edges = edgesOf(on.value.layout.faces)
    const made = [...edges.values()].find(
      ([p, q]) => !edgesOf(panel.layout.faces).has(p < q ? `${p} ${q}` : `${q} ${p}`),
    )!
    const back = rotated(on.value, [{ edge: made, way: 'back' }])
    expect(back.ok && [...edgesOf(back.value.layout.faces).keys()].sort()).toEqual(
      [...edgesOf(panel.layout.faces).keys()].sort(),
    )
    expect(rotated(panel, [{ edge: [0, 1], way: 'on' }])).toMatchObject({
      ok: false,
      diagnosis: { code: 'cage-turn-edge' },
    })
  })

  test('its copies turn with it; where a mirror asks for both ways it is refused', () => {
    const panel = startPlane([50, 40], 4, 3)
    const mirrored = orbitsOf(panel, { turns: 1, mirrors: [0] }) as Orbits
    // The line of points over x = 0 lies in the mirror.
    const [, , middle] = panel.layout.rows[1]!.points
    const above = panel.layout.rows[2]!.points[2]!
    expect(turnedAlike(panel, [[middle!, above]], 'on', mirrored)).toMatchObject({
      ok: false,
      diagnosis: { code: 'cage-turn-edge', places: [{}, {}] },
    })
    const [a, b] = panel.layout.rows[1]!.points
    const made = turnedAlike(panel, [[a!, b!]], 'on', mirrored)
    if (!made.ok) throw new Error()
    expect('without' in orbitsOf(made.value, { turns: 1, mirrors: [0] })).toBe(false)
    const before = edgesOf(panel.layout.faces)
    expect([...edgesOf(made.value.layout.faces).keys()].filter((k) => !before.has(k))).toHaveLength(
      2,
    )
  })
})
