import { describe, expect, it } from 'vitest'
import { emptyWorkpiece, renameFigure, usesOf, type Workpiece } from '.'

const w = (): Workpiece => ({
  ...emptyWorkpiece('w', 'W'),
  figures: [
    { name: 'neck', expr: '28 mm' },
    { name: 'belly', expr: 'neck * 2.1 + 2 neck' },
    { name: 'necking', expr: '3 mm' },
  ],
  route: [
    {
      id: 'line',
      number: 10,
      kind: 'profile',
      name: 'neck',
      inputs: {
        plane: 'front',
        drawing: {
          points: { neck: { x: 'neck / 2', y: 4 } },
          entities: [],
          dimensions: [{ id: 'd', kind: 'across', points: ['neck'], entities: [], value: 'neck' }],
        },
      },
    },
    {
      id: 'hollow',
      number: 20,
      kind: 'shell',
      name: 's',
      inputs: { body: 'neck', wall: 'necking' },
    },
  ],
})

describe('where a figure is used', () => {
  it('names figures and ops, but not ids that look alike', () => {
    expect(usesOf(w(), 'neck')).toEqual({ figures: ['belly'], ops: ['line'] })
    expect(usesOf(w(), 'necking')).toEqual({ figures: [], ops: ['hollow'] })
    expect(usesOf(w(), 'belly')).toEqual({ figures: [], ops: [] })
  })
  it('another name is put in everywhere, and only there', () => {
    const doc = w()
    renameFigure(doc, 'neck', 'throat')
    expect(doc.figures.map((f) => f.expr)).toEqual(['28 mm', 'throat * 2.1 + 2 throat', '3 mm'])
    const [line, hollow] = doc.route
    expect(JSON.stringify(line!.inputs)).toContain('"neck":{"x":"throat / 2","y":4}')
    expect(JSON.stringify(line!.inputs)).toContain(
      '"points":["neck"],"entities":[],"value":"throat"',
    )
    expect(hollow!.inputs).toEqual({ body: 'neck', wall: 'necking' })
  })
})
