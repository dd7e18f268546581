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
