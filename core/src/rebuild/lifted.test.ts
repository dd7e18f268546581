import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { bodiesOf, exact, volume } from './exactroute.test-data'

/** Turned bodies stay turned, and are lifted where an op needs it. */
describe('turned bodies', () => {
  const cup = outline(10, 'half', 'front', [
    [0, 0],
    [30, 0],
    [30, 50],
    [0, 50],
  ])
  const turned = op(20, 'revolve', 'turn', { profile: 'half', mode: 'new' })
  it('keep the names of their faces when they are lifted', async () => {
    const hole = circles(30, 'hole', 'front', [[0, 25, 5]])
    const p = await exact(
      [
        cup,
        turned,
        hole,
        op(40, 'extrude', 'bore', {
          profile: 'hole',
          mode: 'cut',
          body: 'turn',
          to: 'through',
          side: 'alike',
        }),
      ],
      'turn',
    )
    expect(new Set(p.faces.flatMap((f) => f.names))).toEqual(
      new Set(['turn:side1', 'turn:side2', 'turn:side3', 'bore:ring1']),
    )
    // A rod across a rod of radius R: the bore takes 8 times the integral of sqrt((R²-x²)(r²-x²)) (by series).
    const [R, r] = [30, 5]
    let bore = 0
    const n = 20000
    for (let i = 0; i < n; i++) {
      const t = ((i + 0.5) / n) * (Math.PI / 2)
      const x = r * Math.sin(t)
      bore += Math.sqrt(R * R - x * x) * (r * Math.cos(t)) ** 2 * (Math.PI / 2 / n)
    }
    expect(p.measure.volume).toBeCloseTo(Math.PI * 900 * 50 - 8 * bore, 2)
  })
  it('a reference picked on the half-section still means its edge on the lifted body', async () => {
    const hole = circles(30, 'hole', 'front', [[0, 25, 5]])
    const bore = op(40, 'extrude', 'bore', {
      profile: 'hole',
      mode: 'cut',
      body: 'turn',
      to: 'through',
      side: 'alike',
    })
    const rim = { edge: ['turn:side2', 'turn:side3'], at: [30, 50], index: 0, of: 1 }
    const round = op(50, 'fillet', 'round', { body: 'turn', edges: [rim], radius: 4 })
    const p = await exact([cup, turned, hole, bore, round], 'turn')
    expect(p.faces.some((f) => f.names.includes('round:round(turn:side2|turn:side3)'))).toBe(true)
    // What a round of radius 4 takes off a rim of radius 30 (Pappus; the corner less its quarter circle).
    const [r, a] = [4, 16 - 4 * Math.PI]
    const off = (16 * 2 - 4 * Math.PI * (4 - (4 * 4) / (3 * Math.PI))) / a
    const without = await volume([cup, turned, hole, bore], 'turn')
    expect(without - p.measure.volume).toBeCloseTo(2 * Math.PI * (30 - off) * a, 3)
    expect(off).toBeLessThan(r)
  })
  it('of different axes or turns are combined by the kernel', async () => {
    const across = outline(30, 'arm', 'front', [
      [0, 20],
      [60, 20],
      [60, 30],
      [0, 30],
    ])
    const axis = op(35, 'axis', 'level', {
      how: 'points',
      p1: { x: 0, y: 0, z: 25 },
      p2: { x: 1, y: 0, z: 25 },
    })
    const half = outline(30, 'arm', 'front', [
      [0, 25],
      [60, 25],
      [60, 30],
      [0, 30],
    ])
    const p = await exact(
      [
        cup,
        turned,
        axis,
        half,
        op(40, 'revolve', 'arm1', { profile: 'arm', mode: 'join', body: 'turn', axis: 'level' }),
      ],
      'turn',
    )
    expect(p.measure.solids).toBe(1)
    expect(p.measure.volume).toBeGreaterThan(Math.PI * 900 * 50 + Math.PI * 25 * 29)
    expect(across.id).toBe('arm')
    const quarter = await exact(
      [
        cup,
        turned,
        { ...cup, id: 'half2', number: 30 },
        op(40, 'revolve', 'bite', { profile: 'half2', mode: 'cut', body: 'turn', angle: 90 }),
      ],
      'turn',
    )
    expect(quarter.measure.volume).toBeCloseTo(0.75 * Math.PI * 900 * 50, 3)
  })
  it('split along their axis they become two halves with the cut named', async () => {
    const bodies = await bodiesOf([
      cup,
      turned,
      op(30, 'split', 'part', { body: 'turn', how: 'plane', plane: 'side' }),
    ])
    for (const id of ['turn', 'part']) {
      const p = bodies[id]!.shape as ExactPart
      expect(p.measure.volume).toBeCloseTo((Math.PI * 900 * 50) / 2, 3)
      expect(p.faces.some((f) => f.names.includes('part:cut'))).toBe(true)
    }
  })
})
