import { z } from 'zod'
import type { ExactPart } from '../../exact'
import { bad, type Diagnosis, type Fix, fixed, good, type Place } from '../../math'
import type { MeshFormat } from '../../mesh'
import { loose } from '../exact'
import { defineOp } from '../spec'

const inputs = z.object({
  file: z.string(),
  as: z.enum(['one', 'bodies']).default('one'),
  shared: z.enum(['told', 'join', 'room']).default('told'),
})

export const importOp = defineOp<z.infer<typeof inputs>>({
  kind: 'import',
  version: 4,
  label: 'Bring in',
  help: 'Bodies from a STEP, STL, 3MF, OBJ or PLY file, beside what is made here.',
  stage: 'form',
  inputs,
  fields: [
    {
      name: 'file',
      label: 'From',
      help: 'A STEP, STL, 3MF, OBJ or PLY file, kept in the workpiece. Triangles are taken as millimetres.',
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
    {
      name: 'shared',
      label: 'Room two take',
      help: 'What becomes of pieces of triangles that lie in each other or go through each other: it is never counted twice.',
      type: 'choice',
      options: [
        { value: 'told', label: 'Refuse, and show where' },
        { value: 'join', label: 'Join them' },
        { value: 'room', label: 'Hollow where one lies in another' },
      ],
    },
  ],
  start: () => ({ file: '', as: 'one', shared: 'told' }),
  evaluate({ file, as, shared }, ctx) {
    if (!file) return bad('no-file', 'Choose a file to bring in.')
    const name = ctx.file(file)
    if (name === undefined) return bad('no-file', `The file "${file}" is not in the workpiece.`)
    const format = /\.(stl|obj|3mf|ply)$/i.exec(name)?.[1]?.toLowerCase() as MeshFormat | undefined
    const read = ctx.kernel(
      format
        ? { verb: 'meshfile', args: { op: ctx.op, file, format, shared }, on: [] }
        : { verb: 'step', args: { op: ctx.op, file }, on: [] },
    )
    if (!read.ok)
      return bad(
        'bad-file',
        `${name}: ${read.diagnosis.message}`,
        read.diagnosis.places,
        curesOf(read.diagnosis.code, ctx.op),
      )
    const part = read.value[0]!
    const { volume, closed, valid, solids } = part.measure
    const warn = (code: string, message: string, places: Place[] = []): Diagnosis => ({
      code,
      message,
      places,
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
        ...mendedWords(part.mended).map((words) => warn('mended', words)),
        ...(part.mended?.through
          ? [
              warn(
                'crosses-itself',
                'Its skin goes through itself here: its volume counts what lies there as often as the skin goes round it.',
                [{ at: part.mended.through }],
              ),
            ]
          : []),
      ],
      consequence: `${parts.value.length > 1 ? parts.value.map((p) => cm3(p.measure.volume)).join(' + ') : cm3(volume)} cm³, ${format ? 'triangles' : 'exact'}`,
    })
  },
})

/** What pieces that take up the same room can become. */
const curesOf = (code: string, op: string): Fix[] => [
  ...(code === 'inside-others' || code === 'through-others'
    ? [{ label: 'Join them', op, inputs: { shared: 'join' } }]
    : []),
  ...(code === 'inside-others'
    ? [{ label: 'Make the inner ones rooms', op, inputs: { shared: 'room' } }]
    : []),
]

function mendedWords(mended: ExactPart['mended']): string[] {
  const { turned = 0, twice = 0 } = mended ?? {}
  const triangles = (n: number) => (n === 1 ? '1 triangle' : `${n} triangles`)
  return [
    turned > 0 && `${triangles(turned)} looked inward and ${turned === 1 ? 'was' : 'were'} turned.`,
    twice > 0 &&
      `${triangles(twice)} ${twice === 1 ? 'was' : 'were'} there twice and counted once.`,
  ].filter((x) => x !== false)
}
