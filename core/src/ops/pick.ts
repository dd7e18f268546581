import { bad, type Diagnosis, good, type Outcome } from '../math'
import {
  type Corner,
  cornersOf,
  type EdgeRef,
  edgeRef,
  type Face,
  type FaceRef,
  faceRef,
  facesOf,
  isSharp,
  type Resolved,
  resolveEdge,
  resolveFace,
  type TurnedBody,
} from '../turned'

/**
 * The picked edges of a body. One that is only alike comes with a warning and the fix that accepts it;
 * one that is lost stops the op, with the edges that could be meant as fixes.
 */
export function pickEdges(b: TurnedBody, refs: readonly EdgeRef[], op: string) {
  return pick(
    refs,
    (r) => resolveEdge(b, r),
    (c: Corner) => edgeRef(b, c),
    (c) => c.at,
    { op, input: 'edges', what: 'edge' },
    cornersOf(b).filter(isSharp),
  )
}

/** The picked faces of a body, as `pickEdges`; `input` is where the op keeps them. */
export function pickFaces(b: TurnedBody, refs: readonly FaceRef[], op: string, input: string) {
  return pick(
    refs,
    (r) => resolveFace(b, r),
    (f: Face) => faceRef(b, f),
    (f) => f.at,
    { op, input, what: 'face' },
    facesOf(b),
  )
}

function pick<R, T>(
  refs: readonly R[],
  resolve: (r: R) => Resolved<T>,
  nameAgain: (x: T) => R,
  placeOf: (x: T) => readonly [number, number],
  { op, input, what }: { op: string; input: string; what: string },
  all: T[],
): Outcome<{ items: T[]; warnings: Diagnosis[] }> {
  const items: T[] = []
  const warnings: Diagnosis[] = []
  const replaced = (i: number, by: R[]) => [...refs.slice(0, i), ...by, ...refs.slice(i + 1)]
  for (const [i, ref] of refs.entries()) {
    const r = resolve(ref)
    if (r.state === 'lost') {
      const likely = r.candidates.length < 5 ? r.candidates : all.slice(0, 4)
      return bad(
        'lost-reference',
        `The ${what} chosen here is gone: an earlier op no longer makes it.`,
        likely.map((c) => ({ at: placeOf(c) })),
        [
          ...likely.slice(0, 3).map((c) => ({
            label: `Use the ${what} at ${placeOf(c)
              .map((x) => x.toFixed(1))
              .join(' / ')}`,
            op,
            inputs: { [input]: replaced(i, [nameAgain(c)]) },
          })),
          { label: `Leave this ${what} out`, op, inputs: { [input]: replaced(i, []) } },
        ],
      )
    }
    if (r.state === 'likeness') {
      warnings.push({
        code: 'likeness',
        message: `One ${what} was found by its likeness only; confirm that it is the one meant.`,
        places: [{ at: placeOf(r.item) }],
        fixes: [
          { label: 'This is the one', op, inputs: { [input]: replaced(i, [nameAgain(r.item)]) } },
        ],
      })
    }
    items.push(r.item)
  }
  return good({ items, warnings })
}
