import type { Origin } from '../kernel'

/**
 * Names of the faces of a result, from what each comes from. Faces that stay keep theirs; one made from
 * a face, an edge or a vertex says by which op and how: `o3:round(turn:side|turn:top)`.
 */
export function namesFrom(
  origins: readonly Origin[][],
  given: readonly (readonly string[][])[],
  op: string,
  words: { face?: string; edge?: string; swept?: readonly string[]; ends?: [string, string] } = {},
): string[][] {
  const first = (shape: number, face: number) => given[shape]?.[face]?.[0] ?? '?'
  return origins.map((from) => {
    const out = new Set<string>()
    for (const o of from) {
      if (o.from === 'piece') out.add(words.swept?.[o.piece] ?? `${op}:piece${o.piece}`)
      else if (o.from === 'end')
        out.add((words.ends ?? [`${op}:start`, `${op}:end`])[o.last ? 1 : 0])
      else if (o.from === 'face' && !o.made)
        for (const n of given[o.shape]?.[o.face] ?? []) out.add(n)
      else if (o.from === 'face')
        out.add(`${op}:${words.face ?? 'from'}(${first(o.shape, o.face)})`)
      else {
        const faces = o.faces.map((f) => first(o.shape, f)).sort()
        out.add(`${op}:${words.edge ?? 'at'}(${faces.join('|')})`)
      }
    }
    return [...out]
  })
}

/** The same names with a word put about each, as those of a copy: `o4:mirror(turn:side)`. */
export const putAbout = (word: string, names: readonly string[][]): string[][] =>
  names.map((list) => list.map((n) => `${word}(${n})`))
