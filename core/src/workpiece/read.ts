import { bad, good, type Outcome } from '../math'
import { sayIssue } from './issues'
import { FORMAT, VERSION, type Workpiece, workpieceSchema } from './schema'

/** Turns a document of one version into the next; the key is the version it starts from. */
const MIGRATIONS: Record<number, (doc: Record<string, unknown>) => Record<string, unknown>> = {}

/** Largest file that is read, bytes. */
export const MAX_BYTES = 20 * 1024 * 1024

/** A workpiece from the text of a `.lathe.json` file; refused with one sentence otherwise. */
export function readWorkpiece(text: string): Outcome<Workpiece> {
  if (text.length > MAX_BYTES)
    return bad('too-large', 'The file is larger than 20 MB, too large for a workpiece.')
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    return bad('not-json', 'The file is not a workpiece: it is not valid JSON.')
  }
  return checkWorkpiece(data)
}

/** A workpiece from parsed JSON: brought to today's version, then checked. */
export function checkWorkpiece(data: unknown): Outcome<Workpiece> {
  if (
    typeof data !== 'object' ||
    data === null ||
    (data as { format?: unknown }).format !== FORMAT
  ) {
    return bad('not-a-workpiece', `The file is not a workpiece: it lacks "format": "${FORMAT}".`)
  }
  let doc = data as Record<string, unknown>
  const from = doc.version
  if (typeof from !== 'number' || !Number.isInteger(from) || from < 1) {
    return bad('no-version', 'The workpiece does not say its version.')
  }
  if (from > VERSION) {
    return bad(
      'newer',
      `The workpiece is of version ${from}; this program reads up to version ${VERSION}.`,
    )
  }
  for (let v = from; v < VERSION; v++) doc = { ...MIGRATIONS[v]!(doc), version: v + 1 }
  const result = workpieceSchema.safeParse(doc)
  if (result.success) return good(result.data)
  return bad('invalid', `The workpiece cannot be read: ${sayIssue(result.error.issues[0]!)}.`)
}

/** The file text of a workpiece: two-space JSON, ending in a newline. */
export const writeWorkpiece = (w: Workpiece): string => `${JSON.stringify(w, null, 2)}\n`
