import { bad, good, type Outcome, type P2, type P3 } from '../../../math'
import type { FaceRef } from '../../../refs'

export const NARROW = bad(
  'too-narrow',
  'What it stands along is too narrow for a step of this wall and clearance.',
)

/** The one place two bodies touch in, or what is to be done where there is none, or several. */
export function onlyOne<T extends { at: P2 | P3; ref: FaceRef }>(
  found: readonly T[],
  picked: boolean,
  op: string,
): Outcome<T> {
  const [first] = found
  if (!first)
    return bad(
      'not-touching',
      picked
        ? 'The picked face is not a flat one on which the other body lies.'
        : 'They do not lie on each other: no flat faces of both touch. Part them at a plane, or align them first.',
    )
  return found.length === 1
    ? good(first)
    : bad(
        'several',
        `They touch in ${found.length} flat faces: pick the one it stands on.`,
        found.map(({ at }, i) => ({ at, label: `${i + 1}` })),
        found.map(({ ref }, i) => ({ label: `On ${i + 1}`, op, inputs: { face: [ref] } })),
      )
}
