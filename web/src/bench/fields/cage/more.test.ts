import { startCylinder, startPlane } from '@ivory/core/cage'
import type { ShownCage } from '@ivory/core/ops'
import { expect, it } from 'vitest'
import { morePicked } from './more'

const shown = ({ layout, at }: ReturnType<typeof startPlane>): ShownCage => ({
  points: layout.points,
  at,
  faces: layout.faces,
  creases: [],
  rows: layout.rows,
  free: [],
})
const sheet = shown(startPlane([40, 30], 4, 3))
const tube = shown(
  startCylinder(
    6,
    [0, 1, 2].map((z) => ({ radius: 10, z })),
    { floor: false, lid: false },
  ),
)

it('points take in those at the other ends of their edges', () => {
  expect(morePicked(sheet, ['1.1']).sort()).toEqual(['0.1', '1.0', '1.1', '1.2', '2.1'])
  expect(morePicked(sheet, ['0.0']).sort()).toEqual(['0.0', '0.1', '1.0'])
})
it('faces take in those along their sides', () => {
  expect(morePicked(sheet, ['f1.1']).sort()).toEqual(['f0.1', 'f1.0', 'f1.1', 'f1.2', 'f2.1'])
})
it('an edge goes on along its line: to the border, or all round', () => {
  const line = morePicked(sheet, ['1.1~1.2'])
  expect(line).toHaveLength(4)
  const points = new Set(line.flatMap((w) => w.split('~')))
  expect([...points].sort()).toEqual(['1.0', '1.1', '1.2', '1.3', '1.4'])
  expect(morePicked(tube, ['1.0~1.1'])).toHaveLength(6)
})
it('along a border as far as its corners, round an opening, and round a face that shuts one', () => {
  expect(morePicked(sheet, ['0.1~0.2'])).toHaveLength(4)
  expect(morePicked(tube, ['2.0~2.1'])).toHaveLength(6)
  const rings = [0, 1, 2].map((z) => ({ radius: 10, z }))
  const cup = shown(startCylinder(6, rings, { floor: true, lid: false }))
  for (const edge of ['0.0~0.1', '1.0~1.1', '2.0~2.1'])
    expect(morePicked(cup, [edge])).toHaveLength(6)
  // Up the side it ends at either rim.
  expect(morePicked(cup, ['0.0~1.0'])).toHaveLength(2)
})
