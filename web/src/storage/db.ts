import { checkWorkpiece, type Workpiece } from '@ivory/core/workpiece'
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'

/** A workpiece as kept in the browser. */
export interface Kept {
  id: string
  doc: Workpiece
  /** Raised by every save: a save on top of another revision is refused. */
  revision: number
  changed: number
  /** Earlier states, newest last, at most `HISTORY`. */
  past: Workpiece[]
  thumbnail?: string
  verdict?: string
}
/** What the Shelf shows without loading documents and pasts. */
export interface Card {
  id: string
  name: string
  changed: number
  bytes: number
  thumbnail?: string
  verdict?: string
}

interface Schema extends DBSchema {
  workpieces: { key: string; value: Kept }
  settings: { key: string; value: unknown }
}

export const HISTORY = 50

/** Saving failed, told in a sentence; `conflict` when another tab saved in between. */
export class StorageError extends Error {
  override name = 'StorageError'
  readonly conflict: boolean
  constructor(message: string, conflict = false) {
    super(message)
    this.conflict = conflict
  }
}

let opening: Promise<IDBPDatabase<Schema>> | undefined

function open(): Promise<IDBPDatabase<Schema>> {
  opening ??= openDB<Schema>('ivory-lathe', 1, {
    upgrade(db) {
      db.createObjectStore('workpieces', { keyPath: 'id' })
      db.createObjectStore('settings')
    },
  }).catch((e) => {
    opening = undefined
    throw told(e)
  })
  return opening
}

/** Why the browser did not store, in a sentence. */
export function told(e: unknown): StorageError {
  if (e instanceof StorageError) return e
  const name = e instanceof DOMException ? e.name : ''
  if (name === 'QuotaExceededError') {
    return new StorageError(
      'The browser’s storage is full. Export the workpiece to keep it, then delete others.',
    )
  }
  return new StorageError(
    'The browser does not let this page store anything (private mode?). Export the workpiece to keep it.',
  )
}

async function guarded<T>(work: (db: IDBPDatabase<Schema>) => Promise<T>): Promise<T> {
  try {
    return await work(await open())
  } catch (e) {
    throw told(e)
  }
}

export const listCards = (): Promise<Card[]> =>
  guarded(async (db) => {
    const cards = (await db.getAll('workpieces')).map(
      (k): Card => ({
        id: k.id,
        name: k.doc.name,
        changed: k.changed,
        bytes: JSON.stringify(k.doc).length,
        ...(k.thumbnail ? { thumbnail: k.thumbnail } : {}),
        ...(k.verdict ? { verdict: k.verdict } : {}),
      }),
    )
    return cards.sort((a, b) => b.changed - a.changed)
  })

/** The kept workpiece, checked; a sentence when it is missing or unreadable. */
export const load = (id: string): Promise<Kept | string> =>
  guarded(async (db) => {
    const kept = await db.get('workpieces', id)
    if (!kept) return 'This workpiece is not on this browser’s shelf.'
    const doc = checkWorkpiece(kept.doc)
    if (!doc.ok) return doc.diagnosis.message
    const { files } = doc.value
    const past = files ? kept.past.map((p) => ({ ...p, files })) : kept.past
    return { ...kept, doc: doc.value, past }
  })

/** Saves on top of `base` (the revision it was loaded or last saved at) and returns the new revision. */
export const save = (
  doc: Workpiece,
  past: readonly Workpiece[],
  base: number,
  extra: { thumbnail?: string | undefined; verdict?: string | undefined } = {},
): Promise<number> =>
  guarded(async (db) => {
    const tx = db.transaction('workpieces', 'readwrite')
    const there = await tx.store.get(doc.id)
    if (there && there.revision !== base) {
      await tx.done
      throw new StorageError('Another tab has changed this workpiece.', true)
    }
    const revision = base + 1
    const thumbnail = extra.thumbnail ?? there?.thumbnail
    const verdict = extra.verdict ?? there?.verdict
    await tx.store.put({
      id: doc.id,
      doc,
      revision,
      // A new picture of the same document is no change.
      changed:
        there && JSON.stringify(there.doc) === JSON.stringify(doc) ? there.changed : Date.now(),
      // Files never change, so earlier states borrow them from the newest.
      past: past.slice(-HISTORY).map(({ files: _files, ...rest }) => rest),
      ...(thumbnail ? { thumbnail } : {}),
      ...(verdict ? { verdict } : {}),
    })
    await tx.done
    return revision
  })

/** Puts a picture (and the word of its gauges) on a card; the workpiece itself stays as it is. */
export const savePicture = (
  id: string,
  made: { thumbnail?: string; verdict?: string },
): Promise<void> =>
  guarded(async (db) => {
    const tx = db.transaction('workpieces', 'readwrite')
    const there = await tx.store.get(id)
    if (there) await tx.store.put({ ...there, ...made })
    await tx.done
  })

export const remove = (id: string): Promise<Kept | undefined> =>
  guarded(async (db) => {
    const kept = await db.get('workpieces', id)
    await db.delete('workpieces', id)
    return kept
  })

export const putBack = (kept: Kept): Promise<unknown> => guarded((db) => db.put('workpieces', kept))

export const getSetting = (key: string): Promise<unknown> =>
  guarded((db) => db.get('settings', key))
export const setSetting = (key: string, value: unknown): Promise<unknown> =>
  guarded((db) => db.put('settings', value, key))
