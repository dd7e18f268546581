import { z } from 'zod'
import { bad, type Diagnosis, fixed, good } from '../../math'
import { defineOp } from '../spec'

const inputs = z.object({ file: z.string() })

export const importOp = defineOp<z.infer<typeof inputs>>({
  kind: 'import',
  version: 1,
  label: 'Bring in',
  help: 'A body from a STEP file, beside what is made here.',
  stage: 'form',
  inputs,
  fields: [
    { name: 'file', label: 'From', help: 'The STEP file, kept in the workpiece.', type: 'file' },
  ],
  start: () => ({ file: '' }),
  evaluate({ file }, ctx) {
    if (!file) return bad('no-file', 'Choose a STEP file to bring in.')
    const name = ctx.file(file)
    if (name === undefined) return bad('no-file', `The file "${file}" is not in the workpiece.`)
    const read = ctx.kernel({ verb: 'step', args: { op: ctx.op, file }, on: [] })
    if (!read.ok) return bad('bad-step', `${name}: ${read.diagnosis.message}`)
    const part = read.value[0]!
    const { volume, closed, valid, solids } = part.measure
    const warn = (code: string, message: string): Diagnosis => ({
      code,
      message,
      places: [],
      fixes: [],
    })
    return good({
      bodies: { [ctx.op]: { id: ctx.op, name: name.replace(/\.[^.]+$/, ''), shape: part } },
      warnings: [
        ...(closed ? [] : [warn('open', 'The body in the file is not closed.')]),
        ...(valid ? [] : [warn('not-valid', 'The file’s geometry fails the kernel’s own check.')]),
        ...(solids > 1
          ? [warn('several', `The file holds ${solids} solids, kept as one body.`)]
          : []),
      ],
      consequence: `${fixed(volume / 1000, 1)} cm³, exact`,
    })
  },
})
