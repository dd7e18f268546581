import { describe, expect, it } from 'vitest'
import {
  emptyWorkpiece,
  evaluateExpression,
  insertOp,
  readWorkpiece,
  workOut,
  writeWorkpiece,
} from '.'

const mm = (text: string) => workOut([], 'mm').read(text, 'length')

describe('values', () => {
  // Row M2: exact arithmetic.
  it.each([
    ['1/64 in', 0.396875],
    ['1/16"', 1.5875],
    ['27/64 in', 10.715625],
    ['1-1/2"', 38.1],
    ['3 3/8 in', 85.725],
    ['-3/4"', -19.05],
    [`5'7 1/2"`, 1714.5],
    ['3.25"', 82.55],
    ['12,5 mm', 12.5],
    ['2 * (3 cm + 4 mm)', 68],
    ['sqrt(9 mm * 4 mm)', 6],
    ['12 floz / (1000 mm^2)', 354.88235475],
  ])('%s', (text, want) => expect(mm(text)).toBeCloseTo(want, 9))

  it('angles are rad inside, plain numbers degrees', () => {
    const t = workOut([], 'mm')
    expect(t.read('40 deg', 'angle')).toBeCloseTo((40 * Math.PI) / 180, 14)
    expect(t.read('40', 'angle')).toBeCloseTo((40 * Math.PI) / 180, 14)
    expect(t.read(40, 'angle')).toBeCloseTo((40 * Math.PI) / 180, 14)
  })
  it('a plain number is in the unit of the workpiece', () => {
    expect(workOut([], 'in').read('2', 'length')).toBeCloseTo(50.8, 12)
  })
  it.each([
    ['3 mm + 4 deg', /a length and an angle cannot be added/],
    ['40 deg', /an angle; a length is wanted/],
    ['constructor', /no figure named "constructor"/],
    ['toString()', /no function/],
    ['a = 3', /Only numbers/],
    ['[1,2]', /Only numbers|cannot be read/],
    ['9^9^9', /up to 8/],
    ['1/0 mm', /Division by zero/],
    [`${'('.repeat(60)}1${')'.repeat(60)}`, /nested too deeply/],
    ['1'.repeat(600), /longer than/],
    ['', /empty/],
    ['3 +', /cannot be read/],
    ['1e400', /too large/],
  ])('refuses %s', (text, why) => expect(() => mm(text)).toThrow(why))
})

describe('figures', () => {
  it('are worked out in dependency order whatever order they stand in', () => {
    const t = workOut(
      [
        { name: 'belly', expr: 'neck * 2.1' },
        { name: 'neck', expr: '28 mm' },
      ],
      'mm',
    )
    expect(t.read('belly / 2', 'length')).toBeCloseTo(29.4, 12)
  })
  it('name the circle they go round in, and what hangs on it', () => {
    const t = workOut(
      [
        { name: 'a', expr: 'b + 1 mm' },
        { name: 'b', expr: 'c' },
        { name: 'c', expr: 'a' },
        { name: 'd', expr: '2 mm' },
      ],
      'mm',
    )
    expect(t.values[0]!.error).toMatch(/a needs b needs c needs a/)
    expect(t.values[1]!.error).toMatch(/"a" has no value/)
    expect(t.read('d', 'length')).toBe(2)
    expect(() => t.read('a', 'length')).toThrow(/no value/)
  })
  it('tell the reader which figures a value uses', () => {
    const seen: string[] = []
    const t = workOut(
      [
        { name: 'n', expr: '3 mm' },
        { name: 'k', expr: 'n' },
      ],
      'mm',
    )
    t.read('k + 1 mm', 'length', (name) => seen.push(name))
    expect(seen).toEqual(['k'])
    expect(evaluateExpression('2', () => undefined).value).toBe(2)
  })
})

describe('the file', () => {
  const w = emptyWorkpiece('w1', 'Cup')
  it('reads what it writes', () => {
    const back = readWorkpiece(writeWorkpiece(w))
    expect(back.ok && back.value).toEqual(w)
  })
  it.each([
    ['{', /not valid JSON/],
    ['[]', /lacks "format"/],
    ['{"format":"ivory-lathe"}', /does not say its version/],
    ['{"format":"ivory-lathe","version":99}', /version 99/],
    ['{"format":"ivory-lathe","version":1}', /cannot be read: id is missing/],
    [writeWorkpiece({ ...w, figures: [{ name: 'mm', expr: '1' }] }), /unit or a function/],
    [
      writeWorkpiece({
        ...w,
        figures: [
          { name: 'a', expr: '1' },
          { name: 'a', expr: '2' },
        ],
      }),
      /there twice/,
    ],
  ])('refuses %s in one sentence', (text, why) => {
    const r = readWorkpiece(text)
    expect(r.ok).toBe(false)
    if (!r.ok) {
      expect(r.diagnosis.message).toMatch(why)
      expect(r.diagnosis.message).not.toMatch(/\n/)
    }
  })
})

describe('the route', () => {
  const op = (id: string) => ({ id, kind: 'profile', name: id, inputs: {} })
  it('numbers by tens and slips an op in between', () => {
    let r = insertOp([], -1, op('a'))
    r = insertOp(r, 0, op('b'))
    r = insertOp(r, 0, op('c'))
    expect(r.map((o) => [o.id, o.number])).toEqual([
      ['a', 10],
      ['c', 15],
      ['b', 20],
    ])
  })
  it('renumbers when no number is left between', () => {
    let r = insertOp([], -1, op('a'))
    r = insertOp(r, 0, op('b'))
    for (let i = 0; i < 6; i++) r = insertOp(r, 0, op(`x${i}`))
    const n = r.map((o) => o.number)
    expect(n).toEqual([...n].sort((x, y) => x - y))
    expect(new Set(n).size).toBe(8)
  })
})
