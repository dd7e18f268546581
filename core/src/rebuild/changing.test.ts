import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { diagnosis, exact, volume } from './exactroute.test-data'

const square = rectangle(10, 'square', 'top', [-10, -10], [20, 20])
const disc = circles(20, 'disc', 'top', [[0, 0, 8]])
const straight = op(30, 'path', 'way', {
  how: 'stops',
  stops: [
    { x: 0, y: 0, z: 0, by: 'line' },
    { x: 0, y: 0, z: 60, by: 'line' },
  ],
})
/** A quarter of a circle of radius 100 that starts upwards. */
const bent = op(30, 'path', 'way', {
  how: 'stops',
  stops: [
    { x: 0, y: 0, z: 0, by: 'line' },
    { x: 100 - 50 * Math.SQRT2, y: 0, z: 50 * Math.SQRT2, by: 'over' },
    { x: 100, y: 0, z: 100, by: 'line' },
  ],
})
const sweep = (stations: object[], more: object = {}): Op =>
  op(90, 'sweep', 'bar', {
    path: 'way',
    section: 'profile',
    profile: 'square',
    mode: 'new',
    stations,
    ...more,
  })
const at = (fraction: number, profile?: string) => ({
  fraction,
  width: 1,
  height: 1,
  turn: 0,
  ...(profile ? { profile } : {}),
})
/** The volume of the straight skin between both, as a loft makes it. */
const lofted = () =>
  volume(
    [
      square,
      op(12, 'plane', 'up', { how: 'offset', from: 'top', offset: 60 }),
      { ...disc, inputs: { ...disc.inputs, plane: 'up' } },
      op(40, 'loft', 'bar', {
        sections: [{ profile: 'square' }, { profile: 'disc' }],
        run: 'ruled',
        mode: 'new',
      }),
    ],
    'bar',
  )

describe('sweeps whose section becomes another', () => {
  it('from a square to a circle along a line: as the straight loft between them', async () => {
    const p = await exact([square, disc, straight, sweep([at(0), at(1, 'disc')])], 'bar')
    expect(p.measure.volume / (await lofted())).toBeCloseTo(1, 6)
    const top = p.faces.find((f) => f.names[0] === 'bar:end')!
    expect(top.area).toBeCloseTo(64 * Math.PI, 2)
  })
  it('along an arc: the mean of its areas times the way of their middles', async () => {
    const v = await volume([square, disc, bent, sweep([at(0), at(1, 'disc')])], 'bar')
    expect(v / (((await lofted()) / 60) * 50 * Math.PI)).toBeCloseTo(1, 5)
  })
  it('to a head and back: each goes on until the next says otherwise', async () => {
    const three = outline(25, 'three', 'top', [
      [-9, -6],
      [9, -6],
      [0, 12],
    ])
    const p = await exact(
      [square, disc, three, bent, sweep([at(0, 'disc'), at(0.3), at(0.6, 'three'), at(1)])],
      'bar',
    )
    const area = (name: string) => p.faces.find((f) => f.names[0] === name)!.area
    expect(area('bar:start')).toBeCloseTo(64 * Math.PI, 2)
    expect(area('bar:end')).toBeCloseTo(162, 4)
    expect([p.measure.solids, p.measure.valid]).toEqual([1, true])
  })
  it('refuses holes, what comes back as another, and drawings that enclose nothing', async () => {
    const holed = circles(20, 'disc', 'top', [
      [0, 0, 8],
      [0, 0, 3],
    ])
    expect((await diagnosis([square, holed, straight, sweep([at(0), at(1, 'disc')])])).code).toBe(
      'with-holes',
    )
    const open = outline(
      20,
      'disc',
      'top',
      [
        [0, 0],
        [5, 5],
      ],
      false,
    )
    expect((await diagnosis([square, open, straight, sweep([at(0), at(1, 'disc')])])).code).toBe(
      'open-profile',
    )
  })
})
