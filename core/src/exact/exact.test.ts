import { beforeAll, describe, expect, it } from 'vitest'
import { type Kernel, loadKernel, type WireCurve } from '../kernel'
import type { Motion, P2, P3 } from '../math'
import { loadMeshSolids, type MeshSolids, measureMesh } from '../mesh'
import type { KernelJob } from './job'
import type { ExactPart } from './part'
import { ShapeStore } from './store'

let kernel: Kernel
let meshes: MeshSolids
beforeAll(async () => {
  kernel = await loadKernel()
  meshes = await loadMeshSolids()
})

/** Runs jobs on one store. */
class Shop {
  readonly store: ShapeStore
  constructor(most?: number) {
    this.store = new ShapeStore(kernel, meshes, most)
  }

  run(job: KernelJob) {
    return this.store.run(job)
  }
  all(job: KernelJob): ExactPart[] {
    const out = this.run(job)
    if (!out.ok) throw new Error(out.diagnosis.message)
    return out.value
  }
  one(job: KernelJob): ExactPart {
    const [part, ...more] = this.all(job)
    expect(more).toHaveLength(0)
    return part!
  }
}

const loop = (points: readonly P3[]): WireCurve[] =>
  points.map((a, i) => ({ kind: 'line', a, b: points[(i + 1) % points.length]! }))
const flat = (points: readonly P2[], z = 0): P3[] => points.map(([x, y]) => [x, y, z])
type Arc = Extract<WireCurve, { kind: 'arc' }>
const backwards = (c: Arc): Arc => ({ ...c, a: c.b, b: c.a })
const circle = (x: number, y: number, r: number, z = 0): Arc[] => [
  { kind: 'arc', a: [x + r, y, z], mid: [x, y + r, z], b: [x - r, y, z] },
  { kind: 'arc', a: [x - r, y, z], mid: [x, y - r, z], b: [x + r, y, z] },
]
const box = (op: string, [x, y, z]: P3, [w, d, h]: P3): KernelJob => ({
  verb: 'prism',
  args: {
    op,
    regions: [
      {
        outline: [
          loop(
            flat(
              [
                [x, y],
                [x + w, y],
                [x + w, y + d],
                [x, y + d],
              ],
              z,
            ),
          ),
        ],
        names: ['front', 'right', 'back', 'left'].map((n) => `${op}:${n}`),
      },
    ],
    way: [0, 0, h],
    volume: w * d * Math.abs(h),
  },
  on: [],
})
const rod = (op: string, [x, y, z]: P3, r: number, way: P3): KernelJob => ({
  verb: 'prism',
  args: {
    op,
    regions: [{ outline: [circle(x, y, r, z)], names: [`${op}:skin`, `${op}:skin`] }],
    way,
    volume: Math.PI * r * r * Math.hypot(...way),
  },
  on: [],
})
const names = (p: ExactPart) => p.faces.map((f) => f.names.join('&')).sort()
const unnamed = (p: ExactPart) => p.faces.filter((f) => f.names.length === 0).length
const edgeBetween = (p: ExactPart, a: string, b: string): number =>
  p.edges.findIndex((e) => {
    const [f, g] = e.faces.map((i) => p.faces[i]!.names)
    return f && g && ((f.includes(a) && g.includes(b)) || (f.includes(b) && g.includes(a)))
  })

