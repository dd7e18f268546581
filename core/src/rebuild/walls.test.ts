import { describe, expect, it } from 'vitest'
import { capOf, slice } from '../mesh'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { triangleMesh } from '.'
import { base, block, built, exact, face, gauged, piece } from './exactroute.test-data'

describe('gauges of bodies that are not turned', () => {
  it('the wall of a hollowed block is what was asked, its floor another where it is', async () => {
    const first = await exact([base, block], 'block')
    const open = [face(first, 'block:end')]
    const shell = op(30, 'shell', 'hollow', { body: 'block', wall: 1.7, open })
    const [wall] = await gauged([base, block, shell], [{ limits: { min: 1.5, max: 3 } }])
    expect(wall!.reading!.low).toBeCloseTo(1.7, 3)
    expect(wall!.verdict).toBe('holds')
    // In the corner between three walls the largest ball is (1 + 1/√2 …) larger than one wall, not twice.
    expect(wall!.reading!.high).toBeGreaterThan(1.7)
    expect(wall!.reading!.high).toBeLessThan(3)
    const [thin] = await gauged([base, block, shell], [{ limits: { min: 1.8 } }])
    expect(thin!.verdict).toBe('out')
  })
  it('of a bar with a groove it is what the groove leaves, and where', async () => {
    const groove = rectangle(30, 'groove', 'top', [25, -5], [10, 60])
    const cut = op(40, 'extrude', 'less', {
      profile: 'groove',
      mode: 'cut',
      body: 'block',
      to: 'length',
      length: 15,
      offset: 6.5,
    })
    const [wall] = await gauged([base, block, groove, cut], [{}])
    expect(wall!.reading!.low).toBeCloseTo(6.5, 3)
    const at = wall!.reading!.places[0]!.at as unknown as [number, number, number]
    expect(at[0]).toBeGreaterThan(24)
    expect(at[0]).toBeLessThan(36)
  })
  it('clearance is that of two cylinders side by side, 0 where bodies overlap or lie in each other', async () => {
    const pins = (x: number, r = 4): Op[] => [
      circles(10, 'one', 'top', [[0, 0, 5]]),
      op(20, 'extrude', 'left', { profile: 'one', mode: 'new', length: 10 }),
      circles(30, 'two', 'top', [[x, 3, r]]),
      op(40, 'extrude', 'right', { profile: 'two', mode: 'new', length: 4, offset: 3 }),
    ]
    const read = async (x: number, r?: number) =>
      (await gauged(pins(x, r), [{ kind: 'clearance', body: 'left' }]))[0]!.reading!
    // Chords of 0.05 mm on either.
    expect((await read(20)).low).toBeGreaterThan(Math.hypot(20, 3) - 9)
    expect((await read(20)).low).toBeLessThan(Math.hypot(20, 3) - 9 + 0.1)
    expect((await read(8)).text).toMatch(/^0, overlaps/)
    expect((await read(0.5, 1)).text).toMatch(/^0, overlaps/)
    const [alone] = await gauged(pins(20).slice(0, 2), [{ kind: 'clearance', body: 'left' }])
    expect(alone!.why).toMatch(/no other body/)
    const [named] = await gauged(pins(20), [
      { kind: 'clearance', body: 'left', params: { other: 'right' } },
    ])
    expect(named!.reading!.rows[0]!.text).toBe('right')
  })
})

it('a slice is capped by its own area, holes left open', async () => {
  const hole = circles(30, 'hole', 'top', [[30, 20, 8]])
  const cut = op(40, 'extrude', 'less', {
    profile: 'hole',
    mode: 'cut',
    body: 'block',
    to: 'through',
  })
  const w = piece([base, block, hole, cut])
  const mesh = triangleMesh((await built(w)).state.bodies.block!)
  const plane = {
    origin: [0, 0, 7],
    x: [1, 0, 0],
    y: [0, 1, 0],
    z: [0, 0, 1],
  } as const
  const cap = capOf(slice(mesh, plane), plane)
  let area = 0
  for (let i = 0; i < cap.length; i += 9) {
    expect(cap[i + 2]).toBeCloseTo(7, 6)
    const [ux, uy] = [cap[i + 3]! - cap[i]!, cap[i + 4]! - cap[i + 1]!]
    const [vx, vy] = [cap[i + 6]! - cap[i]!, cap[i + 7]! - cap[i + 1]!]
    area += Math.abs(ux * vy - uy * vx) / 2
  }
  expect(area / (2400 - 64 * Math.PI)).toBeCloseTo(1, 3)
})

it('the gap in a slot, and between the turns of a coil; a ball has none', async () => {
  const slot: Op[] = [
    rectangle(30, 'slot', 'top', [20, -1], [5, 42]),
    op(40, 'extrude', 'cut', {
      profile: 'slot',
      mode: 'cut',
      body: 'block',
      length: 15,
      offset: 5,
    }),
  ]
  const [gap] = await gauged([base, block, ...slot], [{ kind: 'gap' }])
  expect(gap!.reading!.low).toBeCloseTo(5, 3)
  expect(gap!.reading!.high).toBeCloseTo(5, 3)
  const [pitch, r, wire] = [14, 20, 6]
  const [turns] = await gauged(
    [
      op(10, 'path', 'way', { how: 'helix', by: 'pitch-turns', radius: r, pitch, turns: 2.5 }),
      op(20, 'sweep', 'coil', { path: 'way', section: 'round', across: wire, mode: 'new' }),
    ],
    [{ kind: 'gap' }],
  )
  // Turns that follow each other lie pitch x cos of the lead apart, square to the wire.
  const apart = pitch * Math.cos(Math.atan(pitch / (2 * Math.PI * r))) - wire
  expect(turns!.reading!.low).toBeGreaterThan(apart - 0.1)
  expect(turns!.reading!.low).toBeLessThan(apart + 0.15)
  const [none] = await gauged([base, block], [{ kind: 'gap' }])
  expect(none!.why).toMatch(/No two sides/)
})
