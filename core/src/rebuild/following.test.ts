import { describe, expect, it } from 'vitest'
import { built } from './exactroute.test-data'
import { FAMILIES, type Followed, follow } from './following.test-data'

// Where references go when one number of a route changes, against small steps as the truth. No outside source: it is its own measure.

describe('a reference follows what it means, or asks', () => {
  const all: Followed[] = []
  it.each(FAMILIES)('$name', async (family) => {
    const told = await follow(family, (w) => built(w), 8)
    expect(told.wrong).toEqual([])
    expect(told.tried).toBeGreaterThan(100)
    all.push(told)
  })
  it('all of them together: many, most of them one of several, and few questions', () => {
    const sum = (of: (f: Followed) => number) => all.reduce((n, f) => n + of(f), 0)
    expect(all).toHaveLength(FAMILIES.length)
    expect(sum((f) => f.tried)).toBeGreaterThan(10_000)
    expect(sum((f) => f.several)).toBeGreaterThan(3_000)
    expect(sum((f) => f.asked) / sum((f) => f.tried)).toBeLessThan(0.03)
  })
})
