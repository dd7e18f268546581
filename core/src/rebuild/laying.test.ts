import { beforeAll, describe, expect, test } from 'vitest'
import { placeAt } from '../math'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { RebuildCache } from '.'
import { built, diagnosis, exact, piece, the } from './exactroute.test-data'

beforeAll(the)

/** Half a ball of radius 60 on the ground, turned; lifted to an exact body by a hole in its foot where that is asked. */
const dome = (kind: 'turned' | 'exact') => [
  op(10, 'profile', 'arc', {
    plane: 'front',
    drawing: {
      points: { o: { x: 0, y: 0 }, a: { x: 60, y: 0 }, m: { x: 36, y: 48 }, b: { x: 0, y: 60 } },
      entities: [
        { id: 'foot', kind: 'line', a: 'o', b: 'a' },
        { id: 'skin', kind: 'arc', a: 'a', via: 'm', b: 'b' },
      ],
    },
  }),
  op(20, 'revolve', 'dome', { profile: 'arc', mode: 'new' }),
  ...(kind === 'turned'
    ? []
    : [
        circles(22, 'bore', 'top', [[20, 0, 5]]),
        op(24, 'extrude', 'drill', { profile: 'bore', mode: 'cut', body: 'dome', length: 10 }),
      ]),
]
const foot = (lay: object, more: object[] = [{ kind: 'thicken', by: 2.5, side: 'out' }]) =>
  op(40, 'cage', 'foot', {
    start: { kind: 'plane', sx: 50, sy: 30, across: 5, along: 3 },
    edits: [
      { id: 'e1', kind: 'move', on: ['all'], x: 8, y: 0, z: 70, out: 0 },
      { id: 'e2', kind: 'lay', on: ['all'], body: 'dome', ...lay },
      ...more.map((e, k) => ({ id: `e${k + 3}`, ...e })),
    ],
    within: 0.005,
    mode: 'new',
  })

