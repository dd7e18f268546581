import { namesFrom } from '../names'
import { type Bench, keepMade, type Named } from './verb'

/** Shapes that stay apart as one. */
export function together(bench: Bench, parts: readonly Named[]): Named {
  if (parts.length === 1) return parts[0]!
  const made = keepMade(bench, bench.kernel.together(parts.map((p) => p.shape)))
  return {
    shape: made.shape,
    names: namesFrom(
      made.origins,
      parts.map((p) => p.names),
      '',
    ),
  }
}
