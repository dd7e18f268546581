import { expect, it } from 'vitest'
import { lastMaker, makersOf } from './makers'

it('reads ops and the drawn piece from names of faces', () => {
  expect(makersOf('turn:side')).toEqual({ ops: ['turn'], piece: 'side' })
  expect(makersOf('o5:copy3(turn:side)')).toEqual({ ops: ['o5', 'turn'], piece: 'side' })
  expect(makersOf('soft:round(cut:line1~4|turn:top)')).toEqual({
    ops: ['soft', 'cut', 'turn'],
    piece: 'top',
  })
  expect(lastMaker('hollow:wall(block:side1)')).toBe('hollow')
  expect(makersOf('section')).toEqual({ ops: [], piece: '' })
})
