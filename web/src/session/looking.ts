import { type Reading, useSession } from './session'

const START: Record<Reading['kind'], Reading> = {
  stripes: { kind: 'stripes', along: 'z', size: 18 },
  lean: { kind: 'lean', along: 'z', size: 1, parts: null, second: null },
  bends: { kind: 'bends', of: 'hollow', size: 5 },
}

/** Looks at the bodies with mirrored stripes, at how they lean against a pull, or how tightly they bend; the same again shows them plain. */
export const lookWith = (kind: Reading['kind']): void =>
  useSession.setState((s) => ({ reading: s.reading?.kind === kind ? null : START[kind] }))

/** Lines of the surfaces at first, and at most, of each way on a face. */
export const START_LINES = 6
export const MOST_LINES = 40

export const toggleLines = (): void =>
  useSession.setState((s) => ({ lines: s.lines === null ? START_LINES : null }))
