import { describe, expect, it } from 'vitest'
import { arc, line } from '../curve'
import { polygon, turn } from '../turned/samples.test-data'
import { gaugeSpec, type Reading, readWith, subjectOf, tippingAngle, verdictOf } from '.'

const read = (
  kind: string,
  body: ReturnType<typeof turn>,
  density?: number,
  params = {},
): Reading => {
  const r = readWith(gaugeSpec(kind)!, subjectOf(body, density), params)
  if (typeof r === 'string') throw new Error(r)
  return r
}
/** Row B9: outer R 40, inner r 37, H 100, floor 5. */
const cup = turn(
  polygon([
    [0, 0],
    [40, 0],
    [40, 100],
    [37, 100],
    [37, 5],
    [0, 5],
  ]),
)

describe('gauges against closed forms', () => {
  it('tipping of a solid cylinder (B8a)', () => {
    expect((tippingAngle(30, 60) * 180) / Math.PI).toBeCloseTo(26.5650511771, 9)
  })
  it('mass and centre of gravity of a cup (B9)', () => {
    expect(read('mass', cup, 2.4).low).toBeCloseTo(225.779980828, 6)
    const t = read('tipping', cup, 2.4)
    expect(t.rows.find((r) => r.label === 'centre of gravity, empty')!.text).toBe('39.14 mm up')
    expect(t.rows.find((r) => r.label === 'tips when empty')!.text).toBe('45.6 deg')
  })
  it('filament of a cup: its volume over the area of the strand (mass of B9 over its density)', () => {
    const volume = (225.779980828 / 2.4) * 1000
    expect(read('filament', cup, undefined, { across: 1.75 }).low).toBeCloseTo(
      volume / (Math.PI * 0.875 ** 2) / 1000,
      6,
    )
    const thick = read('filament', cup, 2.4, { across: 2.85 })
    expect(thick.rows.map((r) => r.text)).toEqual(['94.07 cm³', '225.8 g'])
    expect(readWith(gaugeSpec('filament')!, subjectOf(cup), { across: 0 })).toContain('wider')
  })
  it('mass of a hollow sphere (B7)', () => {
    const s = turn([
      { curve: arc([0, 0], 50, -Math.PI / 2, Math.PI), name: 'out' },
      { curve: line([0, 50], [0, 47]), name: 'axis' },
      { curve: arc([0, 0], 47, Math.PI / 2, -Math.PI), name: 'in' },
      { curve: line([0, -47], [0, -50]), name: 'axis' },
    ])
    expect(read('mass', s, 1.27).low).toBeCloseTo(112.656632912, 6)
    expect(read('wall', s).low).toBeCloseTo(3, 6)
  })
  it('capacity, US ounces and headspace', () => {
    const c = read('capacity', cup)
    expect(c.low).toBeCloseTo((Math.PI * 37 * 37 * 95) / 1000, 9)
    const f = read('fill', cup, undefined, { share: 80 })
    expect(f.low).toBeCloseTo(0.8 * c.low, 8)
    expect(f.rows.find((r) => r.label === 'headspace')!.text).toBe('20.0 %')
    // 1 US fl oz = 29.5735295625 ml (NIST Handbook 44)
    expect(c.rows[0]!.text).toBe(`${(c.low / 29.5735295625).toFixed(2)} US fl oz`)
  })
  it('poles: flat is square, a cone is off by its slope', () => {
    expect(read('poles', cup).low).toBeCloseTo(0, 9)
    const cone = turn(
      polygon([
        [0, 0],
        [30, 0],
        [0, 30],
      ]),
    )
    expect(read('poles', cone).low).toBeCloseTo(45, 9)
  })
  it('says in words what a body cannot show', () => {
    const solid = turn(
      polygon([
        [0, 0],
        [30, 0],
        [30, 30],
        [0, 30],
      ]),
    )
    for (const kind of ['capacity', 'wall', 'mass']) {
      expect(typeof readWith(gaugeSpec(kind)!, subjectOf(solid), {})).toBe('string')
    }
  })
})

describe('verdicts', () => {
  it.each([
    [5, 5, { min: 1, max: 11 }, 'holds'],
    [1.2, 5, { min: 1, max: 11 }, 'marginal'],
    [0.9, 5, { min: 1, max: 11 }, 'out'],
    [5, 11.1, { min: 1, max: 11 }, 'out'],
    [100, 100, { max: 101 }, 'marginal'],
    [50, 50, { max: 101 }, 'holds'],
    [5, 5, {}, 'none'],
    [5, 5, undefined, 'none'],
  ] as const)('%d to %d within %o is %s', (low, high, limits, want) =>
    expect(verdictOf(low, high, limits)).toBe(want),
  )
})
