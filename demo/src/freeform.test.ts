import type { ExactPart } from '@ivory/core/exact'
import { workOut } from '@ivory/core/workpiece'
import { describe, expect, it } from 'vitest'
import type { demoSet } from '.'
import { changed, whole } from './whole.test-data'

/** A figure's value, mm. */
const built = (w: ReturnType<typeof demoSet>[number], name: string) =>
  workOut(w.figures, w.unit).values.find((v) => v.name === name)!.quantity!.value

describe('freeform pieces follow the figures', () => {
  it('of the napkin coil: more turns, a wider band', async () => {
    const w = changed('Napkin coil', { turns: '3.5', band: '10 mm', hole: '44 mm' })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const { bounds } = (state.bodies.coil!.shape as ExactPart).measure
    // The band where it is plain stands 2.5 beyond the middle line of 24.5.
    expect(bounds.max[0]).toBeCloseTo(27, 1)
  })
  it('of the lid clip foot: farther out, longer, thicker; it lies on the lid all the same', async () => {
    const w = changed('Lid clip foot', {
      reach: '48 mm',
      long: '54 mm',
      broad: '40 mm',
      thick: '3.2 mm',
    })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const { measure, mesh } = state.bodies.foot!.shape as ExactPart
    expect([measure.solids, measure.closed, measure.valid]).toEqual([1, true, true])
    // The lid is a cap of radius 126.7 (96 across half its foot, 44 high); what lies lowest of the foot lies on it.
    const radius = (96 ** 2 + 44 ** 2) / 88
    let least = Number.POSITIVE_INFINITY
    for (let v = 0; v < mesh.positions.length; v += 3) {
      const [x, y, z] = mesh.positions.subarray(v, v + 3) as unknown as [number, number, number]
      least = Math.min(least, Math.hypot(x, y, z - 44 + radius) - radius)
    }
    expect(Math.abs(least)).toBeLessThan(0.05)
  })
  it('of the probe plug: a wider one, a longer drop', async () => {
    const w = changed('Probe plug and lead', {
      wide: '30 mm',
      belly: '10.5 mm',
      drop: '60 mm',
      lead: '6 mm',
    })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const { measure } = state.bodies.plug!.shape as ExactPart
    expect([measure.solids, measure.closed, measure.valid]).toEqual([1, true, true])
    expect(measure.bounds.min[2]).toBeCloseTo(-60, 4)
    expect(measure.bounds.max[1]).toBeGreaterThan(15 - 1e-4)
  })
  it.each([{ wide: '110 mm', tall: '32 mm', wall: '4 mm' }])(
    'of the shoe: flat flanks, let in on both sides by a third of the wall: %o',
    async (figures) => {
      const w = changed('Knife-block shoe', figures)
      const { reports, state } = await whole(w)
      expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
      const shoe = state.bodies.shoe!.shape as ExactPart
      expect([shoe.measure.solids, shoe.measure.closed, shoe.measure.valid]).toEqual([
        1,
        true,
        true,
      ])
      const [deep, tall, inset, wall] = ['deep', 'tall', 'inset', 'wall'].map((n) => built(w, n))
      // The field on the flank, by hand: its length along the edge, its height up the lean, a third of the wall deep.
      const field = (deep! * (2 / 3) - 14) * (tall! - 10)
      const mirrored = Number(/−([\d.]+) mm³/.exec(reports[8]!.consequence)![1])
      expect(mirrored).toBeCloseTo((field * wall!) / 3, -1)
      // The loft between parallel edges is flat: its flanks lean by the inset.
      const flank = shoe.faces.find((f) => f.names.includes('shoe:s2'))!
      expect(flank.kind).toBe('plane')
      expect(flank.normal[2] / flank.normal[0]).toBeCloseTo(inset! / tall!, 9)
    },
  )
  it('of the honey dipper: a shorter head has fewer fins, rounded on their upper sides', async () => {
    const w = changed('Honey dipper', { length: '46 mm', rim: '0.6 mm' })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const dipper = state.bodies.head!.shape as ExactPart
    expect([dipper.measure.solids, dipper.measure.closed, dipper.measure.valid]).toEqual([
      1,
      true,
      true,
    ])
    // Slots 2.4 wide at least 3 apart in 46 - 14: six, on either side.
    const slots = new Set(
      dipper.faces.flatMap((f) =>
        f.names.filter((n) => /back\(cut:line1(~\d+)?\)/.test(n) && !n.includes('round')),
      ),
    )
    expect(slots.size).toBe(12)
    expect(dipper.measure.bounds.max[2]).toBeCloseTo(46 + 95, 6)
  })
  it('of the serving board: longer and narrower, its trays with it', async () => {
    const w = changed('Serving board', { long: '360 mm', wide: '130 mm', rise: '20 mm' })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const of = (id: string) => (state.bodies[id]!.shape as ExactPart).measure
    const { min, max } = of('board').bounds
    expect([max[0] - min[0], min[2], max[2]].map((x) => Math.round(x * 1e4) / 1e4)).toEqual([
      360,
      -0,
      expect.closeTo(20, 2),
    ])
    // A straight wall is its height times what it covers, whatever the skin does in between.
    const straight = state.bodies.straight!.shape as ExactPart
    const covered = (state.bodies.board!.shape as ExactPart).faces.find((f) => f.kind === 'plane')!
    expect(straight.measure.volume / (4 * covered.area)).toBeCloseTo(1, 4)
    // An even one is as thick square to the skin: more of it.
    expect(of('even').volume).toBeGreaterThan(straight.measure.volume)
    // The round one is what its arc turns round: Simpson's rule over its height, radius 130/2 at the rim, 45 less at the field.
    const bow = (45 ** 2 + 20 ** 2) / 40
    const r = (z: number) => 20 + Math.sqrt(bow ** 2 - (z - 20 + bow) ** 2)
    const turned = Array.from({ length: 400 }, (_, k) => {
      const [lo, hi] = [k / 20, (k + 1) / 20]
      return (Math.PI * (r(lo) ** 2 + 4 * r((lo + hi) / 2) ** 2 + r(hi) ** 2)) / 120
    }).reduce((a, b) => a + b)
    expect(of('round').volume / turned).toBeCloseTo(1, 5)
  })
  it('of the piping tube: a shorter one with a stiffer wall, still hollow and one piece', async () => {
    const w = changed('Piping tube', {
      flat: '56 mm',
      long: '160 mm',
      wall: '0.8 mm',
      gap: '0.3 mm',
    })
    const { reports, state } = await whole(w)
    expect(reports.map((r) => [r.id, r.status])).toEqual(w.route.map((o) => [o.id, 'ok']))
    const tube = state.bodies.tube!.shape as ExactPart
    expect([tube.measure.solids, tube.measure.closed, tube.measure.valid]).toEqual([1, true, true])
    expect(tube.measure.bounds.max[2]).toBeCloseTo(160 + 28, 4)
    // The mouth is a ring from the bore to the outside.
    const rim = tube.faces.find((f) => f.names.includes('nozzle:end'))!
    expect(rim.area).toBeCloseTo(Math.PI * (10 ** 2 - 9.2 ** 2), 2)
  })
})
