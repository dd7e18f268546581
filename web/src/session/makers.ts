/** The ops in a face's name, the last to work on it first: of `o5:copy3(turn:side)` they are o5 and turn. */
export function makersOf(face: string): { ops: string[]; piece: string } {
  const parts = [...face.matchAll(/([\w-]+):([\w~-]+)/g)].map((m) => ({ op: m[1]!, piece: m[2]! }))
  return {
    ops: [...new Set(parts.map((p) => p.op))],
    // The innermost name says what was drawn: a piece, `~2` of a repeated one.
    piece: parts.length > 0 ? parts[parts.length - 1]!.piece.replace(/~\d+$/, '') : '',
  }
}

/** The op that made a face, or last made it anew. */
export const lastMaker = (face: string): string | undefined => makersOf(face).ops[0]
