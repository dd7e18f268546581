import { describe, expect, it } from 'vitest'
import { profileCells } from '../ops'
import { cellAt, cellRef } from '../profile'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { rebuild } from '.'
import { base, bodiesOf, built, diagnosis, exact, piece, volume } from './exactroute.test-data'

const thin = (how: string, width: number | string, more: object = {}) =>
  op(20, 'extrude', 'wall', { profile: 'flat', mode: 'new', length: 10, thin: how, width, ...more })

describe('an even wall carried out', () => {
  it('inside, about and outside an outline (closed forms; Steiner outside)', async () => {
    expect(await volume([base, thin('inside', 3)], 'wall')).toBeCloseTo(10 * (2400 - 54 * 34), 5)
    expect(await volume([base, thin('outside', 3)], 'wall')).toBeCloseTo(
      10 * (600 + Math.PI * 9),
      5,
    )
    const about = 300 + Math.PI * 2.25 + 2400 - 57 * 37
    expect(await volume([base, thin('middle', 3)], 'wall')).toBeCloseTo(10 * about, 5)
  })
  it('an inside wall too wide to leave a hollow is refused', async () => {
    expect((await diagnosis([base, thin('inside', 20)])).code).toBe('no-hollow')
    expect(await volume([base, thin('inside', 19.9)], 'wall')).toBeCloseTo(
      10 * (2400 - 20.2 * 0.2),
      4,
    )
  })
  it('about lines that end, by a figure; a hole keeps its own wall', async () => {
    const angle = outline(
      10,
      'flat',
      'top',
      [
        [0, 0],
        [30, 0],
        [30, 20],
      ],
      false,
    )
    const route = [angle, thin('middle', 'w')]
    const { wall } = await bodiesOf(route, [{ name: 'w', expr: '4 mm' }])
    if (wall!.shape.kind !== 'exact') throw new Error('not exact')
    expect(wall!.shape.measure.volume).toBeCloseTo(10 * (200 - 4 + Math.PI), 5)
    expect((await diagnosis([angle, thin('inside', 3)])).fixes[0]!.inputs).toEqual({
      thin: 'middle',
    })
    const rings = circles(10, 'flat', 'top', [
      [0, 0, 30],
      [0, 0, 10],
    ])
    // The wall of the outline and that of the hole do not hang together, which is told.
    const both = Math.PI * (30 ** 2 - 28 ** 2 + 12 ** 2 - 10 ** 2)
    const { state, reports } = await built(piece([rings, thin('inside', 2)]))
    expect(reports[1]!.diagnoses.map((d) => d.code)).toEqual(['loose-parts'])
    const made = state.bodies.wall!.shape
    expect(made.kind === 'exact' && made.measure.volume).toBeCloseTo(10 * both, 4)
  })
  it('names both sides of the wall after what they run along', async () => {
    const p = await exact([base, thin('inside', 3)], 'wall')
    const names = p.faces.map((f) => f.names[0]).sort()
    expect(names).toContain('wall:side1')
    expect(names).toContain('wall:wall(wall:side1)')
    expect(names.length).toBe(10)
  })
  it('refuses no width, and bends tighter than the wall', async () => {
    expect((await diagnosis([base, thin('inside', 0)])).code).toBe('not-positive')
    const dot = circles(10, 'flat', 'top', [[0, 0, 2]])
    expect((await diagnosis([dot, thin('inside', 3)])).code).toBe('too-tight')
  })
})

