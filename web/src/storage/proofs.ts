import {
  checkWorkpiece,
  type KeptBody,
  type KeptReading,
  type Workpiece,
} from '@ivory/core/workpiece'
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { StorageError, told } from './db'

/** A workpiece as it was at a time: the whole of it, with a name, a picture and what its gauges read. */
export interface Proof {
  id: string
  workpiece: string
  name: string
  made: number
  doc: Workpiece
  readings: KeptReading[]
  bodies: KeptBody[]
  picture?: string
  /** Kept by itself, when files left the shop. */
  released?: boolean
}

interface Schema extends DBSchema {
  proofs: { key: string; value: Proof; indexes: { workpiece: string } }
}

let opening: Promise<IDBPDatabase<Schema>> | undefined
function open(): Promise<IDBPDatabase<Schema>> {
  opening ??= openDB<Schema>('ivory-lathe-proofs', 1, {
    upgrade(db) {
      db.createObjectStore('proofs', { keyPath: 'id' }).createIndex('workpiece', 'workpiece')
    },
  }).catch((e) => {
    opening = undefined
    throw told(e)
  })
  return opening
}
async function guarded<T>(work: (db: IDBPDatabase<Schema>) => Promise<T>): Promise<T> {
  try {
    return await work(await open())
  } catch (e) {
    throw told(e)
  }
}

/** The proofs of a workpiece, the newest first. */
export const proofsOf = (workpiece: string): Promise<Proof[]> =>
  guarded(async (db) => {
    const all = await db.getAllFromIndex('proofs', 'workpiece', workpiece)
    return all.sort((a, b) => b.made - a.made)
  })

export const keepProof = (proof: Proof): Promise<unknown> =>
  guarded((db) => db.put('proofs', proof))
export const dropProof = (id: string): Promise<unknown> => guarded((db) => db.delete('proofs', id))

/** Takes away all proofs of a workpiece, and gives them, so that they can be kept again. */
export const dropProofsOf = async (workpiece: string): Promise<Proof[]> => {
  const all = await proofsOf(workpiece)
  for (const p of all) await dropProof(p.id)
  return all
}

/** The document of a proof, checked as any that comes from elsewhere. */
export function docOf(proof: Proof): Workpiece {
  const doc = checkWorkpiece(proof.doc)
  if (!doc.ok) throw new StorageError(doc.diagnosis.message)
  return doc.value
}
