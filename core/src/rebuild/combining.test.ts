import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { RebuildCache, rebuildWith } from '.'
import {
  base,
  block,
  bodiesOf,
  built,
  diagnosis,
  exact,
  piece,
  volume,
} from './exactroute.test-data'

describe('combine, mirror, pattern, move', () => {
  const peg = circles(30, 'peg', 'top', [[10, 10, 4]])
  const rod = op(40, 'extrude', 'rod', { profile: 'peg', mode: 'new', length: 30 })
  it('many tools at once, kept or used up', async () => {
    const route = [
      base,
      block,
      peg,
      rod,
      op(50, 'pattern', 'rods', {
        body: 'rod',
        how: 'grid',
        count: 3,
        pitch: 20,
        count2: 2,
        pitch2: 20,
      }),
      op(60, 'combine', 'holes', { how: 'cut', body: 'block', tools: ['rod'] }),
    ]
    const bodies = await bodiesOf(route)
    expect(Object.keys(bodies)).toEqual(['block'])
    const p = bodies.block!.shape as ExactPart
    expect(p.measure.volume).toBeCloseTo(48000 - 6 * Math.PI * 16 * 20, 4)
    expect(p.faces.some((f) => f.names.includes('rods:copy6(rod:ring1)'))).toBe(true)
    const kept = await bodiesOf([
      ...route.slice(0, 5),
      op(60, 'combine', 'h', { how: 'cut', body: 'block', tools: ['rod'], keep: 'yes' }),
    ])
    expect(Object.keys(kept).sort()).toEqual(['block', 'rod'])
  })
  it('a pattern round an axis, with single places left out; copies that touch become one', async () => {
    const route = (more: object) => [
      peg,
      rod,
      op(50, 'pattern', 'ring', { body: 'rod', how: 'round', count: 8, ...more }),
    ]
    const one = Math.PI * 16 * 30
    expect(await volume(route({}), 'rod')).toBeCloseTo(8 * one, 4)
    expect(await volume(route({ skip: '2, 4-5' }), 'rod')).toBeCloseTo(5 * one, 4)
    const bar = rectangle(30, 'peg', 'top', [0, 0], [10, 4])
    const touching = await exact(
      [
        bar,
        { ...rod, inputs: { ...rod.inputs, length: 4 } },
        op(50, 'pattern', 'row', { body: 'rod', count: 5, pitch: 10 }),
      ],
      'rod',
    )
    expect(touching.measure).toMatchObject({ solids: 1 })
    expect(touching.measure.volume).toBeCloseTo(5 * 160, 6)
    expect(touching.faces).toHaveLength(6)
  })
  it('a body each, and what cannot be', async () => {
    const each = await bodiesOf([
      peg,
      rod,
      op(50, 'pattern', 'row', { body: 'rod', count: 3, pitch: 20, result: 'bodies' }),
    ])
    expect(Object.keys(each).sort()).toEqual(['rod', 'row-2', 'row-3'])
    const bad = (inputs: object) =>
      diagnosis([peg, rod, op(50, 'pattern', 'row', { body: 'rod', ...inputs })])
    expect(await bad({ count: 10000 })).toMatchObject({ code: 'too-many' })
    expect(await bad({ count: 2.5 })).toMatchObject({ code: 'count' })
    expect(await bad({ pitch: 0 })).toMatchObject({ code: 'in-place' })
    expect(await bad({ skip: 'two' })).toMatchObject({ code: 'skip' })
    expect(await bad({ count: 1 })).toMatchObject({ code: 'no-copies' })
  })
  it('mirror and move keep the volume; scale cubes it', async () => {
    const halves = await exact(
      [base, block, op(50, 'mirror', 'both', { body: 'block', plane: 'side' })],
      'block',
    )
    expect(halves.measure.volume).toBeCloseTo(2 * 48000, 4)
    expect(halves.measure.solids).toBe(1)
    const copy = await bodiesOf([
      base,
      block,
      op(50, 'move', 'aside', { body: 'block', x: 100, y: -3, z: 2, copy: 'yes' }),
    ])
    expect((copy.aside!.shape as ExactPart).measure.bounds.min[0]).toBeCloseTo(100, 4)
    const grown = await volume(
      [base, block, op(50, 'move', 'grow', { body: 'block', how: 'scale', factor: 1.1 })],
      'block',
    )
    expect(grown).toBeCloseTo(48000 * 1.331, 4)
    const turned = await exact(
      [base, block, op(50, 'move', 't', { body: 'block', how: 'turn', turn: '90 deg' })],
      'block',
    )
    expect(turned.measure.bounds.min[0]).toBeCloseTo(-40, 4)
  })
})

it('an edit that touches nothing of it asks the kernel for nothing', async () => {
  const w = piece([base, block])
  const cache = new RebuildCache()
  await built(w, cache)
  const renamed = { ...w, bodies: { block: { name: 'Brick' } } }
  const again = await rebuildWith(renamed, () => Promise.reject(new Error('asked')), cache)
  expect(again.state.bodies.block!.name).toBe('Brick')
  // There and back: the first result is still known.
  const longer = piece([base, { ...block, inputs: { ...block.inputs, length: 21 } }])
  await built(longer, cache)
  const back = await rebuildWith(w, () => Promise.reject(new Error('asked')), cache)
  expect(back.reports.every((r) => r.status === 'ok')).toBe(true)
})