describe('carried out up to something', () => {
  const ball = [
    outline(30, 'half', 'front', [
      [0, 40],
      [30, 40],
      [30, 60],
      [0, 60],
    ]),
    op(40, 'revolve', 'disc', { profile: 'half', mode: 'new' }),
  ]
  const dot = circles(10, 'dot', 'top', [[3, 2, 5]])
  const post = (more: object) =>
    op(50, 'extrude', 'post', { profile: 'dot', mode: 'new', length: 10, ...more })
  it('a body: ends on it, wherever it stands that way', async () => {
    const up = post({ to: 'body', until: 'disc', side: 'along' })
    expect(await volume([dot, ...ball, up], 'post')).toBeCloseTo(Math.PI * 25 * 40, 4)
    const later = post({ to: 'body', until: 'disc', side: 'along', offset: 12 })
    expect(await volume([dot, ...ball, later], 'post')).toBeCloseTo(Math.PI * 25 * 28, 4)
    const off = await diagnosis([
      dot,
      ...ball,
      post({ to: 'body', until: 'disc', side: 'against' }),
    ])
    expect(off.message).toMatch(/turn the way it goes round/)
  })
  it('a round body: the volume under a sphere (closed form)', async () => {
    // A cylinder of radius 5 about the axis, up to a ball of radius 20 whose middle is 50 up.
    const route = [
      circles(10, 'dot', 'top', [[0, 0, 5]]),
      circles(30, 'round', 'front', [[0, 50, 20]]),
      op(35, 'extrude', 'slab', { profile: 'round', mode: 'new', length: 80, side: 'alike' }),
      post({ to: 'body', until: 'slab', side: 'along' }),
    ]
    // Under a lying cylinder of radius R: z = 50 - sqrt(R^2 - x^2), over a disc of radius 5.
    let under = 0
    const n = 20000
    for (let i = 0; i < n; i++) {
      const x = -5 + (10 * (i + 0.5)) / n
      under += (50 - Math.sqrt(400 - x * x)) * 2 * Math.sqrt(25 - x * x) * (10 / n)
    }
    expect((await volume(route, 'post')) / under).toBeCloseTo(1, 6)
  })
  it('refuses a body that is not in the way of all of it, and one that covers the start', async () => {
    const wide = circles(10, 'dot', 'top', [[28, 0, 5]])
    const past = await diagnosis([wide, ...ball, post({ to: 'body', until: 'disc' })])
    expect(past.code).toBe('overhangs')
    const inside = await diagnosis([dot, ...ball, post({ to: 'body', until: 'disc', offset: 50 })])
    expect(inside.code).toMatch(/through-profile|misses/)
  })
  it('the level of a place, either way', async () => {
    expect(
      await volume([dot, post({ to: 'point', point: { x: 9, y: 9, z: 17 } })], 'post'),
    ).toBeCloseTo(Math.PI * 25 * 17, 4)
    expect(
      await volume([dot, post({ to: 'point', point: { x: 0, y: 0, z: -8 } })], 'post'),
    ).toBeCloseTo(Math.PI * 25 * 8, 4)
    expect((await diagnosis([dot, post({ to: 'point', point: { x: 0, y: 0, z: 0 } })])).code).toBe(
      'not-positive',
    )
  })
})

describe('areas of what is turned', () => {
  it('one ring of two that cross', async () => {
    const two = circles(10, 'flat', 'front', [
      [30, 0, 10],
      [40, 0, 10],
    ])
    const open = { ...two, inputs: { ...two.inputs, use: 'open' } }
    const cells = profileCells(rebuild(piece([open])).state.profiles.flat!.shape)
    const lens = 2 * 100 * Math.acos(0.5) - 5 * Math.sqrt(3) * 10
    const ring = op(20, 'revolve', 'ring', {
      profile: 'flat',
      mode: 'new',
      areas: [cellRef(cellAt(cells, [35, 0])!)],
    })
    const { ring: body } = await bodiesOf([open, ring])
    if (body!.shape.kind !== 'turned') throw new Error('not turned')
    const { volumeOf } = await import('../turned')
    // Pappus.
    expect(volumeOf(body!.shape.turned)).toBeCloseTo(2 * Math.PI * 35 * lens, 5)
  })
  it('a rectangle unused beside stays out', async () => {
    const both = rectangle(10, 'flat', 'front', [5, 0], [10, 4])
    expect(
      (await bodiesOf([both, op(20, 'revolve', 'r', { profile: 'flat', mode: 'new' })])).r,
    ).toBeDefined()
  })
})
