import { type ExactPart, formJob, patchOf } from '../../../exact'
import { good, type Outcome, unit3 } from '../../../math'
import {
  innerSkin,
  ownersOf,
  type Patch,
  skinOfParts,
  type TubeEnd,
  type TubeFace,
  tubeOf,
  turnedU,
} from '../../../surface'
import { endOf, type FlatEnd, type NamedPatch, quilted } from '../../form/quilted'
import type { OpContext } from '../../state'

/** A tube's own surfaces and those set in behind them by a wall, row by row from its first end to its last. */
interface Within {
  outer: NamedPatch[][]
  inner: NamedPatch[][]
  ends: [End, End]
}

/**
 * The surfaces behind free ones that run round between two flat ends, as lofts and sweeps make them: each set off by ourselves up to
 * where it crosses its neighbours. Null where the body is none of these, or its make-up is beyond this; a refusal tells where the
 * surfaces leave no room.
 */
function within(
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  ctx: OpContext,
): Outcome<Within> | null {
  const tube = readTube(part, open, ctx)
  if (!tube) return null
  if (!tube.ok) return tube
  const { rows, ends } = tube.value
  const skins = rows.map((row) => skinOfParts(row.map((f) => f.patch)))
  const grid = skins.flat()
  if (grid.some((row) => row.length !== grid[0]!.length)) return null
  const set = ctx.once(`inner ${wall}`, () => innerSkin(grid, wall, ends))
  if (!set.ok) return set
  const outer = rows.map((row) =>
    row.map((f): NamedPatch => ({ patch: f.patch, names: part.faces[f.id]!.names })),
  )
  // Each row of faces was parted in so many rows, and each face in so many parts.
  const inner = skins.flatMap((skin, k) => {
    const row = rows[k]!
    const before = skins.slice(0, k).reduce((sum, x) => sum + x.length, 0)
    const names = ownersOf(row.map((f) => f.patch)).map((i) => [
      behind(part.faces[row[i]!.id]!.names, ctx),
    ])
    return skin.map((_, j) =>
      set.value[before + j]!.map((patch, i): NamedPatch => ({ patch, names: names[i]! })),
    )
  })
  return good({ outer, inner, ends })
}

/** What the wall's other side is called behind a face. */
const behind = (names: readonly string[], ctx: OpContext): string =>
  `${ctx.op}:wall(${names[0] ?? '?'})`

/** Patches where they begin, or end. */
const rim = (rows: readonly NamedPatch[][], last: boolean): Patch[] =>
  rows[last ? rows.length - 1 : 0]!.map((p) => p.patch)

/** A wall behind such surfaces; null and refusals as for what lies behind them. */
export function hollowTube(
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  ctx: OpContext,
): Outcome<ExactPart> | null {
  const made = within(part, open, wall, ctx)
  if (!made?.ok) return made
  const { outer, inner, ends } = made.value
  const turned = inner.map((row) => row.map((p) => ({ ...p, patch: turnedU(p.patch) })))
  const flats: FlatEnd[] = []
  for (const [k, end] of ends.entries()) {
    const last = k === 1
    const own = part.faces[end.id]!.names
    const [round, hole] = [rim(outer, last), [...rim(turned, last)].reverse()]
    if (end.open) flats.push(endOf([round, hole], last, own))
    else flats.push(endOf([round], last, own), endOf([hole], last, [behind(own, ctx)]))
  }
  const [from, to] = [turned.flat(), outer.flat()]
  return quilted([...to, ...from], flats, ctx, { from, to, mm: wall })
}

/** The room behind the wall as a body of its own. */
export function roomInTube(
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  ctx: OpContext,
): Outcome<ExactPart> | null {
  const made = within(part, open, wall, ctx)
  if (!made?.ok) return made
  const { inner, ends } = made.value
  const flats = ends.map((end, k) =>
    endOf([rim(inner, k === 1)], k === 1, [behind(part.faces[end.id]!.names, ctx)]),
  )
  return quilted(inner.flat(), flats, ctx)
}

type End = TubeEnd & { open: boolean; id: number }

/** The body's faces as a tube between two flat ends; null where they are none. */
function readTube(
  part: ExactPart,
  open: ReadonlySet<number>,
  ctx: OpContext,
): Outcome<{ rows: TubeFace[][]; ends: [End, End] }> | null {
  const flat = part.faces.flatMap((f, i) => (f.kind === 'plane' ? [i] : []))
  const free = part.faces.flatMap((f, i) => (f.kind === 'free' ? [i] : []))
  if (flat.length !== 2 || free.length === 0 || flat.length + free.length !== part.faces.length)
    return null
  if ([...open].some((i) => !flat.includes(i))) return null
  const read = ctx.kernel(formJob(part.key, { seams: false, ribbons: [], surfaces: true }))
  if (!read.ok) return read
  const { surfaces } = read.value[0]!.form!
  const faces: TubeFace[] = []
  for (const id of free) {
    const s = surfaces[id]
    if (!s) return null
    faces.push({ patch: patchOf(s), id })
  }
  const ends = flat.map((id): End => {
    const { flat: plane, middle, normal } = part.faces[id]!
    return { at: plane?.origin ?? middle, normal: unit3(normal), open: open.has(id), id }
  }) as [End, End]
  const tube = tubeOf(faces, ends)
  return tube && good({ rows: tube.rows, ends })
}