describe('a prism', () => {
  it('measures what it must, whichever way it goes, and names its faces', () => {
    for (const h of [30, -30]) {
      const p = new Shop().one(box('b', [1, 2, 3], [10, 20, h]))
      expect(p.measure.volume).toBeCloseTo(6000, 6)
      expect(p.measure.area).toBeCloseTo(2 * (200 + 300 + 600), 6)
      expect(names(p)).toEqual(['b:back', 'b:end', 'b:front', 'b:left', 'b:right', 'b:start'])
      const end = p.faces.find((f) => f.names[0] === 'b:end')!
      expect(end.middle[2]).toBeCloseTo(3 + h, 5)
      expect(end.normal[2]).toBeCloseTo(Math.sign(h), 6)
      expect(end).toMatchObject({ kind: 'plane' })
      expect(end.area).toBeCloseTo(200, 8)
      expect(p.edges).toHaveLength(12)
      expect(p.edges.every((e) => e.bend === 'out' && e.straight)).toBe(true)
      const mesh = measureMesh(p.mesh)
      expect(mesh.closed).toBe(true)
      expect(mesh.volume).toBeCloseTo(6000, 3)
    }
  })

  it('has holes', () => {
    const shop = new Shop()
    const job = box('b', [0, 0, 0], [40, 30, 10])
    const hole = [...circle(20, 15, 5)].reverse().map(backwards)
    const { regions } = job.args as { regions: { outline: WireCurve[][]; names: string[] }[] }
    regions[0]!.outline.push(hole)
    regions[0]!.names.push('b:hole', 'b:hole')
    const volume = 12000 - Math.PI * 25 * 10
    const p = shop.one({ ...job, args: { ...job.args, volume } } as KernelJob)
    expect(p.measure.volume).toBeCloseTo(volume, 6)
    const skin = p.faces.filter((f) => f.names[0] === 'b:hole')
    expect(skin).toHaveLength(2)
    expect(skin[0]!.round!.radius).toBeCloseTo(5, 9)
    expect(unnamed(p)).toBe(0)
  })

  it('that does not measure what it must is refused', () => {
    const job = box('b', [0, 0, 0], [10, 10, 10])
    const out = new Shop().run({ ...job, args: { ...job.args, volume: 1001 } } as KernelJob)
    expect(out.ok).toBe(false)
  })
})

describe('combining', () => {
  it('keeps names, merges faces that run on, and measures', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [20, 20, 20]))
    const b = shop.one(box('b', [20, 0, 0], [10, 20, 20]))
    const p = shop.one({ verb: 'combine', args: { op: 'j', how: 'join' }, on: [a.key, b.key] })
    expect(p.measure.volume).toBeCloseTo(30 * 400, 6)
    expect(p.faces).toHaveLength(6)
    expect(names(p)).toContain('a:front&b:front')
  })

  it('cuts many tools at once and meets', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [60, 20, 10]))
    const rods = [10, 30, 50].map((x, i) => shop.one(rod(`r${i}`, [x, 10, -1], 4, [0, 0, 12])))
    const cut = shop.one({
      verb: 'combine',
      args: { op: 'c', how: 'cut' },
      on: [a.key, ...rods.map((r) => r.key)],
    })
    expect(cut.measure.volume).toBeCloseTo(12000 - 3 * Math.PI * 160, 5)
    expect(names(cut).filter((n) => n.endsWith(':skin')).length).toBeGreaterThanOrEqual(3)
    const rims = cut.edges.filter((e) => !e.straight)
    expect(rims.every((e) => e.bend === 'out')).toBe(true)
    const met = shop.one({
      verb: 'combine',
      args: { op: 'm', how: 'meet' },
      on: [a.key, rods[0]!.key],
    })
    expect(met.measure.volume).toBeCloseTo(Math.PI * 160, 5)
  })

  it('two equal cylinders that cross share 16/3 r^3 (Archimedes, The Method, proposition 15)', () => {
    const shop = new Shop()
    const a = shop.one(rod('a', [0, 0, -20], 6, [0, 0, 40]))
    const turn: Motion = {
      m: [
        [0, 0, 1],
        [0, 1, 0],
        [-1, 0, 0],
      ],
      t: [0, 0, 0],
    }
    const b = shop.one({ verb: 'move', args: { motion: turn, word: null }, on: [a.key] })
    const p = shop.one({ verb: 'combine', args: { op: 'm', how: 'meet' }, on: [a.key, b.key] })
    expect(p.measure.volume / ((16 / 3) * 216)).toBeCloseTo(1, 6)
  })

  it.each([2, 9.5, 9.84, 9.86, 9.99, 10.01, 10.1, 10.3, 14])(
    'a rod of radius %s in a bore of 10 shares what is wider than the bore, and nothing where it lies clear (closed form)',
    (r) => {
      const shop = new Shop()
      const block = shop.one(box('a', [0, 0, 0], [30, 30, 20]))
      const bore = shop.one(rod('b', [15, 15, -1], 10, [0, 0, 22]))
      const bored = shop.one({
        verb: 'combine',
        args: { op: 'c', how: 'cut' },
        on: [block.key, bore.key],
      })
      const other = shop.one(rod('r', [15, 15, 5], r, [0, 0, 10]))
      const met = (on: string) =>
        shop.run({ verb: 'combine', args: { op: 'm', how: 'meet' }, on: [on, other.key] })
      const made = met(bored.key)
      if (r < 10) expect(made).toMatchObject({ ok: false, diagnosis: { code: 'nothing-left' } })
      else
        expect(made.ok && made.value[0]!.measure.volume).toBeCloseTo(
          10 * Math.PI * (r * r - 100),
          5,
        )
      // Inside the whole block, far from its skin, it is shared whole.
      const whole = met(block.key)
      expect(whole.ok && whole.value[0]!.measure.volume).toBeCloseTo(10 * Math.PI * r * r, 5)
    },
  )

  it('says when nothing is left', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [10, 10, 10]))
    const b = shop.one(box('b', [-5, -5, -5], [30, 30, 30]))
    const out = shop.run({ verb: 'combine', args: { op: 'c', how: 'cut' }, on: [a.key, b.key] })
    expect(out).toMatchObject({ ok: false, diagnosis: { code: 'nothing-left' } })
  })
})

