import { expect, it } from 'vitest'
import { fillCurve } from '../gauges'
import { polygon, turn } from '../turned/samples.test-data'
import { levelScale } from './levelscale'

/** A straight cup: inside radius 30, 60 deep, walls and floor 3. */
const cup = turn(
  polygon([
    [0, 0],
    [33, 0],
    [33, 63],
    [30, 63],
    [30, 3],
    [0, 3],
  ]),
)

it('as a scale in real millimetres: the mark of 100 ml stands at its height', () => {
  const svg = levelScale(fillCurve({ turned: cup })!, 10, 'Cup <a>')!
  expect(svg).toContain('Cup &#60;a&#62;')
  // 16 marks below the brim of 169.6 ml; the foot line stands 4 below the top mark's room.
  expect(svg.match(/<path d="M4 [\d.]+h/g)!.length).toBe(16)
  const foot = 60 + 4
  const marks = [...svg.matchAll(/<path d="M4 ([\d.]+)h/g)].map((m) => foot - Number(m[1]))
  expect(marks[9]).toBeCloseTo(100000 / (Math.PI * 900), 2)
  expect(levelScale(fillCurve({ turned: cup })!, 0, 'x')).toBeNull()
  expect(levelScale(fillCurve({ turned: cup })!, 0.001, 'x')).toBeNull()
})
