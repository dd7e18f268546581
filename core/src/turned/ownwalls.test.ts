import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nearest, pointAt } from '../curve'
import { AXIS, type Seg } from '../profile'
import { bodyLoops, facesOf, shell, type TurnedBody, volumeOf } from '.'
import { polygon, turn } from './samples.test-data'

const faceOf = (b: TurnedBody, at: readonly [number, number]): Seg =>
  facesOf(b).reduce((p, q) => (nearest(p.seg.curve, at).d < nearest(q.seg.curve, at).d ? p : q)).seg

const must = (r: ReturnType<typeof shell>) => {
  if (!r.ok) throw new Error(r.diagnosis.message)
  return r.value
}

describe('walls of their own for single faces', () => {
  const can = turn(
    polygon([
      [0, 0],
      [20, 0],
      [20, 40],
      [0, 40],
    ]),
  )
  it('a thick floor in a thin can (closed form)', () => {
    const open = new Set([faceOf(can, [10, 40])])
    const own = new Map([[faceOf(can, [10, 0]), 5]])
    const made = must(shell(can, 2, open, 'in', 's', own))
    expect(volumeOf(made.body)).toBeCloseTo(Math.PI * (400 * 40 - 324 * 35), 6)
    expect(made.lost).toEqual([])
  })
  it('closed all round, a thin lid', () => {
    const own = new Map([[faceOf(can, [10, 40]), 0.5]])
    const made = must(shell(can, 2, new Set(), 'in', 's', own))
    expect(volumeOf(made.body)).toBeCloseTo(Math.PI * (400 * 40 - 324 * 37.5), 6)
  })
  it('property: every wall is at least its own, and exactly that somewhere behind each face', () => {
    const near = fc.integer({ min: -6, max: 6 })
    fc.assert(
      fc.property(
        fc.tuple(near, near, near, near),
        fc.array(
          fc.integer({ min: 8, max: 50 }).map((x) => x / 10),
          { minLength: 5, maxLength: 5 },
        ),
        ([a, b, c, d], walls) => {
          const body = turn(
            polygon([
              [0, 0],
              [24 + a, b],
              [34 + c, 22],
              [26 + d, 45],
              [12, 52],
              [0, 52],
            ]),
          )
          const faces = bodyLoops(body)
            .flat()
            .filter((s) => s.name !== AXIS)
          const own = new Map(faces.map((s, i) => [s, walls[i % walls.length]!]))
          const made = must(shell(body, 3, new Set(), 'in', 's', own))
          const inner = bodyLoops(made.body)
            .flat()
            .filter((s) => s.name.startsWith('s:wall('))
          for (const s of inner)
            for (const k of [0, 0.25, 0.5, 0.75, 1])
              for (const [face, t] of own)
                expect(nearest(face.curve, pointAt(s.curve, k)).d).toBeGreaterThan(t - 1e-6)
          for (const [face, t] of own) {
            const behind = inner.filter((s) => s.name === `s:wall(${face.name})`)
            if (made.lost.some((l) => l.name === face.name)) continue
            const d = behind.flatMap((s) =>
              [0, 0.5, 1].map((k) => nearest(face.curve, pointAt(s.curve, k)).d),
            )
            expect(Math.min(...d)).toBeCloseTo(t, 5)
          }
        },
      ),
      { numRuns: 60 },
    )
  })
})
