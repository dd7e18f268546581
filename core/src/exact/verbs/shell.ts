import { KernelError, type Made } from '../../kernel'
import { bad, good, mm, type Outcome } from '../../math'
import { hollowed, measureMesh } from '../../mesh'
import { soundVolume, wrongWall } from '../accept'
import { namesFrom } from '../names'
import { type Bench, keepMade, type Named, type NamedMesh, type Verb } from './verb'

export interface ShellArgs {
  op: string
  /** Faces that are left open, by number. */
  open: number[]
  /** mm */
  wall: number
  side: 'in' | 'out'
}

/** Ways the kernel makes a wall, in the order they are tried. */
const RUNGS = [
  { join: 'arc', mend: false },
  { join: 'intersection', mend: false },
  { join: 'arc', mend: true },
] as const

/** A body hollowed to a wall; the first way whose result measures right is taken. */
export const shellVerb: Verb<ShellArgs> = {
  version: 3,
  run(bench, on, args) {
    const [given] = on
    const whys: string[] = []
    for (const { join, mend } of RUNGS) {
      const tried = attempt(bench, given!, args, join, mend)
      if (tried.ok) return tried
      whys.push(tried.diagnosis.message)
    }
    return bad(
      'no-shell',
      `No wall of ${mm(args.wall)} was found that measures right: ${[...new Set(whys)].join(' ')}`,
    )
  },
  onMeshes: (bench, [given], args) => ofTriangles(bench, given!, args),
}

/** The same for triangles, by distance on a grid; the wall is what was measured, nowhere less than asked. */
function ofTriangles(
  { meshes }: Bench,
  given: NamedMesh,
  { op, open, wall, side }: ShellArgs,
): Outcome<NamedMesh[]> {
  if (side === 'out')
    return bad('inward-only', 'Bodies of triangles are hollowed inward; scale it up first.')
  const made = hollowed(given.mesh, new Set(open), wall, meshes)
  if (!made.ok) return made
  const { mesh, from } = made.value
  const names = from.map(({ face, behind }) => {
    const own = given.names[face] ?? []
    return behind ? [`${op}:wall(${own[0] ?? '?'})`] : own
  })
  const { volume, closed } = measureMesh(mesh)
  if (!closed || !(volume > 0)) return bad('not-sound', 'What is left does not close.')
  return good([{ mesh, names }])
}

/** Places sampled on each face behind a wall. */
const SAMPLES = 6

function attempt(
  bench: Bench,
  given: Named,
  { op, open, wall, side }: ShellArgs,
  join: 'arc' | 'intersection',
  mend: boolean,
): Outcome<Named[]> {
  const { kernel } = bench
  let made: Made
  try {
    made = keepMade(
      bench,
      kernel.thick(given.shape, open, side === 'in' ? -wall : wall, join, mend),
    )
  } catch (e) {
    if (e instanceof KernelError) return bad('kernel', e.message)
    throw e
  }
  const names = namesFrom(made.origins, [given.names], op, { face: 'wall', edge: 'wall' })
  const before = kernel.measure(given.shape)
  const sound = soundVolume(kernel, made.shape, 'It')
  if (!sound.ok) return sound
  if (kernel.measure(made.shape).solids !== 1) return bad('not-right', 'It falls apart.')
  if (side === 'in' ? sound.value >= before.volume * (1 - 1e-9) : !(sound.value > 0))
    return bad('not-hollow', 'It does not become hollow.')
  const kept = given.names.map((_, i) => i).filter((i) => !open.includes(i))
  const behind = kept.map((face) =>
    made.origins.flatMap((from, i) =>
      from.some((o) => o.from === 'face' && o.made && o.face === face) ? [i] : [],
    ),
  )
  const missing = behind.filter((faces) => faces.length === 0).length
  if (missing > 0) {
    const one = missing === 1
    return bad(
      'not-right',
      `${missing} ${one ? 'face has' : 'faces have'} no wall behind ${one ? 'it' : 'them'}.`,
    )
  }
  const wrong = wrongWall(
    kernel,
    { shape: made.shape, faces: behind.flat() },
    { shape: given.shape, faces: kept },
    wall,
    SAMPLES,
  )
  return wrong ?? good([{ shape: made.shape, names }])
}
