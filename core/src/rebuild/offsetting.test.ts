import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { volumeOf } from '../turned'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import {
  base,
  block,
  built,
  diagnosis,
  edge,
  exact,
  face,
  piece,
  volume,
} from './exactroute.test-data'

const moved = (inputs: object) => op(90, 'offset', 'moved', { body: 'block', ...inputs })
const drilled = (radius: number) => [
  circles(30, 'bore', 'top', [[20, 15, radius]]),
  op(40, 'extrude', 'drill', { profile: 'bore', mode: 'cut', body: 'block', to: 'through' }),
]
const lean = (deg: number, length = 20): Op => ({
  ...block,
  inputs: { ...block.inputs, length, draft: `${deg} deg` },
})
/** Volume of a block of 60 x 40 whose sides lean in, up to a height (integral of the area). */
const frustum = (deg: number, h: number) => {
  const t = Math.tan((deg * Math.PI) / 180)
  return 2400 * h - 100 * t * h * h + (4 / 3) * t * t * h ** 3
}

describe('faces moved along their normals (volumes by closed forms)', () => {
  it('a flat end out and in; its name goes with it, the sides keep theirs', async () => {
    const top = face(await exact([base, block], 'block'), 'block:end')
    const out = await exact([base, block, moved({ faces: [top], distance: 5 })], 'block')
    expect(out.measure.volume).toBeCloseTo(2400 * 25, 6)
    expect(out.faces).toHaveLength(6)
    expect(out.faces.find((f) => f.names.includes('block:end'))!.middle[2]).toBeCloseTo(25, 9)
    expect(out.faces.every((f) => f.names.every((n) => n.startsWith('block:')))).toBe(true)
    const inward = moved({ faces: [top], way: 'in', distance: 7 })
    expect(await volume([base, block, inward], 'block')).toBeCloseTo(2400 * 13, 6)
  })
  it('property: sides that lean, in or out, run on as they lean; holes and rounded corners too', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: -12, max: 12 }),
        fc.integer({ min: 1, max: 9 }),
        fc.constantFrom('out', 'in'),
        fc.boolean(),
        async (deg, by, way, hole) => {
          const body = [base, lean(deg), ...(hole ? drilled(4) : [])]
          const top = face(await exact(body, 'block'), 'block:end')
          const route = [...body, moved({ faces: [top], way, distance: by })]
          const h = way === 'out' ? 20 + by : 20 - by
          const less = hole ? 16 * Math.PI * h : 0
          expect((await volume(route, 'block')) / (frustum(deg, h) - less)).toBeCloseTo(1, 6)
        },
      ),
      { numRuns: 8 },
    )
  }, 120_000)
  it('a side of a body with rounded upright edges; several faces at once', async () => {
    const plain = await exact([base, block], 'block')
    const upright = ['1', '2', '3', '4'].map((i) =>
      edge(plain, `block:side${i}`, `block:side${(Number(i) % 4) + 1}`),
    )
    const round = op(30, 'fillet', 'round', { body: 'block', edges: upright, radius: 6 })
    const body = await exact([base, block, round], 'block')
    const ends = ['block:end', 'block:start'].map((n) => face(body, n))
    const route = [base, block, round, moved({ faces: ends, distance: 3 })]
    expect(await volume(route, 'block')).toBeCloseTo((2400 - (4 - Math.PI) * 36) * 26, 4)
    const smooth = moved({ faces: [face(body, 'block:side1')], distance: 1 })
    expect((await diagnosis([base, block, round, smooth])).message).toMatch(
      /runs on in it smoothly/,
    )
  })
  it('a step: the sides beside it follow, the wall beside it is run into or left', async () => {
    const steps = outline(10, 'flat', 'front', [
      [0, 0],
      [60, 0],
      [60, 20],
      [30, 20],
      [30, 8],
      [0, 8],
    ])
    const stair = op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 10 })
    const tread = face(await exact([steps, stair], 'block'), 'block:side5')
    const up = moved({ faces: [tread], distance: 5 })
    expect(await volume([steps, stair, up], 'block')).toBeCloseTo((60 * 20 - 30 * 7) * 10, 5)
    const riser = face(await exact([steps, stair], 'block'), 'block:side4')
    const back = moved({ faces: [riser], way: 'in', distance: 10 })
    expect(await volume([steps, stair, back], 'block')).toBeCloseTo((60 * 20 - 40 * 12) * 10, 5)
  })
  it('round faces: a hole narrower and wider, a boss thicker', async () => {
    const body = [base, block, ...drilled(6)]
    const wall = face(await exact(body, 'block'), 'drill:ring1')
    const hole = async (inputs: object) =>
      volume([...body, moved({ faces: [wall], ...inputs })], 'block')
    expect(await hole({ distance: 1.5 })).toBeCloseTo(48000 - Math.PI * 4.5 ** 2 * 20, 4)
    expect(await hole({ way: 'in', distance: 2 })).toBeCloseTo(48000 - Math.PI * 64 * 20, 4)
    const far = moved({ faces: [wall], distance: 7 })
    expect((await diagnosis([...body, far])).message).toMatch(/Its radius is 6 mm/)
  })
  it('says what it cannot move, with the place', async () => {
    const body = [base, block, ...drilled(6)]
    const p = await exact(body, 'block')
    const rim = edge(p, 'block:end', 'drill:ring1')
    const bevel = op(50, 'chamfer', 'bevel', { body: 'block', edges: [rim], distance: 1 })
    const q = await exact([...body, bevel], 'block')
    const wall = moved({ faces: [face(q, 'drill:ring1')], distance: 1 })
    const d = await diagnosis([...body, bevel, wall])
    expect(d.message).toMatch(/not flat and square/)
    expect(d.places).toHaveLength(1)
    // The flat top with a bevelled rim can move: the bevel is a cone and runs on.
    const top = moved({ faces: [face(q, 'block:end')], way: 'in', distance: 0.4 })
    const cone = (Math.PI / 3) * 0.6 * (36 + 6 * 6.6 + 6.6 ** 2)
    expect(await volume([...body, bevel, top], 'block')).toBeCloseTo(
      2400 * 19.6 - Math.PI * 36 * 19 - cone,
      3,
    )
    expect((await diagnosis([base, block, moved({ faces: [], distance: 1 })])).message).toMatch(
      /Pick the faces/,
    )
    const none = moved({ faces: [face(p, 'block:end')], distance: 0 })
    expect((await diagnosis([...body, none])).message).toMatch(/more than 0/)
  })
})

