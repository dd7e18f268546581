import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { arc, arcThrough, type Curve, line, uniformSpline } from '../curve'
import { loadShapes, type ShapeStore } from '../exact'
import type { Kernel } from '../kernel'
import type { P2 } from '../math'
import { rebuild } from '../rebuild'
import { areaOf, FULL_TURN, liftToSolid, shell, type TurnedBody, volumeOf } from '../turned'
import { polygon, turn } from '../turned/samples.test-data'
import { emptyWorkpiece, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { release } from '.'
import { rereadMeshes, rereadStep } from './readback'

let kernel: Kernel
let shapes: ShapeStore
beforeAll(async () => {
  shapes = await loadShapes()
  kernel = shapes.kernel
})

type Piece = { curve: Curve; name: string }
const bow = (a: P2, b: P2, c: P2): Piece => ({ curve: arcThrough(a, b, c), name: 'bow' })
const straight = (a: P2, b: P2): Piece => ({
  curve: line(a, b),
  name: a[0] === 0 && b[0] === 0 ? 'axis' : 'straight',
})

/** Written as STEP and read again: closed, valid, the volume and area of the half-section. */
function comesBack(b: TurnedBody) {
  const solid = liftToSolid(kernel, b)
  const bytes = kernel.toStep([{ solid, name: 'piece' }])
  kernel.free(solid)
  const leaving = { name: 'piece', volume: volumeOf(b), solids: b.regions.length }
  const read = rereadStep(kernel, bytes, [leaving])
  if (!read.ok) throw new Error(read.diagnosis.message)
  const back = kernel.fromStep(bytes)
  expect(Math.abs(kernel.measure(back).area / areaOf(b) - 1)).toBeLessThan(1e-5)
  kernel.free(back)
  expect(kernel.live).toBe(0)
}

/** Outlines that meet the axis obliquely or touch it, which plain tori get wrong. */
const OBLIQUE: Record<string, Piece[]> = {
  ogive: [straight([0, 0], [20, 0]), bow([20, 0], [14, 30], [0, 50]), straight([0, 50], [0, 0])],
  apple: [bow([0, -10], [25, 2], [0, 14]), straight([0, 14], [0, -10])],
  'flat dome': [straight([0, 0], [30, 0]), bow([30, 0], [16, 7], [0, 8]), straight([0, 8], [0, 0])],
  'goblet with a dimpled floor': [
    straight([0, 0], [25, 0]),
    straight([25, 0], [8, 20]),
    straight([8, 20], [30, 60]),
    straight([30, 60], [28, 60]),
    straight([28, 60], [10, 24]),
    bow([10, 24], [5, 21], [0, 23]),
    straight([0, 23], [0, 0]),
  ],
  'circle touching the axis': [{ curve: arc([10, 0], 10, 0, FULL_TURN), name: 'ring' }],
  'arc of a circle that crosses the axis': [
    bow([5, -10], [25, 2], [5, 14]),
    straight([5, 14], [5, -10]),
  ],
}

describe('STEP of bodies over the axis', () => {
  it.each(Object.entries(OBLIQUE))('%s, whole, hollowed and part-turned', (_, pieces) => {
    const whole = turn(pieces)
    comesBack(whole)
    for (const [sweep, start] of [
      [0.02, 0],
      [1, 0.3],
      [Math.PI, 0],
      [6, -2],
    ] as const)
      comesBack({ ...whole, sweep, start })
    const hollow = shell(whole, 1.2, new Set(), 'in', 's')
    if (!hollow.ok) throw new Error(hollow.diagnosis.message)
    comesBack(hollow.value.body)
    comesBack({ ...hollow.value.body, sweep: 2 })
  })
  it.each([1, 45, 90, 180, 270, 359])('a ring and a cone turned by %d deg', (deg) => {
    const sweep = (deg * Math.PI) / 180
    comesBack(
      turn(
        polygon([
          [5, 0],
          [10, 0],
          [10, 20],
          [5, 20],
        ]),
        sweep,
      ),
    )
    comesBack(
      turn(
        polygon([
          [0, 0],
          [10, 0],
          [0, 20],
        ]),
        sweep,
        1,
      ),
    )
  })
  it('property: random outlines of arcs, lines and splines that end on the axis at any angle', () => {
    const size = fc.double({ min: 3, max: 40, noNaN: true })
    fc.assert(
      fc.property(
        fc.tuple(size, size, size, size),
        fc.constantFrom('arc', 'line', 'spline'),
        fc.constantFrom('arc', 'line', 'spline'),
        fc.double({ min: 0.1, max: 6.2, noNaN: true }),
        fc.boolean(),
        ([r, h1, h2, bulge], low, high, sweep, whole) => {
          const side = (kind: string, a: P2, m: P2, b: P2): Piece =>
            kind === 'arc'
              ? bow(a, m, b)
              : kind === 'line'
                ? straight(a, b)
                : { curve: uniformSpline([a, [0.2 * m[0] + a[0], m[1]], m, b]), name: 'spline' }
          const top = h1 + h2
          const b = turn(
            [
              side(low, [0, 0], [0.6 * r, h1 * 0.3], [r + 2, h1]),
              side(high, [r + 2, h1], [0.7 * r + Math.min(bulge, 4), h1 + 0.6 * h2], [0, top]),
              straight([0, top], [0, 0]),
            ],
            whole ? FULL_TURN : sweep,
          )
          fc.pre(b.regions.length === 1 && volumeOf(b) > 1)
          comesBack(b)
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('files are checked on the bytes that leave', () => {
  const box: Workpiece = {
    ...emptyWorkpiece('w', 'Can'),
    route: [
      op(10, 'profile', 'line', {
        plane: 'front',
        drawing: {
          points: {
            a: { x: 0, y: 0 },
            b: { x: 20, y: 0 },
            c: { x: 20, y: 30 },
            d: { x: 0, y: 30 },
          },
          entities: [
            { id: 'base', kind: 'line', a: 'a', b: 'b' },
            { id: 'side', kind: 'line', a: 'b', b: 'c' },
            { id: 'top', kind: 'line', a: 'c', b: 'd' },
          ],
        },
      }),
      op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 180, start: 0 }),
    ],
  }
  it.each(['step', 'stl', 'obj', '3mf'] as const)('a half turn leaves as %s', (format) => {
    const made = release(box, rebuild(box), format, { shapes })
    if (!made.ok) throw new Error(made.diagnosis.message)
    expect(made.value.note).toMatch(/^read again: .*closed/)
  })
  it('bytes that were tampered with are refused with what is wrong', () => {
    const want = [
      {
        name: 'Can',
        volume: volumeOf(
          turn(
            polygon([
              [0, 0],
              [20, 0],
              [20, 30],
              [0, 30],
            ]),
          ),
        ),
        solids: 1,
      },
    ]
    const solid = liftToSolid(
      kernel,
      turn(
        polygon([
          [0, 0],
          [20, 0],
          [20, 29],
          [0, 29],
        ]),
      ),
    )
    const bytes = kernel.toStep([{ solid, name: 'Can' }])
    kernel.free(solid)
    const step = rereadStep(kernel, bytes, want)
    expect(step).toMatchObject({ ok: false, diagnosis: { code: 'reads-wrong' } })
    if (!step.ok) expect(step.diagnosis.message).toMatch(/volume of Can is off by 3\.33 %/)
    const made = release(box, rebuild(box), 'stl', {})
    if (!made.ok) throw new Error(made.diagnosis.message)
    const stl = made.value.bytes.slice()
    const view = new DataView(stl.buffer)
    view.setFloat32(84 + 12, view.getFloat32(84 + 12, true) + 1, true)
    const torn = rereadMeshes('stl', stl, want)
    expect(torn.ok).toBe(false)
    if (!torn.ok)
      expect(torn.diagnosis.message).toMatch(/not closed: \d+ edges with one side open .*near/)
  })
})