describe('parting', () => {
  it('gives parts in the order of the planes’ sides with named cuts', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [100, 0, 0], [40, 20, 10]))
    const plane = (x: number) => ({
      origin: [x, -500, 30] as P3,
      x: [0, 1, 0] as P3,
      y: [0, 0, 1] as P3,
      z: [1, 0, 0] as P3,
    })
    const parts = shop.all({
      verb: 'part',
      args: { op: 's', planes: [plane(110), plane(125)] },
      on: [a.key],
    })
    expect(parts.map((p) => Math.round(p.measure.volume))).toEqual([2000, 3000, 3000])
    expect(names(parts[1]!)).toContain('s:cut1')
    expect(names(parts[1]!)).toContain('s:cut2')
    const miss = shop.run({ verb: 'part', args: { op: 's', planes: [plane(300)] }, on: [a.key] })
    expect(miss).toMatchObject({ ok: false, diagnosis: { code: 'misses' } })
  })
})

describe('rounding', () => {
  it('a box: all edges r 3, by closed form', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [20, 30, 40]))
    const work = a.edges.map((_, edge) => ({ edge, size: 3 }))
    const p = shop.one({ verb: 'rounding', args: { op: 'f', kind: 'fillet', work }, on: [a.key] })
    const [w, d, h] = [14, 24, 34]
    // The inner box, its six slabs, twelve quarter cylinders and eight eighths of a ball (Steiner).
    const volume =
      w * d * h +
      2 * 3 * (w * d + d * h + w * h) +
      Math.PI * 9 * (w + d + h) +
      (4 / 3) * Math.PI * 27
    expect(p.measure.volume / volume).toBeCloseTo(1, 7)
    expect(p.faces).toHaveLength(26)
    expect(unnamed(p)).toBe(0)
    expect(new Set(names(p)).size).toBe(26)
    expect(names(p)).toContain('f:round(a:end|a:front)')
    expect(names(p)).toContain('f:round(a:end|a:front|a:right)')
  })

  it('an edge that turns in gains', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [20, 20, 20]))
    const b = shop.one(box('b', [10, 0, 10], [20, 20, 20]))
    const cut = shop.one({ verb: 'combine', args: { op: 'c', how: 'cut' }, on: [a.key, b.key] })
    const inner = edgeBetween(cut, 'b:start', 'b:left')
    expect(cut.edges[inner]!.bend).toBe('in')
    const p = shop.one({
      verb: 'rounding',
      args: { op: 'f', kind: 'fillet', work: [{ edge: inner, size: 4 }] },
      on: [cut.key],
    })
    expect(p.measure.volume - cut.measure.volume).toBeCloseTo((16 - Math.PI * 4) * 20, 5)
  })

  it('too large a radius names where', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [20, 30, 40]))
    const edge = edgeBetween(a, 'a:front', 'a:right')
    const out = shop.run({
      verb: 'rounding',
      args: { op: 'f', kind: 'fillet', work: [{ edge, size: 25 }] },
      on: [a.key],
    })
    expect(out.ok).toBe(false)
  })

  it('a bevel as large as the cylinder is refused though the kernel calls it done', () => {
    const shop = new Shop()
    const a = shop.one(rod('a', [0, 0, 0], 20, [0, 0, 40]))
    const work = a.edges.flatMap((e, edge) =>
      e.faces.some((f) => a.faces[f]!.names[0] === 'a:end') ? [{ edge, size: 25 }] : [],
    )
    const out = shop.run({
      verb: 'rounding',
      args: { op: 'f', kind: 'chamfer', work },
      on: [a.key],
    })
    expect(out.ok).toBe(false)
  })
})

