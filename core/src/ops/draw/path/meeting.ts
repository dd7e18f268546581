import { curveOfWire } from '../../../exact'
import { bad, good, mm, type Outcome } from '../../../math'
import { TOUCH } from '../../../path'
import { type Curve3, length3, place3 } from '../../../surface'
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
  const made = inOrder(
    curves,
    curves.map((_, k) => `meets${k + 1}`),
    i,
    ctx,
  )
  if (made.ok || made.diagnosis.code !== 'gap') return made
  return bad(
    'several-lines',
    `These faces meet in ${curves.length} lines apart from each other. Pick the faces of one of them.`,
    curves.map((c) => ({ at: place3(c, 0.5), label: mm(length3(c), 1) })),
  )
}

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
