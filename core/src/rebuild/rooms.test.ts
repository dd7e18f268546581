import { beforeAll, describe, expect, test } from 'vitest'
import { cornersAt } from '../math'
import { MeshTree, noHit, ringAway, withoutFace } from '../mesh'
import { rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece, the } from './exactroute.test-data'

beforeAll(the)

const crock = (edits: object[] = [], start: object = {}) =>
  op(10, 'cage', 'crock', {
    start: {
      kind: 'cylinder',
      radius: 48,
      height: 90,
      columns: 12,
      bands: 5,
      floor: 'open',
      lid: 'open',
      ...start,
    },
    edits: edits.map((e, k) => ({ id: `e${k + 1}`, ...e })),
    within: 0.01,
    mode: 'new',
  })
/** A flat face by where it looks. */
async function end(route: Parameters<typeof exact>[0], id: string, up: 1 | -1) {
  const f = (await exact(route, id)).faces.find((f) => f.flat && f.normal[2] * up > 0.999)!
  return [{ face: f.names[0], at: f.middle, index: 0, of: 1 }]
}
const room = (open: object[], more: object = {}) =>
  op(20, 'cavity', 'room', { body: 'crock', wall: 2.2, open, x: 0, y: 0, ...more })

/** How far the side of a room stands from its axis halfway up, mm. */
async function roomRadius(route: Parameters<typeof exact>[0]): Promise<number> {
  const { shown, faces } = await exact(route, 'crock')
  const side = faces.findIndex((f) => f.names[0] === 'room:side')
  const far: number[] = []
  for (let t = 0; t < shown.faceOf.length; t++)
    if (shown.faceOf[t] === side)
      for (const [x, y] of cornersAt(shown, t)) far.push(Math.hypot(x, y))
  return Math.max(...far)
}
/** The area a square of half width h about 0 shares with a circle of radius r about it, h < r: a circle less four caps, as far as they reach. */
function overlap(h: number, r: number): number {
  if (r >= h * Math.SQRT2) return 4 * h * h
  const cap = r > h ? r * r * Math.acos(h / r) - h * Math.sqrt(r * r - h * h) : 0
  return Math.PI * r * r - 4 * cap
}

