import { SHOWN, type ShapeStore, twinJob } from '../exact'
import { KernelError, type SolidHandle } from '../kernel'
import { bad, good, type Outcome } from '../math'
import { noHit, type TriMesh, treeOf } from '../mesh'
import type { Body } from '../ops'
import type { Rebuilt } from '../rebuild'
import { liftToSolid, volumeOf } from '../turned'
import type { Workpiece } from '../workpiece'
import { PLAIN_COLOR } from './color'
import { rereadStep } from './readback'

/** Shapes of the exact kernel, and how those that are gone are made again. */
export interface ExactShapes {
  store: ShapeStore
  made: Rebuilt['exact']
}

/** A body as it goes into the file, and what it has to measure when read again. */
interface Leaves {
  solid: SolidHandle
  volume: number
  solids: number
  area?: number
  /** Into how many sectors it was made, of one that repeats round an axis. */
  sectors?: number
}

/** A STEP file of bodies with names and colours, read again and measured. */
export function stepFile(
  w: Workpiece,
  bodies: readonly Body[],
  exact: ExactShapes,
): Outcome<{ bytes: Uint8Array; note: string }> {
  const { kernel } = exact.store
  const lifted: SolidHandle[] = []
  try {
    const leaving: Leaves[] = []
    for (const body of bodies) {
      const made = leaves(body, exact, lifted)
      if (!made.ok) return made
      leaving.push(made.value)
    }
    const called = bodies.map(({ id, name }) => ({
      name: stepName(name),
      color: w.bodies[id]?.color ?? PLAIN_COLOR,
    }))
    const bytes = kernel.toStep(leaving.map(({ solid }, i) => ({ solid, ...called[i]! })))
    const read = rereadStep(
      kernel,
      bytes,
      leaving.map(({ solid: _, ...rest }, i) => ({ ...rest, ...called[i]! })),
    )
    if (!read.ok) return read
    const off = read.value.off < 1e-12 ? 'exact' : `off by ${read.value.off.toExponential(0)}`
    const round = leaving
      .flatMap(({ sectors }, i) =>
        sectors ? [`${called[i]!.name} sewn of ${sectors} sectors`] : [],
      )
      .map((x) => `; ${x}`)
    return good({
      bytes,
      note: `read again: exact solids, closed and valid, volume ${off}${round.join('')}`,
    })
  } catch (e) {
    if (e instanceof KernelError) return bad('no-step', e.message)
    throw e
  } finally {
    for (const s of lifted) kernel.free(s)
  }
}

function leaves(body: Body, exact: ExactShapes, lifted: SolidHandle[]): Outcome<Leaves> {
  const { shape } = body
  if (shape.kind === 'mesh') return twinOf(body, exact)
  if (shape.kind === 'turned') {
    const solid = liftToSolid(exact.store.kernel, shape.turned)
    lifted.push(solid)
    return good({ solid, volume: volumeOf(shape.turned), solids: shape.turned.regions.length })
  }
  exact.store.learn(exact.made.recipesFor([shape.key]))
  return known(shape.key, shape.measure, exact)
}

function known(
  key: string,
  { volume, solids, area }: { volume: number; solids: number; area: number },
  { store }: ExactShapes,
): Outcome<Leaves> {
  const shape = store.shape(key)
  return shape.ok ? good({ solid: shape.value, volume, solids, area }) : shape
}

/**
 * What was joined as triangles, with surfaces: where all of it repeats round an axis by a sector. It has to
 * lie where the triangles do.
 */
function twinOf({ name, shape }: Body, exact: ExactShapes): Outcome<Leaves> {
  if (shape.kind !== 'mesh') throw new Error('only bodies of triangles have a twin')
  const recipes = exact.made.recipesFor([shape.key])
  const job = twinJob(shape.key, recipes)
  const instead = 'leave it out, or release STL, 3MF or OBJ.'
  if (!job)
    return bad(
      'needs-surfaces',
      `${name} consists of triangles, and STEP takes true surfaces: ${instead}`,
    )
  exact.store.learn(recipes)
  const made = exact.store.run(job)
  if (!made.ok)
    return bad(
      'needs-surfaces',
      `${name} was joined as triangles, and no sector of it closes with surfaces (${made.diagnosis.message}): ${instead}`,
    )
  const [twin] = made.value
  if (!sameShape(twin!.mesh, shape.mesh))
    return bad(
      'not-right',
      `${name} does not look alike in all of its ${'count' in job.args ? job.args.count : ''} sectors, so it cannot be made with surfaces: ${instead}`,
    )
  const out = known(twin!.key, twin!.measure, exact)
  return out.ok && 'count' in job.args ? good({ ...out.value, sectors: job.args.count }) : out
}

/** Two meshes of one surface stand apart by the chord of each; where leaning facets meet, by several. */
const APART = 6 * SHOWN.chord

/** Whether every corner of each of two meshes lies on the other, as nearly as triangles tell. */
const sameShape = (a: TriMesh, b: TriMesh): boolean => liesOn(a, b) && liesOn(b, a)

function liesOn({ positions: p }: TriMesh, mesh: TriMesh): boolean {
  const tree = treeOf(mesh)
  const hit = noHit()
  for (let v = 0; v < p.length; v += 3)
    if (!tree.nearest(p[v]!, p[v + 1]!, p[v + 2]!, APART, -1, hit)) return false
  return true
}

/** Text of a STEP file is ASCII: letters with marks lose them, others become a question mark. */
const stepName = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^ -~]/g, '?')
