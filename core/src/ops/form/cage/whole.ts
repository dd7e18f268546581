import { type Cage, formKept, type Symmetry, thickened } from '../../../cage'
import { bad, type Diagnosis, good, mm, type Outcome, type P3, placeAt } from '../../../math'
import type { CageEdit, Reads } from './inputs'
import { type Edited, type Stand, symmetric } from './stand'

/** How far a wall may be off what was asked without a note, mm. */
const EVEN = 0.05

/** An open cage made a wall, which is measured. */
export function walled(
  stand: Stand,
  edit: Extract<CageEdit, { kind: 'thicken' }>,
  read: Reads,
): Outcome<Edited> {
  const by = read.length(edit.by)
  if (!(by > 0)) return bad('cage-thick', 'A wall has a thickness above 0.')
  const made = thickened(stand.cage, edit.side === 'out' ? by : -by, edit.id)
  if (!made.ok) return made
  const { cage, wall } = made.value
  const uneven = [
    [wall.least, wall.thin],
    [wall.most, wall.thick],
  ].flatMap(([d, at]) =>
    Math.abs((d as number) - by) > EVEN ? [{ at: at as P3, label: mm(d as number, 2) }] : [],
  )
  const warnings: Diagnosis[] =
    uneven.length === 0
      ? []
      : [
          {
            code: 'cage-uneven',
            message: `The wall is ${mm(wall.least, 2)} to ${mm(wall.most, 2)} thick, not ${mm(by, 2)}: it bends too tightly for its cage; make that finer first.`,
            places: uneven,
            fixes: [],
          },
        ]
  return good({
    ...stand,
    cage,
    warnings,
    words: `wall ${mm(wall.least, 3)} to ${mm(wall.most, 3)}`,
  })
}

/** How far a form may move where it is to be kept without a note, mm. */
const MOVED = 0.05

/** An edit whose form is that of the cage before, as the symmetry leaves it. */
export function keeping(
  before: Stand,
  after: Stand,
  symmetry: Symmetry,
  warnings: Diagnosis[],
): Outcome<Edited> {
  const kept = formKept(before.cage, after.cage)
  if (!kept.ok) return kept
  const { cage, reached } = kept.value
  if (!symmetric({ cage, free: after.free }, symmetry).ok)
    return good({ ...after, warnings: [...warnings, notKept(after.cage)] })
  const { most, where } = reached
  const moved: Diagnosis[] =
    most > MOVED
      ? [
          {
            code: 'cage-moved',
            message: `The form moves by up to ${mm(most, 2)} with it, here: make the cage finer there, or let the form change.`,
            places: [{ at: where, label: mm(most, 2) }],
            fixes: [],
          },
        ]
      : []
  return good({
    cage,
    free: after.free,
    warnings: [...warnings, ...moved],
    words: `form kept within ${mm(most, 3)}`,
  })
}
const notKept = ({ at }: Cage): Diagnosis => ({
  code: 'cage-moved',
  message: 'The form could not be kept alike in all copies, so it changes with this.',
  places: [{ at: placeAt(at, 0) }],
  fixes: [],
})
