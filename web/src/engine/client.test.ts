import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { EngineError, WorkerClient } from './client'
import type { Request, Response } from './protocol'

/** A worker whose answers are given by hand. */
class Puppet {
  onmessage: ((e: { data: Response }) => void) | null = null
  onerror: ((e: { message: string }) => void) | null = null
  readonly asked: Request[] = []
  ended = false
  postMessage(r: Request) {
    this.asked.push(r)
  }
  terminate() {
    this.ended = true
  }
  say(data: Response) {
    this.onmessage?.({ data })
  }
}

const made: Puppet[] = []
const client = () => {
  made.length = 0
  return new WorkerClient(() => {
    const p = new Puppet()
    made.push(p)
    return p as unknown as Worker
  })
}
const ask = { doc: {} as never, op: 'o', input: 'radius' }
const last = () => made[made.length - 1]!

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

describe('calls to a worker', () => {
  it('each reply finds its call, in whatever order they come', async () => {
    const c = client()
    const counts: number[] = []
    c.onCount = (n) => counts.push(n)
    const [a, b] = [c.call('range', ask), c.call('range', ask)]
    expect(made).toHaveLength(1)
    const [first, second] = last().asked
    last().say({ id: second!.id, is: 'done', reply: 'two' })
    last().say({ id: first!.id, is: 'done', reply: 'one' })
    expect(await Promise.all([a, b])).toEqual(['one', 'two'])
    expect(counts).toEqual([1, 2, 1, 0])
  })
  it('progress comes before the reply and ends no call', async () => {
    const c = client()
    const seen: unknown[] = []
    const reply = c.call('rebuild', {} as never, { progress: (r) => seen.push(r.number) })
    const { id } = last().asked[0]!
    for (const number of [10, 20]) last().say({ id, is: 'progress', report: { number } as never })
    last().say({ id, is: 'done', reply: 'view' })
    expect(await reply).toBe('view')
    expect(seen).toEqual([10, 20])
  })
  it('a call that is left fails, the worker is told, and a late reply finds nobody', async () => {
    const c = client()
    const leaving = new AbortController()
    const left = c.call('range', ask, { signal: leaving.signal })
    const kept = c.call('range', ask)
    const [a, b] = last().asked
    leaving.abort()
    await expect(left).rejects.toThrow('Nobody waits')
    expect(last().asked[2]).toEqual({ leave: a!.id })
    last().say({ id: a!.id, is: 'done', reply: 'late' })
    last().say({ id: b!.id, is: 'done', reply: 'there' })
    expect(await kept).toBe('there')
  })
  it('what breaks in the worker is an error with its message, and the worker serves on', async () => {
    const c = client()
    const bad = c.call('range', ask)
    last().say({ id: last().asked[0]!.id, is: 'broken', message: 'it tore' })
    await expect(bad).rejects.toThrow(new EngineError('it tore'))
    const good = c.call('range', ask)
    last().say({ id: last().asked[1]!.id, is: 'done', reply: 1 })
    expect(await good).toBe(1)
    expect(made).toHaveLength(1)
  })
  it('stopping fails all that is under way and starts a new worker for the next call', async () => {
    const c = client()
    const pair = [c.call('range', ask), c.call('range', ask)]
    c.stop('Stopped as asked.')
    for (const p of pair) await expect(p).rejects.toThrow('Stopped as asked.')
    expect(last().ended).toBe(true)
    const late = last()
    const next = c.call('range', ask)
    expect(made).toHaveLength(2)
    // An answer of the old worker reaches nobody.
    late.say({ id: 1, is: 'done', reply: 'old' })
    last().say({ id: last().asked[0]!.id, is: 'done', reply: 'new' })
    expect(await next).toBe('new')
  })
  it('a call over its time ends the worker and says how long it had', async () => {
    const c = client()
    const slow = c.call('range', ask, { budget: 5000 })
    const said = expect(slow).rejects.toThrow('It took longer than 5 s and was stopped.')
    vi.advanceTimersByTime(5001)
    await said
    expect(last().ended).toBe(true)
  })
  it('a call in time is not ended later', async () => {
    const c = client()
    const quick = c.call('range', ask, { budget: 5000 })
    last().say({ id: last().asked[0]!.id, is: 'done', reply: 1 })
    await quick
    vi.advanceTimersByTime(10_000)
    expect(last().ended).toBe(false)
  })
  it('a worker that dies fails its calls with the reason', async () => {
    const c = client()
    const call = c.call('range', ask)
    last().onerror!({ message: 'out of memory' })
    await expect(call).rejects.toThrow(/broke down: out of memory/)
  })
})
