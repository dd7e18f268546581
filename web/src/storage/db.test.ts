import 'fake-indexeddb/auto'
import { emptyWorkpiece, type Workpiece } from '@ivory/core/workpiece'
import { IDBFactory } from 'fake-indexeddb'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { getSetting, HISTORY, listCards, load, putBack, remove, save, setSetting } from './db'

let serial = 0
/** A workpiece nobody else in these tests uses. */
const fresh = (name = 'Cup'): Workpiece => emptyWorkpiece(`w${++serial}`, name)

describe('the shelf in the browser', () => {
  it('gives back what was saved, with its past', async () => {
    const doc = fresh()
    const past = [
      { ...doc, name: 'First' },
      { ...doc, name: 'Second' },
    ]
    expect(await save(doc, past, 0, { verdict: 'brief holds' })).toBe(1)
    const kept = await load(doc.id)
    if (typeof kept === 'string') throw new Error(kept)
    expect(kept).toMatchObject({ doc, revision: 1, verdict: 'brief holds' })
    expect(kept.past.map((p) => p.name)).toEqual(['First', 'Second'])
  })
  it('keeps only so much of the past, the newest', async () => {
    const doc = fresh()
    const past = Array.from({ length: HISTORY + 7 }, (_, i) => ({ ...doc, name: `state ${i}` }))
    await save(doc, past, 0)
    const kept = await load(doc.id)
    if (typeof kept === 'string') throw new Error(kept)
    expect(kept.past).toHaveLength(HISTORY)
    expect(kept.past.at(-1)!.name).toBe(`state ${HISTORY + 6}`)
  })
  it('files are kept once, however long the past', async () => {
    const files = { f1: { name: 'a.jpg', type: 'image/jpeg', data: 'AAAA' } }
    const doc = { ...fresh(), files } as unknown as Workpiece
    await save(doc, [doc, doc, doc], 0)
    const raw = (await remove(doc.id))!
    expect(raw.past.every((p) => p.files === undefined)).toBe(true)
    expect(raw.doc.files).toEqual(files)
  })
  it('refuses to save over what another tab saved, and keeps that', async () => {
    const doc = fresh()
    const first = await save(doc, [], 0)
    const mine = save({ ...doc, name: 'Mine' }, [], first)
    await expect(mine).resolves.toBe(2)
    const theirs = save({ ...doc, name: 'Theirs' }, [], first)
    await expect(theirs).rejects.toMatchObject({ conflict: true })
    await expect(theirs).rejects.toThrow('Another tab has changed this workpiece.')
    expect(await load(doc.id)).toMatchObject({ doc: { name: 'Mine' }, revision: 2 })
  })
  it('a new picture of the same document is no change; a new name is', async () => {
    const doc = fresh()
    const clock = vi.spyOn(Date, 'now').mockReturnValue(1000)
    const r1 = await save(doc, [], 0)
    clock.mockReturnValue(2000)
    const r2 = await save(doc, [], r1, { thumbnail: 'data:,x' })
    expect(await load(doc.id)).toMatchObject({ changed: 1000, thumbnail: 'data:,x' })
    await save({ ...doc, name: 'Mug' }, [], r2)
    // The picture stays until there is another.
    expect(await load(doc.id)).toMatchObject({ changed: 2000, thumbnail: 'data:,x' })
    clock.mockRestore()
  })
  it('lists the newest first, each with its size', async () => {
    const clock = vi.spyOn(Date, 'now')
    const docs = [fresh('Old'), fresh('New')]
    for (const [i, doc] of docs.entries()) {
      clock.mockReturnValue(1e12 + i)
      await save(doc, [], 0)
    }
    clock.mockRestore()
    const cards = (await listCards()).filter((c) => docs.some((d) => d.id === c.id))
    expect(cards.map((c) => c.name)).toEqual(['New', 'Old'])
    expect(cards[0]!.bytes).toBe(JSON.stringify(docs[1]).length)
  })
  it('what is deleted can be put back as it was', async () => {
    const doc = fresh()
    await save(doc, [], 0)
    const kept = await remove(doc.id)
    expect(await load(doc.id)).toBe('This workpiece is not on this browser’s shelf.')
    await putBack(kept!)
    expect(await load(doc.id)).toEqual(kept)
  })
  it('a kept document that no longer reads is refused in a sentence', async () => {
    const doc = fresh()
    await save({ ...doc, route: [{ id: '1 2 3' }] } as unknown as Workpiece, [], 0)
    const said = await load(doc.id)
    expect(typeof said).toBe('string')
    expect(said).toMatch(/route/)
  })
  it('settings are kept by name', async () => {
    expect(await getSetting('seen')).toBeUndefined()
    await setSetting('seen', true)
    expect(await getSetting('seen')).toBe(true)
  })
})

describe('a browser that stores nothing', () => {
  afterEach(() => {
    vi.resetModules()
    vi.stubGlobal('indexedDB', new IDBFactory())
  })
  it.each([
    ['SecurityError', /does not let this page store anything/],
    ['QuotaExceededError', /storage is full/],
  ])('%s is told with what to do', async (name, word) => {
    vi.resetModules()
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new DOMException('no', name)
      },
    })
    const db = await import('./db')
    await expect(db.listCards()).rejects.toThrow(word)
    await expect(db.save(fresh(), [], 0)).rejects.toThrow(/Export the workpiece/)
  })
})