describe('a cage laid onto a body', () => {
  test('on a turned and on an exact dome: a foot of 2.5 on the ball within 0.05, by itself', async () => {
    for (const kind of ['turned', 'exact'] as const) {
      const route = [...dome(kind), foot({})]
      const { reports, state } = await built(piece(route))
      const last = reports.at(-1)!
      expect([last.status, last.diagnoses[0]?.message ?? '']).toEqual(['ok', ''])
      const [, most, mean] = /laid within ([\d.]+) mm \(([\d.]+) mm in the mean\)/.exec(
        last.consequence,
      )!
      expect(Number(most)).toBeLessThan(0.05)
      const { shape } = state.bodies.foot!
      if (shape.kind !== 'exact') throw new Error('not exact')
      expect([shape.measure.closed, shape.measure.valid]).toEqual([true, true])
      // Corners of the triangles on each side lie on it: on the ball, and 2.5 outside.
      const { positions } = shape.mesh
      let inner = 0
      for (let v = 0; v < positions.length / 3; v++) {
        const d = Math.hypot(...placeAt(positions, v)) - 60
        expect(Math.min(Math.abs(d), Math.abs(d - 2.5)) < 0.06 || (d > -0.06 && d < 2.56)).toBe(
          true,
        )
        if (Math.abs(d) < Number(most) + 0.011) inner++
      }
      expect(inner).toBeGreaterThan(20)
      // A wall over an area A of a ball of radius r is A (r + t)³ - r³) / 3 r² thick.
      const below = shape.faces.filter((f) => f.middle.reduce((s, x) => s + x * x, 0) < 60.6 ** 2)
      const area = Math.max(...below.map((f) => f.area))
      const expected = (area * (62.5 ** 3 - 60 ** 3)) / (3 * 60 ** 2)
      expect(Math.abs(shape.measure.volume / expected - 1)).toBeLessThan(6e-3)
      expect(Number(mean)).toBeLessThan(Number(most))
    }
  })
  test('straight down: as seen from above it stays where it was; a gap is kept', async () => {
    const part = await exact(
      [...dome('turned'), foot({ from: 'z', gap: 0.3, within: 0.02 })],
      'foot',
    )
    const [lo, hi] = [0, 1].map((k) => {
      const xs = part.mesh.positions.filter((_, i) => i % 3 === 0)
      return k === 0 ? Math.min(...xs) : Math.max(...xs)
    })
    expect(Math.abs(lo! - (8 - 25))).toBeLessThan(1.5)
    expect(Math.abs(hi! - (8 + 25))).toBeLessThan(2.5)
    let least = 9
    for (let v = 0; v < part.mesh.positions.length / 3; v++)
      least = Math.min(least, Math.hypot(...placeAt(part.mesh.positions, v)) - 60)
    expect(least).toBeGreaterThan(0.27)
    expect(least).toBeLessThan(0.33)
  })
  test('told: nothing chosen, no body, what misses it, what is not reached, a cage that is shut', async () => {
    const told = async (lay: object, more?: object[]) =>
      diagnosis([...dome('turned'), foot(lay, more)])
    expect((await told({ body: 'gone' })).code).toBe('no-body')
    expect((await told({ on: ['9.9'] })).code).toBe('cage-nothing')
    expect((await told({ on: ['1.2'] })).code).toBe('cage-few')
    expect((await told({ within: 0 })).code).toBe('cage-within')
    const far = await told({ within: 0.001, finer: 0 })
    expect([far.code, far.places.length]).toEqual(['cage-off', 1])
    expect(far.message).toMatch(/within 0\.\d+ mm only, not 0.001 mm/)
    const wide = await told({ from: 'z' }, [
      { kind: 'thicken', by: 2.5, side: 'out' },
      { kind: 'thicken', by: 2.5, side: 'out' },
    ])
    expect(wide.code).toBe('cage-closed')
  })
  test('over a groove it is told how deep that is and offered to lie over it; it does, as the ball does', async () => {
    const grooved = [
      ...dome('turned'),
      // A ring of 1.5 about its skin, all round it near the top.
      circles(25, 'ring', 'front', [[60 * Math.sin(0.35), 60 * Math.cos(0.35), 1.5]]),
      op(27, 'revolve', 'groove', { profile: 'ring', mode: 'cut', body: 'dome' }),
    ]
    const told = await diagnosis([...grooved, foot({})])
    const [, deep] = /A hollow (\d\.\d) mm deep here is narrower/.exec(told.message) ?? []
    expect(Math.abs(Number(deep) - 1.5)).toBeLessThan(0.2)
    const [fix] = told.fixes
    const { edits } = fix!.inputs as { edits: { kind: string; ball?: number }[] }
    const ball = edits.find((e) => e.kind === 'lay')!.ball!
    expect(ball).toBeGreaterThan(6)
    const route = [...grooved, op(40, 'cage', 'foot', { ...foot({}).inputs, edits })]
    const { reports, state } = await built(piece(route))
    expect([reports.at(-1)!.status, reports.at(-1)!.diagnoses[0]?.message ?? '']).toEqual([
      'ok',
      '',
    ])
    // The ball sinks in between the rims, 3 mm apart: by r less the root of r² - 1.5², seen from the dome outside in.
    const { shape } = state.bodies.foot!
    if (shape.kind !== 'exact') throw new Error('not exact')
    const sinks = ball - Math.sqrt(ball ** 2 - 1.5 ** 2)
    for (let v = 0; v < shape.mesh.positions.length / 3; v++)
      expect(Math.hypot(...placeAt(shape.mesh.positions, v))).toBeGreaterThan(60 - sinks - 0.07)
  })
  test('a body that is put back is laid on again', async () => {
    const cache = new RebuildCache()
    const [arc, dome1, laid] = [...dome('turned'), foot({ finer: 0, within: 1 })]
    const status = async (off: boolean) => {
      const route = [arc!, { ...dome1!, ...(off ? { suppressed: true } : {}) }, laid!]
      return (await built(piece(route), cache)).reports.at(-1)!.status
    }
    expect(await status(false)).not.toBe('fail')
    expect(await status(true)).toBe('fail')
    expect(await status(false)).not.toBe('fail')
  })
  test('it follows the body it is laid on', async () => {
    const at = async (radius: number) => {
      const route = dome('turned').map((o) => (o.id === 'arc' ? outlineOf(radius) : o))
      return exact([...route, foot({ finer: 1, within: 0.1 })], 'foot')
    }
    for (const r of [60, 66]) {
      const { mesh } = await at(r)
      let least = 99
      for (let v = 0; v < mesh.positions.length / 3; v++)
        least = Math.min(least, Math.hypot(...placeAt(mesh.positions, v)))
      expect(Math.abs(least - r)).toBeLessThan(0.12)
    }
  })
})

const outlineOf = (r: number) =>
  op(10, 'profile', 'arc', {
    plane: 'front',
    drawing: {
      points: {
        o: { x: 0, y: 0 },
        a: { x: r, y: 0 },
        m: { x: 0.6 * r, y: 0.8 * r },
        b: { x: 0, y: r },
      },
      entities: [
        { id: 'foot', kind: 'line', a: 'o', b: 'a' },
        { id: 'skin', kind: 'arc', a: 'a', via: 'm', b: 'b' },
      ],
    },
  })