describe('a shell', () => {
  const open = (p: ExactPart, name: string) => [p.faces.findIndex((f) => f.names[0] === name)]

  it('of a box is by closed form, and every inner face is named', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [40, 30, 20]))
    for (const [side, volume] of [
      ['in', 40 * 30 * 20 - 36 * 26 * 18],
      ['out', null],
    ] as const) {
      const p = shop.one({
        verb: 'shell',
        args: { op: 's', open: open(a, 'a:end'), wall: 2, side },
        on: [a.key],
      })
      if (volume !== null) expect(p.measure.volume).toBeCloseTo(volume, 5)
      expect(unnamed(p)).toBe(0)
      expect(names(p)).toContain('s:wall(a:front)')
    }
  })

  it('that the kernel hands back unchanged is refused', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [30, 60, 60]))
    const out = shop.run({
      verb: 'shell',
      args: { op: 's', open: open(a, 'a:end'), wall: 16, side: 'in' },
      on: [a.key],
    })
    expect(out).toMatchObject({ ok: false, diagnosis: { code: 'no-shell' } })
  })

  it('with no opening leaves a void', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [40, 30, 20]))
    const p = shop.one({
      verb: 'shell',
      args: { op: 's', open: [], wall: 2, side: 'in' },
      on: [a.key],
    })
    expect(p.measure.volume).toBeCloseTo(40 * 30 * 20 - 36 * 26 * 16, 5)
    expect(names(p)).toContain('s:wall(a:front)')
  })
})

describe('draft', () => {
  it('of a box is a frustum', () => {
    const shop = new Shop()
    const a = shop.one(box('a', [0, 0, 0], [40, 40, 20]))
    const sides = a.faces.flatMap((f, i) => (Math.abs(f.normal[2]) < 0.5 ? [i] : []))
    const plane = {
      origin: [0, 0, 0] as P3,
      x: [1, 0, 0] as P3,
      y: [0, 1, 0] as P3,
      z: [0, 0, 1] as P3,
    }
    const angle = (5 * Math.PI) / 180
    const p = shop.one({
      verb: 'draft',
      args: { op: 'd', faces: sides, plane, angle },
      on: [a.key],
    })
    const top = 40 - 2 * 20 * Math.tan(angle)
    expect(p.measure.volume).toBeCloseTo((20 / 3) * (1600 + top * top + 40 * top), 5)
    expect(names(p)).toEqual(names(a))
  })
})

describe('the store', () => {
  it('makes a part again whose shape is gone, and leaves nothing behind', () => {
    const shop = new Shop(20)
    const before = kernel.live
    const a = shop.one(box('a', [0, 0, 0], [10, 10, 10]))
    for (let i = 0; i < 30; i++) shop.one(box(`x${i}`, [0, 0, 0], [1, 1, 1]))
    const p = shop.one({
      verb: 'move',
      args: {
        motion: {
          m: [
            [1, 0, 0],
            [0, 1, 0],
            [0, 0, 1],
          ],
          t: [5, 0, 0],
        },
        word: null,
      },
      on: [a.key],
    })
    expect(p.measure.bounds.min[0]).toBeCloseTo(5, 5)
    expect(kernel.live - before).toBeLessThanOrEqual(20)
  })
})
