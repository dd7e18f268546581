import { expect, it } from 'vitest'
import { seriesCsv, seriesOf } from './series'

it('a chart of walls says what is thinner than the limit, and its table is read by spreadsheets', () => {
  const s = seriesOf(
    { kind: 'walls', walls: { from: [1, 2], to: [2, 3], share: [0.25, 0.75] } },
    { min: 2, max: 4 },
  )
  expect(s.says).toBe('1.00 to 3.00 mm; 25.0 % thinner than 2.00.')
  expect(s.limits).toEqual([
    { at: 2, label: 'at least' },
    { at: 4, label: 'at most' },
  ])
  expect(seriesCsv(s)).toBe('"wall, mm","% of the surface"\r\n1.5000,25.0000\r\n2.5000,75.0000\r\n')
})
it('sections come with the mass where a material is chosen', () => {
  const section = { at: [0, 1], area: [10, 20], mass: [0.01, 0.03] }
  const s = seriesOf({ kind: 'section', along: 'z', section }, {})
  expect(s.says).toBe('The largest section, 20 mm², lies at 1.0 mm; 0.0 g in all.')
  expect(seriesCsv(s).split('\r\n')[0]).toBe('"z, mm","section, mm²","mass so far, g"')
  expect(
    seriesOf({ kind: 'section', along: 'z', section: { ...section, mass: null } }, {}).more,
  ).toBeUndefined()
})
it('a fill curve names brim and level', () => {
  const fill = { heights: [0, 10], volumes: [0, 55.5], floor: 3 }
  expect(seriesOf({ kind: 'fill', fill }, {}).says).toBe(
    '55.5 ml to the brim, 10.0 mm over the inside floor.',
  )
})
it('a path tells its tightest bend, sections along it their least and largest', () => {
  const places = [
    [0, 0, 0],
    [5, 0, 0],
    [10, 0, 0],
  ] as const
  const bending = {
    at: [0, 5, 10],
    bend: [0, 0.04, 0.01],
    change: [0.008, 0, -0.006],
    places: [...places],
  }
  const s = seriesOf({ kind: 'bending', bending }, {})
  expect(s.says).toBe('The tightest bend, of radius 25.00 mm, lies at 5.0 of 10.0 mm.')
  expect(seriesCsv(s).split('\r\n')[2]).toBe('5.0000000,0.0400000,0.0000000')
  const straight = { ...bending, bend: [0, 0, 0] }
  expect(seriesOf({ kind: 'bending', bending: straight }, {}).says).toBe('It is straight.')
  const sections = {
    at: [0, 5],
    area: [12, 30],
    long: [4, 6],
    short: [3, 5],
    places: [...places],
  }
  const along = seriesOf({ kind: 'sections', sections }, {})
  expect(along.says).toMatch(/12\.0 mm² \(at 0\.0 mm\) to 30\.0 mm² \(at 5\.0 mm\)/)
  expect(seriesCsv(along).split('\r\n')[0]).toBe(
    '"along the path, mm","section, mm²","long side, mm","short side, mm"',
  )
  const none = { at: [], area: [], long: [], short: [], places: [] }
  expect(seriesOf({ kind: 'sections', sections: none }, {}).says).toMatch(/nowhere/)
})
