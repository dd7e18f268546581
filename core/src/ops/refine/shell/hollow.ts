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

/**
 * A wall behind free surfaces that run round between two flat ends, as lofts and sweeps make them: each set off by ourselves up to
 * where it crosses its neighbours. Null where the body is none of these, or its make-up is beyond this; a refusal tells where the
 * surfaces leave no room.
 */
export function hollowTube(
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  ctx: OpContext,
): Outcome<ExactPart> | null {
  const tube = readTube(part, open, ctx)
  if (!tube) return null
  if (!tube.ok) return tube
  const { rows, ends } = tube.value
  const skins = rows.map((row) => skinOfParts(row.map((f) => f.patch)))
  const grid = skins.flat()
  if (grid.some((row) => row.length !== grid[0]!.length)) return null
  const inner = ctx.once('inner', () => innerSkin(grid, wall, ends))
  if (!inner.ok) return inner
  const named = (f: TubeFace): NamedPatch => ({ patch: f.patch, names: part.faces[f.id]!.names })
  const outer = rows.map((row) => row.map(named))
  // Each row of faces was parted in so many rows, and each face in so many parts.
  const behind = skins.flatMap((skin, k) => {
    const row = rows[k]!
    const before = skins.slice(0, k).reduce((sum, x) => sum + x.length, 0)
    const names = ownersOf(row.map((f) => f.patch)).map((i) => [
      `${ctx.op}:wall(${part.faces[row[i]!.id]!.names[0] ?? '?'})`,
    ])
    return skin.map((_, j) =>
      inner.value[before + j]!.map(
        (patch, i): NamedPatch => ({ patch: turnedU(patch), names: names[i]! }),
      ),
    )
  })
  const flats: FlatEnd[] = []
  for (const [k, end] of ends.entries()) {
    const last = k === 1
    const loops = [outer, behind].map((rows) =>
      rows[last ? rows.length - 1 : 0]!.map((p) => p.patch),
    )
    const own = part.faces[end.id]!.names
    const [round, hole] = [loops[0]!, [...loops[1]!].reverse()] as [Patch[], Patch[]]
    if (end.open) flats.push(endOf([round, hole], last, own))
    else
      flats.push(
        endOf([round], last, own),
        endOf([hole], last, [`${ctx.op}:wall(${own[0] ?? '?'})`]),
      )
  }
  const [from, to] = [behind.flat(), outer.flat()]
  return quilted([...to, ...from], flats, ctx, { from, to, mm: wall })
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
