import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, gauged } from './exactroute.test-data'

const label = async (route: Op[], body: string, params: Record<string, number> = {}) =>
  (await gauged(route, [{ kind: 'label', body, params }]))[0]!
const level = (z: number, id: string, number: number, drawn: (plane: string) => Op): Op[] => [
  op(number, 'plane', `at${id}`, { how: 'offset', from: 'top', offset: z }),
  { ...drawn(`at${id}`), id },
]
const ring = (r: number, number: number) => (plane: string) =>
  circles(number, 'ring', plane, [[0, 0, r]])
const lofted = (sections: string[]) =>
  op(90, 'loft', 'body', {
    sections: sections.map((profile) => ({ profile })),
    run: 'ruled',
    mode: 'new',
  })

describe('labels that lie on a body', () => {
  it('on a post: all of its round by its height; beside a hole what is left', async () => {
    const post = [
      circles(10, 'ring', 'top', [[0, 0, 20]]),
      op(20, 'extrude', 'post', { profile: 'ring', mode: 'new', length: 64 }),
    ]
    const read = (await label(post, 'post')).reading!
    expect(read.low / (2 * Math.PI * 20 * 64)).toBeCloseTo(1, 6)
    expect(read.text).toBe('125.7 x 64.0 mm')
    const holed = [
      ...post,
      circles(30, 'eye', 'side', [[0, 10, 4]]),
      op(40, 'extrude', 'hole', {
        profile: 'eye',
        body: 'post',
        mode: 'cut',
        length: 40,
      }),
    ]
    // The holes reach up to 14; two millimetres are a line of the 32.
    expect((await label(holed, 'post')).reading!.text).toBe('125.7 x 50.0 mm')
  })
  it('on a cone: both rims by its slant side', async () => {
    const cone = [
      ...level(0, 'low', 10, ring(30, 11)),
      ...level(80, 'high', 20, ring(18, 21)),
      lofted(['low', 'high']),
    ]
    const read = (await label(cone, 'body')).reading!
    const side = Math.hypot(80, 12)
    expect(read.low / (Math.PI * 48 * side)).toBeCloseTo(1, 5)
    expect(read.text).toBe('113.1 to 188.5 x 80.9 mm, a piece of a ring')
    for (const { at } of read.rows) for (const x of at!) expect(x).not.toBeNaN()
  })
  it('on a twisted ruled side not all of it, and the more the softer it is', async () => {
    const square = (turn: number, number: number) => (plane: string) =>
      outline(
        number,
        'ring',
        plane,
        [45, 135, 225, 315].map((a) => {
          const t = ((a + turn) * Math.PI) / 180
          return [40 * Math.cos(t), 40 * Math.sin(t)] as [number, number]
        }),
      )
    const twisted = [
      ...level(0, 'low', 10, square(0, 11)),
      ...level(50, 'high', 20, square(30, 21)),
      lofted(['low', 'high']),
    ]
    const stiff = (await label(twisted, 'body')).reading!
    const soft = (await label(twisted, 'body', { stretch: 2 })).reading!
    const none = (await label(twisted, 'body', { stretch: 0 })).reading!
    expect(stiff.text).toMatch(/ in its middle, .*stretches -0\.\d\d to 0\.\d\d %$/)
    expect(soft.low).toBeGreaterThan(1.5 * stiff.low)
    expect([none.text, none.low]).toEqual(['none', 0])
    expect(none.places.length).toBeGreaterThan(0)
    for (const { at } of none.places) for (const x of at) expect(x).not.toBeNaN()
  })
  it('on flat faces any, which is told', async () => {
    expect((await label([base, block], 'block')).why).toMatch(/flat/)
  })
})
