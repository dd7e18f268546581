import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { bodiesBeside, differencesOf, emptyWorkpiece, type KeptReading, readingsBeside } from '.'
import { op } from './samples.test-data'

const piece = (change: object = {}) => ({
  ...emptyWorkpiece('w', 'W'),
  figures: [
    { name: 'wide', expr: '40 mm' },
    { name: 'high', expr: 'wide * 2' },
  ],
  route: [
    op(10, 'profile', 'side', { plane: 'front' }),
    op(20, 'revolve', 'turn', { profile: 'side', turn: '360 deg' }),
    op(30, 'shell', 'hollow', { body: 'turn', wall: 3 }),
  ],
  ...change,
})

describe('what differs between two states of a workpiece', () => {
  test('nothing, between a workpiece and its copy', () => {
    expect(differencesOf(piece(), structuredClone(piece()))).toEqual({
      figures: [],
      ops: [],
      brief: [],
    })
  })
  test('figures changed, new and gone', () => {
    const now = piece({
      figures: [
        { name: 'wide', expr: '42 mm' },
        { name: 'neck', expr: '9 mm' },
      ],
    })
    expect(differencesOf(piece(), now).figures).toEqual([
      { name: 'wide', was: '40 mm', now: '42 mm' },
      { name: 'high', was: 'wide * 2', now: '' },
      { name: 'neck', was: '', now: '9 mm' },
    ])
  })
  test('ops changed, new, gone and moved; each input by its name', () => {
    const { route } = piece()
    const now = piece({
      route: [
        route[1],
        route[0],
        { ...route[2], suppressed: true, inputs: { body: 'turn', wall: 2.5 } },
        op(40, 'fillet', 'round', { radius: 1 }),
      ],
    })
    const { ops } = differencesOf(piece(), now)
    expect(ops.map((o) => [o.id, o.how])).toEqual([
      // Of two that changed places one is told.
      [expect.stringMatching(/side|turn/), 'moved'],
      ['hollow', 'changed'],
      ['round', 'added'],
    ])
    expect(ops[1]!.inputs).toEqual([
      { name: 'left out', was: 'false', now: 'true' },
      { name: 'wall', was: '3', now: '2.5' },
    ])
    expect(
      differencesOf(now, piece())
        .ops.map((o) => o.how)
        .sort(),
    ).toEqual(['changed', 'gone', 'moved'])
  })
  test('long values are cut, targets of the brief told one by one', () => {
    const now = piece({
      brief: { purpose: 'x'.repeat(500), targets: { capacity: { min: 300 } } },
    })
    const { brief } = differencesOf(piece(), now)
    expect(brief.map((b) => b.name)).toEqual(['purpose', 'targets capacity min'])
    expect(brief[0]!.now).toHaveLength(60)
  })
  test('any order of ops: as many are told as have to be moved, and none that were not', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([0, 1, 2, 3, 4, 5, 6], { minLength: 7 }), (order) => {
        const route = order.map((_, k) => op(10 * (k + 1), 'profile', `p${k}`, {}))
        const moved = differencesOf(
          piece({ route }),
          piece({ route: order.map((k) => route[k]!) }),
        ).ops
        const still = order.filter((k) => !moved.some((o) => o.id === `p${k}`))
        expect(still).toEqual([...still].sort((a, b) => a - b))
        if (order.every((k, i) => k === i)) expect(moved).toEqual([])
      }),
    )
  })
})

describe('readings and bodies side by side', () => {
  const reading = (gauge: string, value: number | null, verdict = 'holds'): KeptReading => ({
    gauge,
    kind: 'wall',
    label: 'Wall',
    body: 'Cup',
    value,
    text: value === null ? '–' : `${value} mm`,
    verdict,
  })
  test('how much more each reads; new, gone and unread ones too', () => {
    const beside = readingsBeside(
      [reading('a', 2), reading('b', 5, 'out'), reading('c', 1)],
      [reading('b', 5.5), reading('a', null), reading('d', 7)],
    )
    expect(beside.map((r) => [r.was, r.now, r.more])).toEqual([
      ['5 mm', '5.5 mm', 0.5],
      ['2 mm', '–', null],
      ['', '7 mm', null],
      ['1 mm', '', null],
    ])
    expect(beside[0]!.verdicts).toEqual(['out', 'holds'])
  })
  test('bodies by their ids, whatever they are called', () => {
    const body = (id: string, name: string, volume: number) => ({
      id,
      name,
      volume,
      size: [1, 1, 1] as [number, number, number],
    })
    expect(
      bodiesBeside([body('a', 'Cup', 100), body('b', 'Lid', 50)], [body('a', 'Beaker', 120)]),
    ).toEqual([
      { name: 'Beaker', was: 100, now: 120 },
      { name: 'Lid', was: 50, now: null },
    ])
  })
})
