import { z } from 'zod'
import { boundsOf, intersect, pointAt } from '../../curve'
import { FONT_NAMES, type Placed, placeLetters, setLine, type TextWay } from '../../letters'
import { bad, boxesMeet, type Diagnosis, fixed, good, mm, type P2, POINT } from '../../math'
import { emptyDrawing, regionsOf, shapeOf, valueSchema } from '../../profile'
import { faceRefSchema } from '../../refs'
import { thinnestNeck } from '../../turned'
import { defineOp } from '../spec'
import { fitsInto } from './fits'
import { pathWay } from './textway'

const inputs = z.object({
  plane: z.string().min(1),
  words: z.string().max(120),
  font: z.enum(FONT_NAMES).default('bold'),
  height: valueSchema,
  spacing: valueSchema.default(0),
  along: z.enum(['line', 'arc', 'path']).default('line'),
  path: z.string().optional(),
  x: valueSchema.default(0),
  y: valueSchema.default(0),
  align: z.enum(['start', 'middle', 'end']).default('middle'),
  turn: valueSchema.default(0),
  radius: valueSchema.default(20),
  feet: z.enum(['in', 'out']).default('in'),
  read: z.enum(['front', 'behind']).default('front'),
  least: valueSchema.default(0.4),
  body: z.string().optional(),
  faces: z.array(faceRefSchema).max(1).default([]),
  margin: valueSchema.default(1),
})
type Inputs = z.infer<typeof inputs>

const onArc = (i: Readonly<Record<string, unknown>>) => i.along === 'arc'
const onPath = (i: Readonly<Record<string, unknown>>) => i.along === 'path'

export const textOp = defineOp<Inputs>({
  kind: 'text',
  version: 1,
  label: 'Text',
  help: 'Words on a plane, as closed outlines to carry out, cut or part with.',
  stage: 'draw',
  inputs,
  fields: [
    { name: 'plane', label: 'On', help: 'The plane it stands on.', type: 'plane' },
    { name: 'words', label: 'Words', help: 'One line of text.', type: 'text' },
    {
      name: 'font',
      label: 'Letters',
      help: 'A font that comes with the app.',
      type: 'choice',
      options: FONT_NAMES.map((value) => ({ value, label: value })),
    },
    {
      name: 'height',
      label: 'Height',
      help: 'Of the capitals.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'spacing',
      label: 'Wider by',
      help: 'Between letters, more than the font has; negative for closer.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'along',
      label: 'Along',
      help: 'What the feet of the letters stand on.',
      type: 'choice',
      options: [
        { value: 'line', label: 'a line' },
        { value: 'arc', label: 'an arc' },
        { value: 'path', label: 'a path' },
      ],
    },
    {
      name: 'path',
      label: 'Path',
      help: 'What the letters stand on, as it is seen square to the plane.',
      type: 'path',
      when: onPath,
    },
    {
      name: 'x',
      label: 'Across',
      help: 'Where it is set; the middle of an arc; along a path, how far it is moved on.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'y',
      label: 'Up',
      help: 'Where it is set; the middle of an arc; how far off a path it stands.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'radius',
      label: 'Radius',
      help: 'Of the arc under the feet.',
      type: 'value',
      dim: 'length',
      when: onArc,
    },
    {
      name: 'feet',
      label: 'Feet',
      help: 'Which way the feet of the letters point.',
      type: 'choice',
      options: [
        { value: 'in', label: 'to the middle of the arc' },
        { value: 'out', label: 'away from it' },
      ],
      when: onArc,
    },
    {
      name: 'feet',
      label: 'Stands',
      help: 'On which side of the path, for who goes along it.',
      type: 'choice',
      options: [
        { value: 'in', label: 'to its left, read along it' },
        { value: 'out', label: 'to its right, read against it' },
      ],
      when: onPath,
    },
    {
      name: 'turn',
      label: 'Turned',
      help: 'The line against the plane’s own; on an arc, where round it the text is set.',
      type: 'value',
      dim: 'angle',
      when: (i) => !onPath(i),
    },
    {
      name: 'align',
      label: 'Set by',
      help: 'What of the text lies there.',
      type: 'choice',
      options: [
        { value: 'start', label: 'its start' },
        { value: 'middle', label: 'its middle' },
        { value: 'end', label: 'its end' },
      ],
    },
    {
      name: 'read',
      label: 'Read from',
      help: 'From behind it is mirrored, as for a stamp.',
      type: 'choice',
      options: [
        { value: 'front', label: 'the front of the plane' },
        { value: 'behind', label: 'behind' },
      ],
    },
    {
      name: 'least',
      label: 'Stroke from',
      help: 'Thinner strokes are named: what a printed line or a tool can do.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'body',
      label: 'Body',
      help: 'The body with the face the text has to fit inside, if any.',
      type: 'body',
    },
    {
      name: 'faces',
      label: 'Fits inside',
      help: 'A flat face the text has to lie on; the range of its height then says how high it can be.',
      type: 'faces',
    },
    {
      name: 'margin',
      label: 'Clear by',
      help: 'What has to stay free between the letters and the edge of the face.',
      type: 'value',
      dim: 'length',
      when: (i) => Array.isArray(i.faces) && i.faces.length > 0,
    },
  ],
  start: ({ body }) => ({
    plane: 'top',
    words: 'TEXT',
    font: 'bold' as const,
    height: 8,
    spacing: 0,
    along: 'line' as const,
    x: 0,
    y: 0,
    align: 'middle' as const,
    turn: 0,
    radius: 20,
    feet: 'in' as const,
    read: 'front' as const,
    least: 0.4,
    ...(body ? { body } : {}),
    faces: [],
    margin: 1,
  }),
  evaluate(i, ctx) {
    const plane = ctx.plane(i.plane)
    if (!plane)
      return bad('no-plane', `The plane "${i.plane}" does not exist at this point of the route.`)
    if (i.words.trim() === '') return bad('no-words', 'There are no words to set yet.')
    const [height, spacing] = [ctx.read(i.height, 'length'), ctx.read(i.spacing, 'length')]
    if (!(height >= 0.05 && height <= 1000))
      return bad('height', 'The capitals must be between 0.05 and 1000 mm high.')
    if (!(Math.abs(spacing) <= 1000))
      return bad('spacing', 'The spacing must be less than 1000 mm.')
    const { letters, width, missing } = setLine(i.font, i.words, height, spacing)
    if (missing.length > 0)
      return bad(
        'no-letter',
        `The font ${i.font} has no ${missing.map((c) => `“${c}”`).join(', ')}.`,
      )
    const at: P2 = [ctx.read(i.x, 'length'), ctx.read(i.y, 'length')]
    const turn = ctx.read(i.turn, 'angle')
    const radius = i.along === 'arc' ? ctx.read(i.radius, 'length') : 0
    if (i.along === 'arc' && !(radius > 0))
      return bad('radius', 'The radius of the arc must be more than 0.')
    if (i.along === 'arc' && width > 2 * Math.PI * radius)
      return bad(
        'too-long',
        `The text is ${mm(width)} long and does not go once round the arc of ${mm(2 * Math.PI * radius)}.`,
      )
    const onto = i.along === 'path' ? pathWay(i, width, at, plane.frame, ctx) : null
    if (onto && !onto.ok) return onto
    const way: TextWay =
      onto?.value ??
      (i.along === 'line'
        ? { along: 'line', at, align: i.align, turn }
        : { along: 'arc', at, align: i.align, turn, radius, feet: i.feet })
    const placed = placeLetters(letters, width, way, i.read === 'behind')
    const drawn = placed.flatMap((l, n) =>
      l.curves.map((curve, k) => ({ id: `${n + 1}-${k + 1}`, curve, construction: false })),
    )
    if (drawn.length === 0) return bad('no-words', 'These words draw nothing.')
    const crowded = crossing(placed)
    if (crowded) return bad('crowded', crowded.message, crowded.places)
    const fit = fitsInto(
      { body: i.body, faces: i.faces, margin: i.margin },
      plane.frame,
      drawn.map((d) => d.curve),
      ctx,
    )
    if (!fit.ok) return fit
    const shape = { ...shapeOf(emptyDrawing(), () => 0), drawn }
    return good({
      profiles: { [ctx.op]: { frame: plane.frame, drawing: emptyDrawing(), shape, health: [] } },
      say: () => {
        const thin = strokesOf(placed)
        const least = ctx.read(i.least, 'length')
        const slim = thin.filter((s) => s.wall < least - 1e-9)
        const count = placed.filter((l) => l.curves.length > 0).length
        const finest = thin.length > 0 ? Math.min(...thin.map((s) => s.wall)) : null
        return {
          warnings: [...fit.value, ...(slim.length > 0 ? [thinStrokes(slim, least)] : [])],
          consequence: `${count} ${count === 1 ? 'letter' : 'letters'}, ${mm(width)} long${
            finest === null ? '' : `, thinnest stroke ${fixed(finest, 2)}`
          }`,
        }
      },
    })
  },
  cap: (input, i, ctx) =>
    input === 'height' ? Math.max(4 * ctx.read(i.height, 'length'), 100) : null,
})

