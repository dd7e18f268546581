import type { CageEdit } from '@ivory/core/ops'
import type { NewEdit } from '../../../session/caging'

/** How one figure or choice of an edit is shown. */
export type EditField =
  | { name: string; label: string; as: 'length' | 'angle' | 'number'; optional?: boolean }
  | { name: string; label: string; as: 'count'; least: number }
  | { name: string; label: string; as: 'choice'; options: { value: string; label: string }[] }
  | { name: string; label: string; as: 'body' | 'path' }

const REACH: EditField = { name: 'reach', label: 'fades over', as: 'length' }
const ABOUT: EditField = {
  name: 'about',
  label: 'about',
  as: 'choice',
  options: [
    { value: 'own', label: 'its own middle' },
    { value: 'axis', label: 'the z axis' },
  ],
}
const WAY: EditField = {
  name: 'way',
  label: 'along',
  as: 'choice',
  options: ['x', 'y', 'z'].map((value) => ({ value, label: value })),
}
const FORM: EditField = {
  name: 'form',
  label: 'the form',
  as: 'choice',
  options: [
    { value: 'kept', label: 'stays' },
    { value: 'changes', label: 'changes with it' },
  ],
}
const length = (name: string, label: string): EditField => ({ name, label, as: 'length' })
const number = (name: string, label: string): EditField => ({ name, label, as: 'number' })

interface Kind {
  label: string
  help: string
  fields: EditField[]
  /** It works on all of the cage where nothing is picked. */
  whole?: true
  /** A new one of what is picked; `first` what there is that it may go onto. */
  start(on: string[], first: { body: string; path: string }): NewEdit
}

/** Opens the letters of what is done to a cage. */
export const CAGE_KEY = 'd'
/** After it, the letter that does an edit; figures choose what is picked, and how. */
export const EDIT_LETTERS: Readonly<Record<CageEdit['kind'], string>> = {
  move: 'm',
  size: 's',
  turn: 't',
  extrude: 'c',
  loop: 'n',
  bevel: 'v',
  crease: 'r',
  corner: 'o',
  remove: 'k',
  fill: 'f',
  bridge: 'b',
  weld: 'w',
  cut: 'd',
  rotate: 'u',
  dissolve: 'x',
  flat: 'l',
  round: 'i',
  along: 'p',
  relax: 'e',
  finer: 'y',
  lay: 'a',
  thicken: 'h',
  free: 'g',
  rows: 'j',
}