describe('a round room under an outside', () => {
  test('in a drum it is a drum: all but its walls and its floor', async () => {
    const circle = op(5, 'profile', 'round', {
      plane: 'top',
      use: 'flat',
      drawing: {
        points: { c: { x: 7, y: -3 } },
        entities: [{ id: 'o', kind: 'circle', c: 'c', radius: 30 }],
        relations: [],
        dimensions: [],
      },
    })
    const drum = op(10, 'extrude', 'crock', { profile: 'round', mode: 'new', length: 50 })
    for (const up of [1, -1] as const) {
      const open = await end([circle, drum], 'crock', up)
      const route = [circle, drum, room(open, { x: 7, y: -3, wall: 3, under: 5, drain: 8 })]
      const { measure } = await exact(route, 'crock')
      const by = Math.PI * (30 ** 2 * 50 - 27 ** 2 * 45 - 4 ** 2 * 5)
      // Facets within 0.05 mm of the outside take a little off the room.
      expect(measure.volume / by).toBeGreaterThan(1)
      expect(measure.volume / by).toBeLessThan(1.01)
      expect([measure.closed, measure.valid, measure.solids]).toEqual([true, true, 1])
    }
  })

  test('property: under twisted lobes no place of its side is nearer than the wall, and somewhere it is as near', async () => {
    for (const [turn, deep, wall, controls] of [
      [0, 4, 2.2, 12],
      [8, 6, 3, 8],
      [14, 3, 1.2, 20],
    ] as const) {
      const cage = crock([
        { kind: 'move', on: [0, 2, 4, 6, 8, 10].map((c) => `column ${c}`), out: -deep },
        {
          kind: 'rows',
          rows: [1, 2, 3, 4, 5].map((k) => ({
            row: String(k),
            size: 1 + 0.05 * Math.sin(k),
            twist: `${turn} deg`,
          })),
        },
      ])
      const open = await end([cage], 'crock', 1)
      const before = await exact([cage], 'crock')
      const after = await exact([cage, room(open, { wall, controls })], 'crock')
      expect([after.measure.closed, after.measure.valid, after.measure.solids]).toEqual([
        true,
        true,
        1,
      ])
      // By the outside's triangles without the open face, at places of our own choice.
      const lid = before.faces.findIndex((f) => f.names[0] === open[0]!.face)
      const tree = new MeshTree(withoutFace(before.shown, lid))
      const side = after.faces.findIndex((f) => f.names[0] === 'room:side')
      const { shown } = after
      let least = 100
      for (let t = 0; t < shown.faceOf.length; t++) {
        if (shown.faceOf[t] !== side) continue
        for (let k = 0; k < 3; k++) {
          const p = 3 * shown.triangles[3 * t + k]!
          const [x, y, z] = [shown.positions[p]!, shown.positions[p + 1]!, shown.positions[p + 2]!]
          if (z > 90 - 1e-3) continue
          least = Math.min(least, ringAway(tree, [x, y], 0, z, 1, 100).d)
        }
      }
      expect(least).toBeGreaterThan(wall - 2e-3)
      expect(least).toBeLessThan(wall + 0.25)
    }
  })

  test.each([1, -1] as const)(
    'opens along the outline of its face set off: what it takes beyond the round room is by closed form, facing %i',
    async (up) => {
      for (const [wide, deep] of [
        [4, 6],
        [7.5, 11.5],
      ] as const) {
        const square = [
          rectangle(2, 'square', 'top', [-31, -31], [62, 62]),
          op(4, 'extrude', 'crock', { profile: 'square', mode: 'new', length: 50 }),
        ]
        const open = await end(square, 'crock', up)
        const asked = room(open, { wall: 3, under: 5 })
        const round = await exact([...square, asked], 'crock')
        const part = await exact(
          [...square, { ...asked, inputs: { ...asked.inputs, rim: wide, deep } }],
          'crock',
        )
        // The room is a drum there: what of the square lies beyond a circle is summed up by its four corners.
        const r = round.faces.find((f) => f.names[0] === 'room:side')!
        const half = 31 - wide
        const radius = await roomRadius([...square, asked])
        const beyond = 4 * half ** 2 - overlap(half, radius)
        expect(r).toBeDefined()
        expect(round.measure.volume - part.measure.volume).toBeCloseTo(beyond * deep, 0)
        expect([part.measure.closed, part.measure.valid, part.measure.solids]).toEqual([
          true,
          true,
          1,
        ])
        expect(part.faces.some((f) => f.names[0] === 'room:rim')).toBe(true)
      }
    },
  )

  test('property: beside its rim no place is nearer to a sculpted outside than the wall, or it is refused with a place', async () => {
    const seen = new Set<string>()
    for (const [lobe, flare, twist, wide, deep] of [
      [18, 1.02, 2, 3.2, 3],
      [14, 1.25, 12, 2.5, 8],
      [14, 1.25, 0, 2.5, 30],
      [4, 1, 0, 9, 3],
    ] as const) {
      const cage = crock([
        { kind: 'move', on: [0, 2, 4, 6, 8, 10].map((c) => `column ${c}`), out: -lobe },
        { kind: 'rows', rows: [{ row: '4', size: 1 / flare, twist }] },
      ])
      const open = await end([cage], 'crock', 1)
      const before = await exact([cage], 'crock')
      const { reports, state } = await built(piece([cage, room(open, { rim: wide, deep })]))
      const told = reports[1]!.diagnoses[0]
      seen.add(told?.code ?? 'held')
      if (told) {
        expect(told.places).toHaveLength(1)
        continue
      }
      const { shape } = state.bodies.crock!
      if (shape.kind !== 'exact') throw new Error('not exact')
      const lid = before.faces.findIndex((f) => f.names[0] === open[0]!.face)
      const tree = new MeshTree(withoutFace(before.shown, lid))
      const sides = new Set(shape.faces.flatMap((f, i) => (f.names[0] === 'room:rim' ? [i] : [])))
      expect(sides.size).toBeGreaterThan(0)
      const hit = noHit()
      let least = 100
      for (let t = 0; t < shape.shown.faceOf.length; t++) {
        if (!sides.has(shape.shown.faceOf[t]!)) continue
        for (const c of cornersAt(shape.shown, t)) {
          tree.nearest(...c, 100, -1, hit)
          least = Math.min(least, hit.d)
        }
      }
      // Triangles of the outside lie up to 0.05 mm inside it.
      expect(least).toBeGreaterThan(2.2 - 0.06)
    }
    expect([...seen].sort()).toEqual(['held', 'rim-idle', 'thin-rim'])
  })

  test('a dent in the middle of a flat side, away from all corners of the rim, is seen', async () => {
    const dented = [
      rectangle(2, 'square', 'top', [-31, -31], [62, 62]),
      op(4, 'extrude', 'crock', { profile: 'square', mode: 'new', length: 50 }),
      rectangle(6, 'patch', 'side', [-3, 40], [6, 4]),
      op(8, 'extrude', 'dent', {
        profile: 'patch',
        mode: 'cut',
        body: 'crock',
        length: 3,
        offset: 28,
      }),
    ]
    const open = await end(dented, 'crock', 1)
    const told = (rim: number) => diagnosis([...dented, room(open, { wall: 3, rim, deep: 12 })])
    expect((await told(5)).message).toMatch(/^Beside the rim 2 mm are left at height 4[0-4]\./)
    expect(await told(6.1)).toBeUndefined()
  })

  test('a rim that is thinner than the wall, too deep, or wider than the face is refused in a sentence', async () => {
    const cage = crock()
    const open = await end([cage], 'crock', 1)
    for (const [more, code] of [
      [{ rim: 2 }, 'thin-rim'],
      [{ rim: 3, deep: 0 }, 'rim-depth'],
      [{ rim: 3, deep: 89 }, 'rim-depth'],
      [{ rim: 60 }, 'too-narrow'],
    ] as const)
      expect((await diagnosis([cage, room(open, more)])).code).toBe(code)
  })

  test('it is fitted anew when a figure changes the outside', async () => {
    const route = (lobe: number) =>
      [crock([{ kind: 'move', on: ['column 0', 'column 6'], out: 'lobe' }]), lobe] as const
    const volumes = []
    for (const lobe of [-2, -8]) {
      const [cage] = route(lobe)
      const open = await end([crock()], 'crock', 1)
      const { state, reports } = await built(
        piece([cage, room(open)], [{ name: 'lobe', expr: `${lobe} mm` }]),
      )
      expect(reports[1]!.diagnoses).toEqual([])
      expect(reports[1]!.consequence).toMatch(/^least wall 2\.(2|199)/)
      const { shape } = state.bodies.crock!
      volumes.push(shape.kind === 'exact' ? shape.measure.volume : Number.NaN)
    }
    // A narrower outside has a smaller room: more is left of it than of the wider one.
    expect(volumes[1]!).toBeGreaterThan(volumes[0]!)
  })

  test('over a bottom that is not flat it begins where there is first space for it', async () => {
    const size = { kind: 'box', sx: 89, sy: 76, sz: 56, across: 3, along: 3, up: 2 }
    const route = [
      crock([{ kind: 'move', on: ['all'], x: 38, y: -6 }], size),
      op(15, 'split', 'flat', { body: 'crock', how: 'height', height: 43, keep: 'below' }),
    ]
    const open = [{ face: 'flat:cut', at: [38, -6, 43], index: 0, of: 1 }]
    const { reports } = await built(piece([...route, room(open, { x: 38, y: -6, wall: 3.8 })]))
    expect(reports[2]!.diagnoses).toEqual([])
    expect(reports[2]!.consequence).toMatch(/^least wall 3\.8/)
  })

  test('what leaves no room is told with its place', async () => {
    const open = await end([crock()], 'crock', 1)
    const code = async (more: object, faces: object[] = open) => {
      const d = await diagnosis([crock(), room(faces, more)])
      return d?.code
    }
    expect(await code({ wall: 60 })).toBe('no-room')
    expect(await code({ x: 60 })).toBe('no-room')
    expect(await code({ under: 89 })).toBe('no-room')
    expect(await code({ drain: 96 })).toBe('no-room')
    expect(await code({ wall: 3, under: 2 })).toBe('thin-floor')
    expect(await code({ controls: 3 })).toBe('controls')
    expect(await code({}, [])).toBe('no-open')
    const flank = (await exact([crock()], 'crock')).faces.find((f) => !f.flat)!
    expect(await code({}, [{ face: flank.names[0], at: flank.middle, index: 0, of: 1 }])).toBe(
      'not-level',
    )
  })
})
