import { describe, expect, test } from 'vitest'
import { checkWorkpiece, emptyWorkpiece, neededBy, renewed, taken, usedBy, usersOf } from '.'
import { op } from './samples.test-data'

const cup = {
  ...emptyWorkpiece('cup', 'Cup'),
  figures: [
    { name: 'wide', expr: '40 mm' },
    { name: 'high', expr: 'wide * 2' },
    { name: 'idle', expr: '1 mm' },
    { name: 'wall', expr: '3 mm' },
  ],
  route: [
    op(10, 'profile', 'outline', {
      plane: 'front',
      drawing: {
        points: { turn: { x: 'wide / 2', y: 'high' } },
        entities: [{ id: 'side', kind: 'line', a: 'turn', b: 'hollow' }],
      },
    }),
    op(20, 'revolve', 'turn', { profile: 'outline', turn: '360 deg' }),
    op(30, 'shell', 'hollow', {
      body: 'turn',
      wall: 'wall',
      open: [{ face: 'turn:l1', at: [0, 0], index: 0, of: 1 }],
    }),
    op(40, 'fillet', 'round', {
      body: 'turn',
      radius: 1,
      edges: [{ edge: ['turn:l1', 'hollow:in(turn:l2|turn:l3)'], at: [0, 0], index: 0, of: 1 }],
    }),
  ],
  bodies: { turn: { name: 'Cup', color: '#d9d2c0' } },
}

describe('what ops need of each other', () => {
  test('what an op uses, and what uses it, by ids and by names of faces', () => {
    expect(usedBy(cup, 'round')).toEqual(['turn', 'hollow'])
    expect(usersOf(cup, 'turn')).toEqual(['hollow', 'round'])
    expect(usersOf(cup, 'outline')).toEqual(['turn'])
    expect(usersOf(cup, 'round')).toEqual([])
  })
  test('all that one needs to stand, with its figures', () => {
    expect(neededBy(cup, ['hollow'])).toEqual({
      ops: ['outline', 'turn', 'hollow'],
      figures: ['wide', 'high', 'wall'],
    })
    expect(neededBy(cup, ['gone'])).toEqual({ ops: [], figures: [] })
  })
})