describe('a shell with other walls for chosen faces', () => {
  const walls = async (route: Op[], others: [string, number | string][], inputs: object = {}) => {
    const p = await exact(route, 'block')
    const own = others.map(([name, wall]) => ({ ...face(p, name), wall }))
    const open = [face(p, 'block:end')]
    return op(80, 'shell', 'hollow', { body: 'block', wall: 2, open, others: own, ...inputs })
  }
  it('of a block: a thick floor and a thin side (closed form)', async () => {
    const shell = await walls(
      [base, block],
      [
        ['block:start', 6],
        ['block:side1', 0.8],
      ],
    )
    expect(await volume([base, block, shell], 'block')).toBeCloseTo(48000 - 56 * 37.2 * 14, 5)
  })
  it('of a block that leans in: the floor thicker, its sides running on', async () => {
    const leaning = lean(5)
    const even = await walls([base, leaning], [])
    const thick = await walls([base, leaning], [['block:start', 5]])
    const before = await exact([base, leaning, even], 'block')
    const after = await exact([base, leaning, thick], 'block')
    // What is added lies between 2 and 5 over the plane: the hollow there, leaning on all four sides.
    const t = Math.tan((5 * Math.PI) / 180)
    const inset = 2 / Math.cos((5 * Math.PI) / 180)
    const area = (z: number) => (60 - 2 * inset - 2 * t * z) * (40 - 2 * inset - 2 * t * z)
    const added = (3 / 6) * (area(2) + 4 * area(3.5) + area(5))
    expect(after.measure.volume - before.measure.volume).toBeCloseTo(added, 4)
  })
  it('of a tray that leans out: a thick floor and a thick side leave no gap', async () => {
    const tray = lean(-6)
    const t = Math.tan((6 * Math.PI) / 180)
    const [thin, thick] = [2, 3.5].map((w) => w / Math.cos((6 * Math.PI) / 180))
    const both = await walls(
      [base, tray],
      [
        ['block:start', 5],
        ['block:side1', 3.5],
      ],
    )
    // The hollow from 5 to 20: 60 less two thin walls by 40 less a thin and a thick one, wider by 2 t z.
    const area = (z: number) => (60 - 2 * thin! + 2 * t * z) * (40 - thin! - thick! + 2 * t * z)
    const hollow = (15 / 6) * (area(5) + 4 * area(12.5) + area(20))
    const solid = await volume([base, tray], 'block')
    expect(await volume([base, tray, both], 'block')).toBeCloseTo(solid - hollow, 4)
  })
  it('the floor of a pocket moves up and down between sides that lean either way', async () => {
    for (const deg of [-7, 7])
      for (const [way, depth] of [
        ['out', 5],
        ['in', 11],
      ] as const) {
        const plan = outline(30, 'plan', 'top', [
          [10, 10],
          [50, 10],
          [50, 30],
          [10, 30],
        ])
        const pocket = op(40, 'extrude', 'pocket', {
          profile: 'plan',
          mode: 'cut',
          body: 'block',
          offset: 20,
          side: 'against',
          length: 8,
          draft: `${deg} deg`,
        })
        const top = op(25, 'plane', 'lid', { from: 'top', offset: 20 })
        const onLid = { ...plan, inputs: { ...plan.inputs, plane: 'lid' } }
        const cut = { ...pocket, inputs: { ...pocket.inputs, offset: 0 } }
        const route = [base, block, top, onLid, cut]
        const floor = face(await exact(route, 'block'), 'pocket:start')
        const to = moved({ faces: [floor], way, distance: 3 })
        const t = Math.tan((deg * Math.PI) / 180)
        const area = (z: number) => (40 - 2 * t * z) * (20 - 2 * t * z)
        const hollow = (depth / 6) * (area(0) + 4 * area(depth / 2) + area(depth))
        expect(await volume([...route, to], 'block')).toBeCloseTo(48000 - hollow, 4)
      }
  })
  it('of a turned can, in its half-section', async () => {
    const can = outline(10, 'flat', 'front', [
      [0, 0],
      [20, 0],
      [20, 40],
      [0, 40],
    ])
    const turn = op(20, 'revolve', 'block', { profile: 'flat', mode: 'new' })
    const shell = op(30, 'shell', 'hollow', {
      body: 'block',
      wall: '2 mm',
      open: [{ face: 'block:side3' }],
      others: [{ face: 'block:side1', wall: '5 mm' }],
    })
    const { state, reports } = await built(piece([can, turn, shell]))
    const { shape } = state.bodies.block!
    expect(shape.kind).toBe('turned')
    if (shape.kind === 'turned')
      expect(volumeOf(shape.turned)).toBeCloseTo(Math.PI * (400 * 40 - 324 * 35), 5)
    expect(reports.at(-1)!.diagnoses).toEqual([])
    expect(reports.at(-1)!.consequence).toBe('wall 2.00–5.00 mm')
  })
  it('says what it cannot make', async () => {
    const out = await walls([base, block], [['block:start', 6]], { side: 'out' })
    expect((await diagnosis([base, block, out])).message).toMatch(/inward only/)
    const none = await walls([base, block], [['block:start', 0]])
    expect((await diagnosis([base, block, none])).message).toMatch(/more than 0/)
    const open = await walls([base, block], [['block:end', 3]])
    expect((await diagnosis([base, block, open])).message).toMatch(/no wall behind/)
    const deep = await walls([base, block], [['block:start', 30]])
    expect((await diagnosis([base, block, deep])).message).toMatch(/thicker here than the hollow/)
  })
})

describe('draft both ways from a plane', () => {
  const parting = op(30, 'plane', 'parting', { from: 'top', offset: 8 })
  const drafted = async (inputs: object) => {
    const p = await exact([base, block], 'block')
    const faces = [1, 2, 3, 4].map((i) => face(p, `block:side${i}`))
    const lean5 = { body: 'block', faces, plane: 'parting', angle: '5 deg', sides: 'both' }
    return op(40, 'draft', 'lean', { ...lean5, ...inputs })
  }
  it('is widest at the plane, where the mould parts (closed form); the sides keep their names', async () => {
    const route = [base, block, parting, await drafted({})]
    const p = await exact(route, 'block')
    expect(p.measure.volume).toBeCloseTo(frustum(5, 12) + frustum(5, 8), 4)
    expect(p.faces).toHaveLength(10)
    expect(p.faces.filter((f) => f.names.includes('block:side1'))).toHaveLength(2)
    expect(p.measure.bounds.max[0] - p.measure.bounds.min[0]).toBeCloseTo(60, 6)
  })
  it('a plane that does not go through the body is told', async () => {
    const d = await diagnosis([base, block, await drafted({ plane: 'top' })])
    expect(d.message).toMatch(/only one way/)
  })
})
