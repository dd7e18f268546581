import { type Kernel, KernelError, loadKernel, type SolidHandle } from '../kernel'
import { bad, good, type Outcome } from '../math'
import { loadMeshSolids, MeshError, type MeshSolids, type TriMesh, weldIndexed } from '../mesh'
import { jobKey, type KernelJob, type PartKey, partKey, splitKey } from './job'
import { type ExactPart, partOf, SHOWN } from './part'
import { inTriangles, meshPart } from './triangles'
import { type Bench, type Named, type NamedMesh, VERBS } from './verbs'
import type { Verb } from './verbs/verb'

/** Shapes kept at most; each is 50 kB to 2 MB in the kernel. */
const MOST = 400

/** A kernel with room for its shapes. In a browser the addresses of the WebAssembly files are needed. */
export async function loadShapes(at?: { kernel: string; meshes: string }): Promise<ShapeStore> {
  const [kernel, meshes] = await Promise.all([loadKernel(at?.kernel), loadMeshSolids(at?.meshes)])
  return new ShapeStore(kernel, meshes)
}

/**
 * Shapes in the kernel by key. A shape that is gone is made again from its recipe; the oldest go first.
 */
export class ShapeStore {
  readonly kernel: Kernel
  readonly meshes: MeshSolids
  readonly #files = new Map<string, () => Outcome<Uint8Array>>()
  /** The jobs it was told of, by key. */
  readonly #recipes = new Map<string, KernelJob>()
  /** In the order of their last use. */
  readonly #shapes = new Map<PartKey, Named | NamedMesh>()
  /** How many parts each job made. */
  readonly #counts = new Map<string, number>()

  readonly #most: number

  constructor(kernel: Kernel, meshes: MeshSolids, most = MOST) {
    this.kernel = kernel
    this.meshes = meshes
    this.#most = most
  }

  /** Shapes kept now. */
  get size(): number {
    return this.#shapes.size
  }

  /** Says how the bytes of a kept file are come by. */
  provide(file: string, read: () => Outcome<Uint8Array>): void {
    this.#files.set(file, read)
  }
  /** Tells of jobs whose parts others are made of. */
  learn(jobs: readonly KernelJob[]): void {
    for (const job of jobs) this.#recipes.set(jobKey(job), job)
  }

  /** The parts a job makes, measured. */
  run(job: KernelJob): Outcome<ExactPart[]> {
    this.learn([job])
    return this.#guarded(() => {
      const made = this.#make(job)
      if (!made.ok) return made
      const key = jobKey(job)
      return good(
        made.value.map((x, i) =>
          'mesh' in x
            ? meshPart(partKey(key, i), x)
            : {
                ...partOf(
                  partKey(key, i),
                  this.kernel.measure(x.shape),
                  this.kernel.anatomy(x.shape, SHOWN.chord, SHOWN.angle),
                  x.names,
                ),
                ...(x.form ? { form: x.form } : {}),
              },
        ),
      )
    })
  }

  /** The shape of a part, made again where it is gone. Good until the next call. */
  shape(key: PartKey): Outcome<SolidHandle> {
    return this.#guarded(() => {
      const named = this.#named(key)
      if (!named.ok) return named
      return 'mesh' in named.value ? needsSurfaces() : good(named.value.shape)
    })
  }

  /** The triangles of a part, with shared vertices; of surfaces, within `chord` mm and `angle` rad of them. */
  triangles(key: PartKey, chord: number, angle: number): Outcome<TriMesh> {
    return this.#guarded(() => {
      const named = this.#named(key)
      if (!named.ok) return named
      const x = named.value
      return good('mesh' in x ? x.mesh : weldIndexed(this.kernel.tessellate(x.shape, chord, angle)))
    })
  }

  #guarded<T>(work: () => Outcome<T>): Outcome<T> {
    try {
      return work()
    } catch (e) {
      if (!(e instanceof KernelError || e instanceof MeshError)) throw e
      return bad(
        'kernel',
        e.message,
        e.places.map((at) => ({ at })),
      )
    } finally {
      this.#trim()
    }
  }

  #named(key: PartKey): Outcome<Named | NamedMesh> {
    const known = this.#shapes.get(key)
    if (known) {
      this.#shapes.delete(key)
      this.#shapes.set(key, known)
      return good(known)
    }
    const { job, index } = splitKey(key)
    const recipe = this.#recipes.get(job)
    if (!recipe) throw new Error(`no recipe for the part ${key}`)
    const made = this.#make(recipe)
    return made.ok ? good(made.value[index]!) : made
  }

  #make(job: KernelJob): Outcome<(Named | NamedMesh)[]> {
    const made = this.#madeBefore(jobKey(job))
    if (made) return good(made)
    const on: (Named | NamedMesh)[] = []
    for (const key of job.on) {
      const named = this.#named(key)
      if (!named.ok) return named
      on.push(named.value)
    }
    const loose = new Set<SolidHandle>()
    const bench: Bench = {
      kernel: this.kernel,
      meshes: this.meshes,
      keep: (shape) => {
        loose.add(shape)
        return shape
      },
      file: (id) =>
        this.#files.get(id)?.() ?? bad('no-file', `The file "${id}" is not in the workpiece.`),
    }
    try {
      const verb = VERBS[job.verb] as Verb<unknown>
      const out = this.#done(verb, bench, on, job as { args: unknown })
      if (!out.ok) return out
      const key = jobKey(job)
      this.#counts.set(key, out.value.length)
      for (const [i, x] of out.value.entries()) {
        if ('shape' in x) loose.delete(x.shape)
        this.#shapes.set(partKey(key, i), x)
      }
      return out
    } finally {
      for (const shape of loose) this.kernel.free(shape)
    }
  }

  /** By surfaces where all bodies have them, else by triangles. */
  #done<A>(
    verb: Verb<A>,
    bench: Bench,
    on: readonly (Named | NamedMesh)[],
    { args, triangles = false }: { args: A; triangles?: boolean },
  ): Outcome<(Named | NamedMesh)[]> {
    const solids = on.flatMap((x) => ('shape' in x ? [x] : []))
    if (solids.length === on.length && !triangles) return verb.run(bench, solids, args)
    if (!verb.onMeshes) return needsSurfaces()
    const meshes = on.map((x) => ('mesh' in x ? x : inTriangles(this.kernel, x)))
    return verb.onMeshes(bench, meshes, args)
  }

  /** What a job made, where all of it is still there. */
  #madeBefore(job: string): (Named | NamedMesh)[] | null {
    const count = this.#counts.get(job)
    if (count === undefined) return null
    const made = Array.from({ length: count }, (_, i) => this.#shapes.get(partKey(job, i)))
    return made.every((x) => x !== undefined) ? made : null
  }

  #trim() {
    for (const [key, x] of this.#shapes) {
      if (this.#shapes.size <= this.#most) return
      this.#shapes.delete(key)
      if ('shape' in x) this.kernel.free(x.shape)
    }
  }
}

const needsSurfaces = () =>
  bad('needs-surfaces', 'The body consists of triangles; this needs true surfaces.')
