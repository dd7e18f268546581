import type { Field } from '../../spec'
import { when } from '../datum'

const sized =
  (what: string) =>
  (i: Readonly<Record<string, unknown>>): boolean =>
    i.how === 'helix' && String(i.by).includes(what)

/** Of a path that winds round an axis. */
export const helixFields: Field[] = [
  {
    name: 'by',
    label: 'Given by',
    help: 'Two of the three; the third follows.',
    type: 'choice',
    options: [
      { value: 'turns-height', label: 'turns and height' },
      { value: 'pitch-turns', label: 'pitch and turns' },
      { value: 'pitch-height', label: 'pitch and height' },
    ],
    when: when('helix'),
  },
  {
    name: 'radius',
    label: 'Radius',
    help: 'Where it starts.',
    type: 'value',
    dim: 'length',
    when: when('helix'),
  },
  {
    name: 'last',
    label: 'Radius at end',
    help: 'Another one makes it run on a cone, or as a flat spiral.',
    type: 'value',
    dim: 'length',
    optional: 'the same',
    when: when('helix'),
  },
  {
    name: 'pitch',
    label: 'Pitch',
    help: 'Height of one turn.',
    type: 'value',
    dim: 'length',
    when: sized('pitch'),
  },
  {
    name: 'turns',
    label: 'Turns',
    help: 'They need not be whole.',
    type: 'value',
    dim: 'number',
    when: sized('turns'),
  },
  {
    name: 'height',
    label: 'Height',
    help: 'Along the axis; 0 lies flat.',
    type: 'value',
    dim: 'length',
    when: sized('height'),
  },
  {
    name: 'hand',
    label: 'Winds',
    help: 'As a common screw does, or the other way.',
    type: 'choice',
    options: [
      { value: 'right', label: 'right-handed' },
      { value: 'left', label: 'left-handed' },
    ],
    when: when('helix'),
  },
]

/** Of one that goes on from a path into another. */
export const blendFields: Field[] = [
  {
    name: 'from',
    label: 'Leaves',
    help: 'The path it goes on from.',
    type: 'path',
    when: when('blend'),
  },
  {
    name: 'leaves',
    label: 'At its',
    help: 'Which end of it.',
    type: 'choice',
    options: [
      { value: 'end', label: 'end' },
      { value: 'start', label: 'start' },
    ],
    when: when('blend'),
  },
  {
    name: 'into',
    label: 'Goes on in',
    help: 'The path it runs into; the same one is closed by it.',
    type: 'path',
    when: when('blend'),
  },
  {
    name: 'reaches',
    label: 'At the',
    help: 'Which end of it is reached.',
    type: 'choice',
    options: [
      { value: 'start', label: 'start of that' },
      { value: 'end', label: 'end of that' },
    ],
    when: when('blend'),
  },
  {
    name: 'order',
    label: 'Meets both',
    help: 'In direction only (G1), in curvature too (G2), or also in how that changes (G3).',
    type: 'choice',
    options: [
      { value: 'direction', label: 'in direction' },
      { value: 'curvature', label: 'in curvature' },
      { value: 'change', label: 'in change of curvature' },
    ],
    when: when('blend'),
  },
  {
    name: 'above',
    label: 'Stays above',
    help: 'A plane it does not go below; it is told what that costs in smoothness.',
    type: 'plane',
    none: 'nothing',
    when: when('blend'),
  },
  {
    name: 'over',
    label: 'Stays over',
    help: 'A line it does not go below, nor below the plane through it that lies level across.',
    type: 'axis',
    none: 'no line',
    when: when('blend'),
  },
  {
    name: 'leavePull',
    label: 'Keeps to first',
    help: 'How far it keeps the direction it leaves in; 1 is where its curvature changes least.',
    type: 'value',
    dim: 'number',
    when: when('blend'),
  },
  {
    name: 'reachPull',
    label: 'Keeps to second',
    help: 'The same where it arrives.',
    type: 'value',
    dim: 'number',
    when: when('blend'),
  },
  {
    name: 'keeps',
    label: 'Gives',
    help: 'Both paths and what lies between as one, or only that.',
    type: 'choice',
    options: [
      { value: 'all', label: 'one path of all three' },
      { value: 'blend', label: 'what lies between' },
    ],
    when: when('blend'),
  },
]