/** Every kind of edit, in the order of the buttons. */
export const EDIT_KINDS: Readonly<Record<Exclude<CageEdit['kind'], 'rows'>, Kind>> = {
  move: {
    label: 'Move',
    help: 'Along x, y and z, and out along the normals.',
    fields: [length('x', 'x'), length('y', 'y'), length('z', 'z'), length('out', 'out'), REACH],
    start: (on) => ({ kind: 'move', on, x: 0, y: 0, z: 0, out: 2, reach: 0 }),
  },
  size: {
    label: 'Size',
    help: 'Larger or smaller by factors along x, y and z.',
    fields: [number('sx', 'x'), number('sy', 'y'), number('sz', 'z'), ABOUT, REACH],
    start: (on) => ({ kind: 'size', on, sx: 0.9, sy: 0.9, sz: 1, about: 'own', reach: 0 }),
  },
  turn: {
    label: 'Turn',
    help: 'By an angle about a line along x, y or z.',
    fields: [{ name: 'angle', label: 'angle', as: 'angle' }, WAY, ABOUT, REACH],
    start: (on) => ({ kind: 'turn', on, angle: '10 deg', way: 'z', about: 'own', reach: 0 }),
  },
  extrude: {
    label: 'Carry out',
    help: 'Faces, or edges at an opening, carried out along their normals, in below 0, and drawn together.',
    fields: [
      length('by', 'by'),
      number('size', 'drawn to'),
      {
        name: 'each',
        label: 'faces beside each other',
        as: 'choice',
        options: [
          { value: 'together', label: 'go together' },
          { value: 'copy', label: 'go copy by copy' },
          { value: 'face', label: 'go one by one' },
        ],
      },
    ],
    start: (on) => ({ kind: 'extrude', on, by: 4, size: 0.8, each: 'together' }),
  },
  loop: {
    label: 'New line',
    help: 'A line of points across the edges that are picked: all along their strips, or over so many faces each way; over none a point on each edge.',
    fields: [
      number('share', 'at a share'),
      {
        name: 'runs',
        label: 'runs',
        as: 'choice',
        options: [
          { value: 'on', label: 'all along' },
          { value: 'over', label: 'over some faces' },
        ],
      },
      { name: 'long', label: 'faces each way', as: 'count', least: 0 },
      FORM,
    ],
    start: (on) => ({ kind: 'loop', on, share: 0.5, runs: 'on', long: 1, form: 'kept' }),
  },
  bevel: {
    label: 'Cut off',
    help: 'Edges become strips, their sides so far from where the edges were.',
    fields: [length('by', 'by'), FORM],
    start: (on) => ({ kind: 'bevel', on, by: 3, form: 'changes' }),
  },
  crease: {
    label: 'Crease',
    help: 'Edges kept sharp: 10 never smooths out, 0 takes it away.',
    fields: [number('sharp', 'sharpness')],
    start: (on) => ({ kind: 'crease', on, sharp: 10 }),
  },
  corner: {
    label: 'Corner',
    help: 'Points the form goes right through.',
    fields: [number('sharp', 'sharpness')],
    start: (on) => ({ kind: 'corner', on, sharp: 10 }),
  },
  remove: {
    label: 'Take out',
    help: 'Faces are taken away.',
    fields: [],
    start: (on) => ({ kind: 'remove', on }),
  },
  fill: {
    label: 'Fill',
    help: 'The hole by what is picked is filled.',
    fields: [
      {
        name: 'how',
        label: 'by',
        as: 'choice',
        options: [
          { value: 'grid', label: 'a grid' },
          { value: 'fan', label: 'a fan about a point' },
          { value: 'shut', label: 'one face' },
        ],
      },
    ],
    start: (on) => ({ kind: 'fill', on, how: 'grid' }),
  },
  bridge: {
    label: 'Bridge',
    help: 'Faces between two holes of as many edges, or two runs of edges at openings.',
    fields: [{ name: 'rows', label: 'rows between', as: 'count', least: 0 }],
    start: (on) => ({ kind: 'bridge', on, rows: 0 }),
  },
  weld: {
    label: 'Weld',
    help: 'Points become one, at their middle.',
    fields: [],
    start: (on) => ({ kind: 'weld', on }),
  },
  cut: {
    label: 'Draw edge',
    help: 'An edge across a face, between two of its points.',
    fields: [FORM],
    start: (on) => ({ kind: 'cut', on, form: 'kept' }),
  },
  rotate: {
    label: 'Turn edge',
    help: 'An edge turned in the two faces beside it, one corner on round them.',
    fields: [
      {
        name: 'way',
        label: 'one corner',
        as: 'choice',
        options: [
          { value: 'on', label: 'on' },
          { value: 'back', label: 'back' },
        ],
      },
    ],
    start: (on) => ({ kind: 'rotate', on, way: 'on' }),
  },
  dissolve: {
    label: 'Rub out',
    help: 'Edges go, the faces beside them become one.',
    fields: [],
    start: (on) => ({ kind: 'dissolve', on }),
  },
  flat: {
    label: 'Flatten',
    help: 'Points go onto a plane square to x, y or z; their own where no place is told.',
    fields: [WAY, { name: 'value', label: 'at', as: 'length', optional: true }],
    start: (on) => ({ kind: 'flat', on, way: 'z' }),
  },
  round: {
    label: 'Make round',
    help: 'Rows go onto circles about their middle.',
    fields: [
      {
        name: 'spread',
        label: 'points',
        as: 'choice',
        options: [
          { value: 'even', label: 'evenly round' },
          { value: 'kept', label: 'where they are' },
        ],
      },
    ],
    start: (on) => ({ kind: 'round', on, spread: 'even' }),
  },
  along: {
    label: 'Onto a path',
    help: 'Points go where the path is nearest, or one line of them evenly along it.',
    fields: [
      { name: 'path', label: 'path', as: 'path' },
      {
        name: 'spread',
        label: 'points',
        as: 'choice',
        options: [
          { value: 'kept', label: 'to the nearest' },
          { value: 'even', label: 'evenly along' },
        ],
      },
    ],
    start: (on, { path }) => ({ kind: 'along', on, path, spread: 'kept' }),
  },
  relax: {
    label: 'Relax',
    help: 'Points half way to the middle of those beside them.',
    fields: [{ name: 'rounds', label: 'times', as: 'count', least: 1 }],
    start: (on) => ({ kind: 'relax', on, rounds: 1 }),
  },
  finer: {
    label: 'Finer',
    help: 'Each face into as many as it has corners; the form stays as it is.',
    fields: [],
    whole: true,
    start: () => ({ kind: 'finer' }),
  },
  lay: {
    label: 'Lay on',
    help: 'Onto a body: what is picked, or all, made finer where that is needed.',
    fields: [
      { name: 'body', label: 'body', as: 'body' },
      {
        name: 'from',
        label: 'first',
        as: 'choice',
        options: [
          { value: 'near', label: 'to the nearest' },
          ...['x', 'y', 'z'].map((value) => ({ value, label: `straight along ${value}` })),
        ],
      },
      length('gap', 'gap'),
      length('within', 'within'),
      length('ball', 'over hollows a ball of this radius misses'),
      { name: 'finer', label: 'finer at most', as: 'count', least: 1 },
    ],
    whole: true,
    start: (on, { body }) => ({
      kind: 'lay',
      on: on.length > 0 ? on : ['all'],
      body,
      from: 'near',
      gap: 0,
      within: 0.05,
      ball: 0,
      finer: 2,
    }),
  },
  thicken: {
    label: 'Thicken',
    help: 'An open cage made a wall, out along its normals or in.',
    fields: [
      length('by', 'by'),
      {
        name: 'side',
        label: 'to',
        as: 'choice',
        options: [
          { value: 'out', label: 'outside' },
          { value: 'in', label: 'inside' },
        ],
      },
    ],
    whole: true,
    start: () => ({ kind: 'thicken', by: 2.5, side: 'out' }),
  },
  free: {
    label: 'Let go',
    help: 'What is picked, with its copies, belongs to no symmetry from here on.',
    fields: [],
    start: (on) => ({ kind: 'free', on }),
  },
}

export const labelOf = (kind: CageEdit['kind']): string =>
  kind === 'rows' ? 'Rows' : (EDIT_KINDS[kind]?.label ?? kind)
