import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import { VERBS, type VerbArgs } from './verbs'

/** Of a part: the job that made it, and which of its results it is. */
export type PartKey = string

/** Work for the exact kernel, as data. Equal jobs have equal results, and equal keys. */
export interface KernelJob<V extends keyof VerbArgs = keyof VerbArgs> {
  verb: V
  args: VerbArgs[V]
  /** Keys of the parts it works on. */
  on: PartKey[]
  /** Done with triangles even where all parts have surfaces: what surfaces cannot do. */
  triangles?: true
}

/**
 * Raise when what is told of every part changes: those kept in browsers are then made again. 1: edges tell
 * their circles, triangles of surfaces share vertices. 2: free edges tell their curves. 4: how
 * smooth ones meet is read on demand. 5: normals at poles look out. 6: volumes of carried curves are exact.
 * 7: volumes and areas of faces set off, and of flat ones with free edges. 8: edges tell which face lies on their left.
 * 9: faces are summed up each from one point, parts of free ones along their edges. 10: with more places across a span.
 */
const PARTS = 10

/** Digest of verb, version, arguments and the keys worked on. */
export function jobKey(job: KernelJob): string {
  const { verb, args, on, triangles } = job
  const text = JSON.stringify([
    PARTS,
    verb,
    VERBS[verb].version,
    args,
    on,
    ...(triangles ? ['mesh'] : []),
  ])
  return bytesToHex(sha256(utf8ToBytes(text))).slice(0, 32)
}
export const partKey = (job: string, index: number): PartKey => `${job}.${index}`
/** The key of the job a part came from, and its number there. */
export function splitKey(key: PartKey): { job: string; index: number } {
  const dot = key.lastIndexOf('.')
  return { job: key.slice(0, dot), index: Number(key.slice(dot + 1)) }
}

/** Has the seams of a part read, or its faces along some edges. */
export const formJob = (part: PartKey, args: VerbArgs['form']): KernelJob<'form'> => ({
  verb: 'form',
  args,
  on: [part],
})