/** The thinnest stroke of each letter that has one, mm. */
function strokesOf(placed: readonly Placed[]) {
  return placed.flatMap(({ char, curves }) => {
    const regions = regionsOf(curves.map((curve, i) => ({ curve, name: `${i}` })))
    if (!regions.ok || regions.value.length === 0) return []
    const reading = thinnestNeck(regions.value)
    return reading ? [{ char, ...reading }] : []
  })
}
const thinStrokes = (
  slim: readonly { char: string; at: P2; wall: number }[],
  least: number,
): Diagnosis => {
  const finest = Math.min(...slim.map((s) => s.wall))
  const letters = [...new Set(slim.map((s) => s.char))]
  return {
    code: 'thin-stroke',
    message: `Strokes of ${letters.join(' ')} go down to ${fixed(finest, 2)} mm, thinner than ${mm(least)}: they may not come out.`,
    places: slim.map((s) => ({ at: s.at, label: fixed(s.wall, 2) })),
    fixes: [],
  }
}

/** Neighbours that run into each other: inside and outside would change places there. */
function crossing(placed: readonly Placed[]): { message: string; places: { at: P2 }[] } | null {
  const boxes = placed.map(({ curves }) => curves.map(boundsOf))
  for (let i = 1; i < placed.length; i++) {
    const [a, b] = [placed[i - 1]!, placed[i]!]
    for (const [j, c] of a.curves.entries())
      for (const [k, d] of b.curves.entries()) {
        if (!boxesMeet(boxes[i - 1]![j]!, boxes[i]![k]!, POINT)) continue
        const [m] = intersect(c, d)
        if (m)
          return {
            message: `“${a.char}” and “${b.char}” run into each other: set them wider apart.`,
            places: [{ at: pointAt(c, m.t) }],
          }
      }
  }
  return null
}
