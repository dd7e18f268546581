import { type ExactPart, jobKey, type KernelJob } from '@ivory/core/exact'
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'

/** What the exact kernel made of a job, kept so that a reload shows it at once. */
interface KeptParts {
  key: string
  parts: ExactPart[]
  bytes: number
  used: number
}
interface Schema extends DBSchema {
  parts: { key: string; value: KeptParts; indexes: { used: number } }
}

/** What is kept at most, bytes; the longest unused go first. */
const MOST = 150 * 1024 * 1024

let opening: Promise<IDBPDatabase<Schema> | null> | undefined

/** Null where the browser keeps nothing: parts are then made anew. */
function open(): Promise<IDBPDatabase<Schema> | null> {
  opening ??= openDB<Schema>('ivory-lathe-parts', 1, {
    upgrade(db) {
      db.createObjectStore('parts', { keyPath: 'key' }).createIndex('used', 'used')
    },
  }).catch(() => null)
  return opening
}

export async function keptParts(job: KernelJob): Promise<ExactPart[] | null> {
  const db = await open()
  const kept = await db?.get('parts', jobKey(job)).catch(() => undefined)
  if (!db || !kept) return null
  void db.put('parts', { ...kept, used: Date.now() }).catch(() => undefined)
  return kept.parts
}

export async function keepParts(job: KernelJob, parts: ExactPart[]): Promise<void> {
  const db = await open()
  if (!db) return
  const bytes = parts.reduce((sum, p) => sum + sizeOf(p), 0)
  try {
    await db.put('parts', { key: jobKey(job), parts, bytes, used: Date.now() })
    await trim(db)
  } catch {
    // A full store keeps no parts; the work goes on without.
  }
}

const sizeOf = ({ shown, mesh, faces, edges, form }: ExactPart): number =>
  [...Object.values(shown), ...Object.values(mesh), ...Object.values(form?.skin ?? {})].reduce(
    (sum, a) => sum + a.byteLength,
    0,
  ) +
  200 * (faces.length + edges.length)

async function trim(db: IDBPDatabase<Schema>): Promise<void> {
  const tx = db.transaction('parts', 'readwrite')
  let [sum, dropped] = [0, 0]
  for (let c = await tx.store.openCursor(); c; c = await c.continue()) sum += c.value.bytes
  for (let c = await tx.store.index('used').openCursor(); c && sum - dropped > MOST; ) {
    dropped += c.value.bytes
    await c.delete()
    c = await c.continue()
  }
  await tx.done
}
