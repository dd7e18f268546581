import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dot3, norm3, type P3, sub3 } from '../../math'
import type { Curve3 } from '../curve3'
import { matched, ringOf, sidesOf, skinned } from '../loft'
import { normalOn, skinOfParts } from '../offset'
import { type Patch, pointOn } from '../patch'
import { fluxThrough } from '../sums'
import { swapped, turnedU } from '../turned'
import { innerSkin, type TubeEnd, type TubeFace, tubeOf } from '.'

const ENDS: [TubeEnd, TubeEnd] = [
  { at: [0, 0, 0], normal: [0, 0, -1] },
  { at: [0, 0, 50], normal: [0, 0, 1] },
]
/** A loft from a polygon to a circle above it, u x v out of the material. */
function sides(corners: number): Patch[] {
  const at = (k: number): P3 => {
    const w = (2 * Math.PI * k) / corners
    return [20 * Math.cos(w), 20 * Math.sin(w), 0]
  }
  const below = {
    curves: Array.from(
      { length: corners },
      (_, k): Curve3 => ({ kind: 'line', a: at(k), b: at(k + 1) }),
    ),
    names: Array.from({ length: corners }, (_, k) => `s${k}`),
    closed: true,
  }
  const quarter = (k: number): Curve3 => ({
    kind: 'arc',
    centre: [0, 0, 50],
    x: [Math.cos((k * Math.PI) / 2), Math.sin((k * Math.PI) / 2), 0],
    y: [-Math.sin((k * Math.PI) / 2), Math.cos((k * Math.PI) / 2), 0],
    radius: 12,
    sweep: Math.PI / 2,
  })
  const above = { curves: [0, 1, 2, 3].map(quarter), names: ['a', 'b', 'c', 'd'], closed: true }
  const both = matched([ringOf(below), ringOf(above)], [0, 0])
  if (!both.ok) throw new Error(both.diagnosis.message)
  const free = { ruled: true, ring: false, first: null, last: null }
  return skinned(sidesOf(both.value), free).patches
}

/** A quarter of a turn of its parameters; u x v stays. */
const quarters = (p: Patch, n: number): Patch =>
  Array.from({ length: n }).reduce<Patch>((q) => turnedU(swapped(q)), p)

describe('a tube of faces', () => {
  it('property: in any order and however their parameters run, faces are put round and up alike', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 7 }).chain((n) =>
          fc.record({
            n: fc.constant(n),
            order: fc.shuffledSubarray([...Array(n).keys()], { minLength: n }),
            turns: fc.array(fc.integer({ min: 0, max: 3 }), { minLength: n, maxLength: n }),
          }),
        ),
        ({ n, order, turns }) => {
          const made = sides(n)
          const given = order.map(
            (i): TubeFace => ({ patch: quarters(made[i]!, turns[i]!), id: i }),
          )
          const tube = tubeOf(given, ENDS)!
          expect(tube.rows).toHaveLength(1)
          const row = tube.rows[0]!
          expect(row.map((f) => f.id).sort()).toEqual([...Array(n).keys()])
          for (const [k, { patch }] of row.entries()) {
            const next = row[(k + 1) % n]!.patch
            for (const v of [0.1, 0.6]) {
              expect(norm3(sub3(pointOn(patch, 1, v), pointOn(next, 0, v)))).toBeLessThan(1e-9)
              const out = pointOn(patch, 0.5, v)
              expect(dot3(normalOn(patch, 0.5, v), [out[0], out[1], 0])).toBeGreaterThan(0)
            }
            expect(pointOn(patch, 0.3, 0)[2]).toBeCloseTo(0, 9)
            expect(pointOn(patch, 0.3, 1)[2]).toBeCloseTo(50, 9)
          }
        },
      ),
      { numRuns: 40 },
    )
  })
  it('is none where a face is missing, or one more lies about', () => {
    const faces = sides(4).map((patch, id): TubeFace => ({ patch, id }))
    expect(tubeOf(faces.slice(1), ENDS)).toBeNull()
    const far = { ...faces[0]!.patch, poles: faces[0]!.patch.poles.map((x) => x + 100) }
    expect(tubeOf([...faces, { patch: far, id: 9 }], ENDS)).toBeNull()
  })
  it('the inner side of a cone: another cone, nearer the axis by wall / cos of its lean', () => {
    const ring = (r: number, z: number) => ({
      curves: [0, 1].map(
        (k): Curve3 => ({
          kind: 'arc',
          centre: [0, 0, z],
          x: [k === 0 ? 1 : -1, 0, 0],
          y: [0, k === 0 ? 1 : -1, 0],
          radius: r,
          sweep: Math.PI,
        }),
      ),
      names: ['a', 'b'],
      closed: true,
    })
    const both = matched([ringOf(ring(20, 0)), ringOf(ring(10, 50))], [0, 0])
    if (!both.ok) throw new Error(both.diagnosis.message)
    const free = { ruled: true, ring: false, first: null, last: null }
    const grid = skinOfParts(skinned(sidesOf(both.value), free).patches)
    const made = innerSkin(grid, 1.5, [
      { ...ENDS[0], open: false },
      { ...ENDS[1], open: true },
    ])
    if (!made.ok) throw new Error(made.diagnosis.message)
    const less = 1.5 * Math.hypot(1, 0.2)
    for (const p of made.value.flat())
      for (const v of [0, 0.3, 1]) {
        const [x, y, z] = pointOn(p, 0.37, v)
        expect(Math.hypot(x, y)).toBeCloseTo(20 - 0.2 * z - less, 4)
        if (v === 0) expect(z).toBeCloseTo(1.5, 6)
        if (v === 1) expect(z).toBeCloseTo(50, 6)
      }
    // Of what lies under it and its two flat ends, by the rule for frusta.
    const [r0, r1] = [20 - 0.3 - less, 10 - less]
    const flux = made.value.flat().reduce((sum, p) => sum + fluxThrough(p), 0)
    const ends = (Math.PI * (50 * r1 ** 2 - 1.5 * r0 ** 2)) / 3
    const cone = (Math.PI * 48.5 * (r0 ** 2 + r0 * r1 + r1 ** 2)) / 3
    expect(flux + ends).toBeCloseTo(cone, 1)
    const thick = innerSkin(grid, 11, [
      { ...ENDS[0], open: true },
      { ...ENDS[1], open: true },
    ])
    expect(thick.ok ? '' : thick.diagnosis.code).toBe('too-tight')
  })
})
