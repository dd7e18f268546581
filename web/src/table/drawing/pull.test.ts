import type { Driver } from '@ivory/core/rebuild'
import { emptyWorkpiece } from '@ivory/core/workpiece'
import { describe, expect, it } from 'vitest'
import { answering, pulled, pullWords, putNumber } from './pull'

const driver = (id: string, moves: [number, number], more: Partial<Driver> = {}): Driver => ({
  of: 'figure',
  id,
  label: id,
  value: 80,
  suffix: ' mm',
  moves,
  direct: true,
  ...more,
})
const belly = driver('belly', [0.5, 0])
const tall = driver('tall', [0, 12.7], { value: 4, suffix: ' in' })
const far = driver('far', [1, 0], { direct: false })

describe('pulling at a held point', () => {
  it('what runs the way of the drag answers, what speaks of the point itself first', () => {
    expect(answering([tall, far, belly], [3, 0.2]).map((d) => d.id)).toEqual(['belly', 'far'])
    expect(answering([tall, far, belly], [0, -2]).map((d) => d.id)).toEqual(['tall'])
    expect(answering([belly], [0, 5])).toEqual([])
  })
  it('half a millimetre out for each of the width: 3 mm out is 6 more', () => {
    expect(pulled(belly, [3, 1])).toBe(86)
    expect(pullWords(belly, 86)).toBe('belly = 86 mm')
    // In inches, in steps of about a tenth of a millimetre.
    expect(pulled(tall, [0, 25.4])).toBe(6)
    expect(pulled(tall, [0, 1])).toBe(4.08)
  })
  it('stays within the limits of a figure', () => {
    expect(pulled({ ...belly, max: 82 }, [30, 0])).toBe(82)
    expect(pulled({ ...belly, min: 70 }, [-30, 0])).toBe(70)
  })
  it('writes figures with their unit, and plain numbers of dimensions', () => {
    const doc = emptyWorkpiece('w', 'W')
    doc.figures.push({ name: 'tall', expr: '4 in' })
    putNumber(doc, 'line', tall, 4.5)
    expect(doc.figures[0]!.expr).toBe('4.5 in')
    const dimensions = [{ id: 'rim', kind: 'across', points: ['c'], entities: [], value: 50 }]
    doc.route.push({
      id: 'line',
      number: 10,
      kind: 'profile',
      name: 'P',
      inputs: { drawing: { points: {}, entities: [], dimensions } },
    })
    putNumber(doc, 'line', driver('rim', [0.5, 0], { of: 'dimension' }), 52)
    expect(dimensions[0]!.value).toBe(52)
  })
})
