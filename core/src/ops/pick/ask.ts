import { plainName } from '../../exact'
import { bad, type Diagnosis, fixed, good, type Outcome, type P2, type P3 } from '../../math'
import type { Resolved, Witness } from '../../refs'
import type { OpContext } from '../state'

/** What a reference says of which thing it means; the rest is asked of that thing. */
const WITNESS = new Set(['at', 'index', 'of', 'beside', 'like', 'rank', 'along'])

/** Names listed at most in one sentence. */
const LISTED = 12

/**
 * Why no face bears a name: an earlier op of this route left it and a later one took it, or others of its kind are there, or nothing
 * like it is; whether another figure once left it nobody knows.
 */
export function missingFace(there: readonly string[], name: string, ctx: OpContext): string {
  if (ctx.knew(name)) return `The face ${name} is gone: an earlier op no longer leaves it.`
  const names = [...new Set(there)]
  const alike = names.filter((n) => plainName(n) === plainName(name))
  if (alike.length > 0)
    return `The face ${name} is not there now; of its kind there ${alike.length === 1 ? 'is' : 'are'} ${alike.slice(0, LISTED).join(', ')}: perhaps a count has gone down, or it was cut away.`
  const more = names.length > LISTED ? ` and ${names.length - LISTED} more` : ''
  return `There is no face "${name}" here; the faces are ${names.slice(0, LISTED).join(', ')}${more}.`
}

/** How questions about one kind of reference are put. */
export interface Asking<R, T> {
  op: string
  input: string
  what: string
  /** Why nothing bears the name. */
  missing(r: R): string
  /** "edges where a meets b": what several bear one name of. */
  named(r: R): string
  /** Where a thing lies. */
  place(x: T): P2 | P3
  /** The reference that says for sure which is meant. */
  nameAgain(x: T): R
}

/**
 * The things that references mean. One that is only alike comes with a warning and the fix that accepts
 * it; one that is not clear, or not there, stops the op with the things that could be meant as fixes.
 */
export function pick<R extends Witness, T>(
  refs: readonly R[],
  resolve: (r: R) => Resolved<T>,
  { op, input, what, missing, named, place, nameAgain }: Asking<R, T>,
  all: T[],
): Outcome<{ items: T[]; warnings: Diagnosis[] }> {
  const items: T[] = []
  const warnings: Diagnosis[] = []
  const replaced = (i: number, by: R[]) => ({
    [input]: [...refs.slice(0, i), ...by, ...refs.slice(i + 1)],
  })
  /** The reference to this thing, with all else it says. */
  const renamed = (i: number, x: T): R => {
    const own = Object.entries(refs[i]!).filter(([key]) => !WITNESS.has(key))
    return { ...Object.fromEntries(own), ...nameAgain(x) } as R
  }
  const where = (x: T) =>
    place(x)
      .map((v) => fixed(v, 1))
      .join(' / ')
  const asked = (i: number, code: string, message: string, candidates: T[]) =>
    bad(
      code,
      message,
      candidates.map((c, k) => ({ at: place(c), label: `${k + 1}` })),
      [
        ...candidates.slice(0, 6).map((c, k) => ({
          label: `Use ${what} ${k + 1}, at ${where(c)}`,
          op,
          inputs: replaced(i, [renamed(i, c)]),
        })),
        { label: `Leave this ${what} out`, op, inputs: replaced(i, []) },
      ],
    )
  /** Whether the references name every one of the things that bore the name of this one, which are as many now, or have become one. */
  const allMeant = (ref: R, now: number): boolean => {
    const alike = refs.filter((o) => o.of === ref.of && named(o) === named(ref))
    const all =
      ref.of !== undefined && ref.of > 1 && new Set(alike.map((o) => o.index)).size === ref.of
    return all && (now === ref.of || now === 1)
  }
  for (const [i, ref] of refs.entries()) {
    const r = resolve(ref)
    if (r.state === 'lost') {
      const likely = r.candidates.length < 5 ? r.candidates : all.slice(0, 4)
      return asked(i, 'lost-reference', missing(ref), likely)
    }
    if (r.state === 'unclear' && allMeant(ref, r.candidates.length)) {
      // Each is one of them, and none is left over: which is which does not matter.
      items.push(r.candidates[ref.index!] ?? r.candidates[0]!)
      continue
    }
    if (r.state === 'unclear') {
      const n = r.candidates.length
      const then = ref.of === undefined || ref.of === n ? '' : `, where there were ${ref.of}`
      const message = `There ${n === 1 ? 'is one' : `are ${n}`} of the ${named(ref)} now${then}: which is meant?`
      return asked(i, 'which-one', message, r.candidates)
    }
    if (r.state === 'likeness') {
      warnings.push({
        code: 'likeness',
        message: `One ${what} was found by its likeness only; confirm that it is the one meant.`,
        places: [{ at: place(r.item) }],
        fixes: [{ label: 'This is the one', op, inputs: replaced(i, [renamed(i, r.item)]) }],
      })
    }
    items.push(r.item)
  }
  return good({ items, warnings })
}