describe('ops taken once more, or from another workpiece', () => {
  test('an op again: after it, under an id of its own, on the same body', () => {
    const { doc, ids } = taken(cup, cup, ['round'], 3)
    expect(doc.route.map((o) => o.id)).toEqual(['outline', 'turn', 'hollow', 'round', ids[0]])
    expect(doc.route[4]!.inputs).toEqual(cup.route[3]!.inputs)
    expect(doc.route[4]!.name).toContain('again')
    expect(checkWorkpiece(doc).ok).toBe(true)
  })
  test('a run again names its own: profile, body and faces; what is drawn in it stays', () => {
    const { doc, ids } = taken(cup, cup, ['outline', 'turn', 'hollow', 'round'], 3)
    const [side, turn, hollow, round] = ids as [string, string, string, string]
    const of = (id: string) =>
      doc.route.find((o) => o.id === id)!.inputs as never as Record<string, never>
    expect(of(turn).profile).toBe(side)
    expect(of(hollow).body).toBe(turn)
    expect((of(hollow).open as { face: string }[])[0]!.face).toBe(`${turn}:l1`)
    expect((of(round).edges as { edge: string[] }[])[0]!.edge).toEqual([
      `${turn}:l1`,
      `${hollow}:in(${turn}:l2|${turn}:l3)`,
    ])
    // Points of a drawing may be called like ops.
    expect(of(side).drawing).toEqual(cup.route[0]!.inputs.drawing)
    expect(doc.bodies[turn]).toEqual({ name: 'Cup, again', color: '#d9d2c0' })
    expect(new Set(doc.route.map((o) => o.id)).size).toBe(8)
  })
  test('from another: figures come along, one that means something else gets another name', () => {
    const into = {
      ...emptyWorkpiece('jug', 'Jug'),
      figures: [
        { name: 'wide', expr: '40 mm' },
        { name: 'wall', expr: '5 mm' },
      ],
      route: [op(10, 'profile', 'turn', {})],
    }
    const { doc, ids } = taken(into, cup, neededBy(cup, ['hollow']).ops, 0)
    expect(doc.figures.map((f) => [f.name, f.expr])).toEqual([
      ['wide', '40 mm'],
      ['wall', '5 mm'],
      ['high', 'wide * 2'],
      [expect.stringMatching(/^wall_\d+$/), '3 mm'],
    ])
    expect(ids[0]).toBe('outline')
    expect(ids[1]).not.toBe('turn')
    expect(doc.route.at(-1)!.inputs.wall).toBe(doc.figures.at(-1)!.name)
    expect(doc.bodies[ids[1]!]).toEqual(cup.bodies.turn)
    expect(checkWorkpiece(doc).ok).toBe(true)
  })
  test('files that ops name come along, others stay', () => {
    const file = { name: 'a.step', data: 'AAAA' }
    const from = {
      ...emptyWorkpiece('lid', 'Lid'),
      files: { 'file-a': file, 'file-b': file },
      route: [op(10, 'import', 'lid', { file: 'file-a' })],
    }
    expect(Object.keys(taken(cup, from, ['lid'], 3).doc.files!)).toEqual(['file-a'])
  })
  test('a figure that reads the same but is worked out from others is another one', () => {
    const into = {
      ...emptyWorkpiece('jug', 'Jug'),
      figures: [
        { name: 'wide', expr: '90 mm' },
        { name: 'high', expr: 'wide * 2' },
      ],
    }
    const { doc } = taken(into, cup, neededBy(cup, ['outline']).ops, -1)
    const [, , wide, high] = doc.figures
    expect([wide!.expr, high!.expr]).toEqual(['40 mm', `${wide!.name} * 2`])
    expect(JSON.stringify(doc.route[0]!.inputs)).toContain(`"${high!.name}"`)
  })
})

describe('ops that stay linked to where they come from', () => {
  const into = {
    ...emptyWorkpiece('jug', 'Jug'),
    figures: [{ name: 'wall', expr: '5 mm' }],
    route: [op(10, 'profile', 'turn', {})],
  }
  const { doc, ties } = taken(into, cup, neededBy(cup, ['hollow']).ops, 0)
  const mine = (theirs: string) => Object.keys(ties.ops).find((m) => ties.ops[m] === theirs)!
  const changedCup = (change: object) => ({
    ...cup,
    figures: cup.figures.map((f) => (f.name === 'wall' ? { ...f, expr: 'wide / 10' } : f)),
    route: cup.route.map((o) =>
      o.id === 'hollow' ? { ...o, inputs: { ...o.inputs, ...change } } : o,
    ),
  })
  test('are as the newer state has them, under their own names; all else stays', () => {
    const now = renewed(doc, changedCup({ wall: 'wall * 2' }), ties)
    if (typeof now === 'string') throw new Error(now)
    const wall = now.figures.find((f) => f.name.startsWith('wall_'))!
    expect(wall.expr).toBe('wide / 10')
    const hollow = now.route.find((o) => o.id === mine('hollow'))!
    expect(hollow.inputs).toMatchObject({ body: mine('turn'), wall: `${wall.name} * 2` })
    expect(now.route[0]).toEqual(into.route[0])
    expect(now.figures[0]).toEqual(into.figures[0])
    expect(checkWorkpiece(now).ok).toBe(true)
  })
  test('what it needs beyond what was taken over is named', () => {
    expect(renewed(doc, changedCup({ wall: 'idle' }), ties)).toContain('idle')
    expect(renewed(doc, changedCup({ body: 'round' }), ties)).toContain('round')
  })
})
