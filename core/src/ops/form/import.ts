import { z } from 'zod'
import { bad, type Diagnosis, fixed, good } from '../../math'
import type { MeshFormat } from '../../mesh'
import { loose } from '../exact'
import { defineOp } from '../spec'

const inputs = z.object({ file: z.string(), as: z.enum(['one', 'bodies']).default('one') })

export const importOp = defineOp<z.infer<typeof inputs>>({
  kind: 'import',
  version: 3,
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
    {
      name: 'as',
      label: 'Its parts',
      help: 'What becomes of parts that do not hang together; those not wanted are put away in the tray.',
      type: 'choice',
      options: [
        { value: 'one', label: 'All as one body' },
        { value: 'bodies', label: 'A body each' },
      ],
    },
  ],
  start: () => ({ file: '', as: 'one' }),
  evaluate({ file, as }, ctx) {
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
    const called = name.replace(/\.[^.]+$/, '')
    const parts = as === 'bodies' && solids > 1 ? loose(part, ctx) : good([part])
    if (!parts.ok) return parts
    const bodies = parts.value.map((shape, i) => {
      const id = i === 0 ? ctx.op : `${ctx.op}-${i + 1}`
      return [id, { id, name: i === 0 ? called : `${called} ${i + 1}`, shape }]
    })
    const cm3 = (v: number) => fixed(v / 1000, 1)
    return good({
      bodies: Object.fromEntries(bodies),
      warnings: [
        ...(closed ? [] : [warn('open', 'The body in the file is not closed.')]),
        ...(valid ? [] : [warn('not-valid', 'The file’s geometry fails the kernel’s own check.')]),
        ...(solids > 1 && as === 'one'
          ? [
              {
                ...warn(
                  'several',
                  `The file holds ${solids} ${format ? 'loose pieces' : 'solids'}, kept as one body.`,
                ),
                fixes: [{ label: 'A body each', op: ctx.op, inputs: { as: 'bodies' } }],
              },
            ]
          : []),
      ],
      consequence: `${parts.value.length > 1 ? parts.value.map((p) => cm3(p.measure.volume)).join(' + ') : cm3(volume)} cm³, ${format ? 'triangles' : 'exact'}`,
    })
  },
})
