import { expect, it } from 'vitest'
import { emptyWorkpiece } from '../workpiece'
import { outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { readGauges, rebuild } from '.'

/** A cup of so thick a wall, as it is printed in lines of 0.45 mm. */
function read(wall: number, process: 'printed' | 'cast' = 'printed') {
  const w = {
    ...emptyWorkpiece('w', 'W'),
    route: [
      outline(10, 'half', 'front', [
        [0, 0],
        [20, 0],
        [20, 40],
        [0, 40],
      ]),
      op(20, 'revolve', 'cup', { profile: 'half', mode: 'new', angle: 360, start: 0 }),
      op(30, 'shell', 'thin', { body: 'cup', wall, open: [{ face: 'cup:side3' }], side: 'in' }),
    ],
    brief: { ...emptyWorkpiece('w', 'W').brief, process, line: 0.45 },
    gauges: [{ id: 'g', kind: 'wall' as const, params: {}, limits: { min: 0.2 } }],
  }
  return readGauges(w, rebuild(w))[0]!
}

it('a wall thinner than one printed line is out, whatever its limits; of another process it is not', () => {
  expect(read(0.3)).toMatchObject({ verdict: 'out' })
  expect(read(0.3).reading!.rows.at(-1)).toMatchObject({ label: 'printed line' })
  expect(read(0.3, 'cast')).toMatchObject({ verdict: 'holds' })
})
it('a wall of no whole number of lines is told, within a tenth of one it is not', () => {
  const labels = (wall: number) => read(wall).reading!.rows.map((r) => r.label)
  expect(labels(0.9)).not.toContain('printed lines')
  expect(labels(0.94)).not.toContain('printed lines')
  expect(labels(1.1)).toContain('printed lines')
  expect(read(1.1)).toMatchObject({ verdict: 'holds' })
})
