import { expect, it } from 'vitest'
import { emptyWorkpiece, renameFigure, usesOf } from '../workpiece'
import { OPS } from '.'

const values = Object.values(OPS).flatMap((spec) =>
  spec.fields.flatMap((f) => (f.type === 'value' ? [[spec.kind, f.name] as const] : [])),
)

it.each(values)('a figure used by %s as its %s is found there, and renamed', (kind, name) => {
  const w = {
    ...emptyWorkpiece('w', 'W'),
    figures: [{ name: 'belly', expr: '12' }],
    route: [{ id: 'op1', number: 10, kind, name: 'Op', inputs: { [name]: 'belly * 2' } }],
  }
  expect(usesOf(w, 'belly').ops).toEqual(['op1'])
  renameFigure(w, 'belly', 'waist')
  expect(w.route[0]!.inputs[name]).toBe('waist * 2')
})

it.each(Object.values(OPS).map((spec) => [spec.kind, spec] as const))(
  'the inputs a new %s starts with are whole',
  (_, spec) => {
    const start = spec.start({ profile: 'p', body: 'b', middle: 5 })
    const read = spec.inputs.safeParse(start)
    expect(read.error?.issues ?? []).toEqual([])
  },
)
