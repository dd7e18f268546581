import { curveOfWire } from '../../../exact'
import { bad, good, mean3, mm, norm3, type Outcome, type P3, rounded, sub3 } from '../../../math'
import { TOUCH } from '../../../path'
import { type Curve3, end3, length3, place3, start3 } from '../../../surface'
import { exactBody } from '../../exact'
import { pickExactFaces } from '../../pick'
import type { DatumContext } from '../datum'
import { type Drawn, inOrder } from './from'
import type { PathInputs } from './inputs'

/** Where faces of a body and faces of another, or others of the same, go through each other. */
export function meeting(i: PathInputs, ctx: DatumContext): Outcome<Drawn> {
  const first = facesOf(i.body, i.faces, 'faces', ctx)
  if (!first.ok) return first
  const second = facesOf(i.with ?? i.body, i.others, 'others', ctx)
  if (!second.ok) return second
  const [a, b] = [first.value, second.value]
  if (a.key === b.key && a.faces.some((f) => b.faces.includes(f)))
    return bad('same-face', 'A face does not go through itself: pick others for the second.')
  const read = ctx.kernel({
    verb: 'form',
    args: { seams: false, ribbons: [], meets: { faces: a.faces, others: b.faces } },
    on: a.key === b.key ? [a.key] : [a.key, b.key],
  })
  if (!read.ok) return read
  const curves = read.value[0]!.form!.meets.flatMap((w): Curve3[] => {
    const c = curveOfWire(w)
    return c && length3(c) > TOUCH ? [c] : []
  })
  if (curves.length === 0)
    return bad('apart', 'These faces nowhere go through each other: no line is in both.')
  const lines = apartFrom(curves)
  const which = i.which === undefined ? null : ctx.read(i.which, 'number')
  if (which === null && lines.length > 1)
    return bad(
      'several-lines',
      `These faces meet in ${lines.length} lines apart from each other: which one is meant?`,
      lines.map((l) => ({ at: middle(l), label: lengthOf(l) })),
      lines.slice(0, MOST_FIXES).map((l, k) => ({
        label: `Take the one of ${lengthOf(l)} (${k + 1} of ${lines.length})`,
        op: ctx.op,
        inputs: { which: k + 1 },
      })),
    )
  const line = lines[(which ?? 1) - 1]
  if (!line)
    return bad(
      'no-line',
      `These faces meet in ${lines.length === 1 ? 'one line' : `${lines.length} lines`}; there is none of number ${rounded(which!, 3)}.`,
    )
  return inOrder(
    line,
    line.map((_, k) => `meets${k + 1}`),
    i,
    ctx,
  )
}

const MOST_FIXES = 4

/** Curves by what hangs together, as their middles lie along x, then y, then z. */
function apartFrom(curves: readonly Curve3[]): Curve3[][] {
  const left = new Set(curves)
  const lines: Curve3[][] = []
  const touches = (a: Curve3, b: Curve3) =>
    [start3(a), end3(a)].some((p) => [start3(b), end3(b)].some((q) => norm3(sub3(p, q)) < TOUCH))
  for (const first of left) {
    left.delete(first)
    const line = [first]
    // A list takes what is added while it is run through.
    for (const c of line)
      for (const o of left)
        if (touches(c, o)) {
          left.delete(o)
          line.push(o)
        }
    lines.push(line)
  }
  const place = (l: Curve3[]) => middle(l).map((x) => Math.round(1e3 * x))
  return lines.sort((a, b) => {
    const [p, q] = [place(a), place(b)]
    return p[0]! - q[0]! || p[1]! - q[1]! || p[2]! - q[2]!
  })
}

const middle = (line: readonly Curve3[]): P3 => mean3(line.map((c) => place3(c, 0.5)))
const lengthOf = (line: readonly Curve3[]): string =>
  mm(
    line.reduce((sum, c) => sum + length3(c), 0),
    1,
  )

function facesOf(
  id: string | undefined,
  refs: PathInputs['faces'],
  input: string,
  ctx: DatumContext,
): Outcome<{ key: string; faces: number[] }> {
  const on = exactBody(id ?? '', ctx)
  if (!on.ok) return on
  const picked = pickExactFaces(on.value.part, refs, ctx, input)
  if (!picked.ok) return picked
  ctx.warnings.push(...picked.value.warnings)
  return picked.value.items.length > 0
    ? good({ key: on.value.part.key, faces: picked.value.items })
    : bad('no-faces', `Pick the ${input === 'faces' ? 'first' : 'second'} faces.`)
}
