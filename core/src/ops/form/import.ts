import { z } from 'zod'
import { bad, type Diagnosis, fixed, good } from '../../math'
import type { MeshFormat } from '../../mesh'
import { defineOp } from '../spec'

const inputs = z.object({ file: z.string() })

export const importOp = defineOp<z.infer<typeof inputs>>({
  kind: 'import',
  version: 2,
  label: 'Bring in',
  help: 'Bodies from a STEP, STL, 3MF or OBJ file, beside what is made here.',
  stage: 'form',
  inputs,
  fields: [
    {
      name: 'file',
      label: 'From',
      help: 'A STEP, STL, 3MF or OBJ file, kept in the workpiece. Triangles are taken as millimetres.',
      type: 'file',
    },
  ],
  start: () => ({ file: '' }),
  evaluate({ file }, ctx) {
    if (!file) return bad('no-file', 'Choose a file to bring in.')
    const name = ctx.file(file)
    if (name === undefined) return bad('no-file', `The file "${file}" is not in the workpiece.`)
    const format = /\.(stl|obj|3mf)$/i.exec(name)?.[1]?.toLowerCase() as MeshFormat | undefined
    const read = ctx.kernel(
      format
        ? { verb: 'meshfile', args: { op: ctx.op, file, format }, on: [] }
        : { verb: 'step', args: { op: ctx.op, file }, on: [] },
    )
    if (!read.ok)
      return bad('bad-file', `${name}: ${read.diagnosis.message}`, read.diagnosis.places)
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
          ? [
              warn(
                'several',
                `The file holds ${solids} ${format ? 'loose pieces' : 'solids'}, kept as one body; a split into loose pieces parts them.`,
              ),
            ]
          : []),
      ],
      consequence: `${fixed(volume / 1000, 1)} cm³, ${format ? 'triangles' : 'exact'}`,
    })
  },
})
