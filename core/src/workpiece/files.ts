import { deflateSync, inflateSync } from 'fflate'
import { z } from 'zod'
import { bad, fixed, good, type Outcome } from '../math'

/** A file a workpiece brings along: its bytes deflated, as base64. */
export const fileSchema = z.object({
  name: z.string().min(1).max(200),
  data: z.string().regex(/^[A-Za-z0-9+/]*={0,2}$/, 'a file’s data is base64'),
})
export type KeptFile = z.infer<typeof fileSchema>

/** Largest packed file a workpiece takes, bytes. */
const MAX_PACKED = 6 * 1024 * 1024
/** Largest it may grow to when unpacked, bytes. */
const MAX_UNPACKED = 100 * 1024 * 1024

/** The file as it is kept, under an id made from its contents: equal files have equal ids. */
export function packFile(name: string, bytes: Uint8Array): Outcome<{ id: string; file: KeptFile }> {
  if (bytes.length === 0) return bad('empty-file', `The file ${name} is empty.`)
  const packed = deflateSync(bytes)
  if (packed.length > MAX_PACKED) {
    const mb = fixed(packed.length / 1048576, 1)
    return bad('too-large', `${name} is ${mb} MB packed; a workpiece takes up to 6 MB a file.`)
  }
  let text = ''
  for (let i = 0; i < packed.length; i += 8192)
    text += String.fromCharCode(...packed.subarray(i, i + 8192))
  return good({ id: `file-${digest(bytes)}`, file: { name: name.slice(0, 200), data: btoa(text) } })
}

/** The bytes of a kept file. */
export function unpackFile(file: KeptFile): Outcome<Uint8Array> {
  try {
    const packed = Uint8Array.from(atob(file.data), (c) => c.charCodeAt(0))
    const bytes = inflateSync(packed)
    if (bytes.length <= MAX_UNPACKED) return good(bytes)
    return bad('too-large', `The kept file ${file.name} unpacks to more than 100 MB.`)
  } catch {
    return bad('damaged', `The kept file ${file.name} is damaged and cannot be unpacked.`)
  }
}

/** 64 bits of FNV-1a as hex (Fowler, Noll, Vo; in two halves with different offsets). */
function digest(bytes: Uint8Array): string {
  const half = (offset: number) => {
    let h = offset
    for (const b of bytes) h = Math.imul(h ^ b, 0x01000193)
    return (h >>> 0).toString(16).padStart(8, '0')
  }
  return half(0x811c9dc5) + half(0x050c5d1f)
}
