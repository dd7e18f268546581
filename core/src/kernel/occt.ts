import type { TopoDS_Shape } from 'replicad-opencascadejs'
import type { Frame, Motion, P3 } from '../math'
import { Numbered, type Oc, partsOf } from './explore'
import { guarded } from './guard'
import { boolean, part, square } from './make/boolean'
import { moved, skin, together } from './make/move'
import { pipe } from './make/pipe'
import { quilt } from './make/quilt'
import { chamfer, fillet } from './make/rounding'
import { sewnCopies } from './make/sew'
import { grown, prism, sheet, turn } from './make/sweep'
import { draft, repaired, thick } from './make/thick'
import { anatomy } from './read/anatomy'
import { ballsOf } from './read/balls'
import { bentSkin } from './read/bent'
import { distances } from './read/distance'
import { feetOf } from './read/feet'
import { fromBytes, fromStep, toBytes, toStep } from './read/files'
import { gridOf } from './read/grid'
import { linesOf } from './read/lines'
import { measure } from './read/measure'
import { meetsOf } from './read/meets'
import { ribbonsOf, seamsOf } from './read/seams'
import { SHOWN, type ShownSkin, shownSkin } from './read/skin'
import { areasOf, type FaceSums, inherit, noSums } from './read/sums'
import { surfacesOf } from './read/surfaces'
import { tessellate, volumeByTriangles } from './read/triangles'
import { type KernelScope, scoped } from './scope'
import { standing } from './trace'
import type {
  BallSpot,
  EdgeWork,
  How,
  Kernel,
  Made,
  Origin,
  PlanarFace,
  SolidHandle,
  SolidMeasure,
  SplineFace,
  WireCurve,
} from './types'

/** Loads the kernel. In a browser `wasmUrl` says where its WebAssembly file is served. */
export async function loadKernel(wasmUrl?: string): Promise<Kernel> {
  // Its bindings alone take longer to read than most calls that never need it.
  const { default: init } = await import('replicad-opencascadejs')
  const quiet = { print: () => undefined, printErr: () => undefined }
  const oc = await init(wasmUrl ? { ...quiet, locateFile: () => wasmUrl } : quiet)
  return new OcctKernel(oc)
}

/** Shapes by number, each call in a scope of its own that gives back what it used. */
class OcctKernel implements Kernel {
  readonly #oc: Oc
  readonly #shapes = new Map<number, TopoDS_Shape>()
  /** What was measured on shapes that are still kept: shapes never change. */
  readonly #measures = new Map<number, SolidMeasure>()
  readonly #sums = new Map<number, FaceSums>()
  /** The triangles made last to show a shape: they are asked for again until its anatomy takes them along. */
  #skin: { id: number; chord: number; angle: number; made: ShownSkin } | null = null
  #next = 1

  constructor(oc: Oc) {
    this.#oc = oc
  }

  get live(): number {
    return this.#shapes.size
  }

  get memory(): number {
    return this.#oc.wasmMemory.buffer.byteLength
  }

  revolve(faces: PlanarFace[], origin: P3, axis: P3, angle: number): SolidHandle {
    return this.#run('The turn failed', (oc, s) => {
      const parts = faces.map((f) => turn(oc, s, f, origin, axis, angle).shape)
      return this.#add(s.release(parts.length === 1 ? parts[0]! : together(oc, s, parts).shape))
    })
  }
  turn(face: PlanarFace, origin: P3, axis: P3, angle: number): Made {
    return this.#made('The turn failed', [], (oc, s) => turn(oc, s, face, origin, axis, angle))
  }
  prism(face: PlanarFace, way: P3): Made {
    return this.#made('The extrusion failed', [], (oc, s) => prism(oc, s, face, way))
  }
  boolean(
    how: How,
    target: SolidHandle,
    tools: SolidHandle[],
    way: { apart?: boolean; near?: number } = {},
  ): Made {
    return this.#made('Combining failed', [target, ...tools], (oc, s, [first, ...others]) =>
      boolean(oc, s, how, first!, others, way),
    )
  }
  part(target: SolidHandle, tools: SolidHandle[]): Made {
    return this.#made('Parting failed', [target, ...tools], (oc, s, [first, ...others]) =>
      part(oc, s, first!, others),
    )
  }
  square(plane: Frame, reach: number): SolidHandle {
    return this.#run('The plane failed', (oc, s) =>
      this.#add(s.release(square(oc, s, plane, reach))),
    )
  }
  sheet(chain: WireCurve[], way: P3): Made {
    return this.#made('The sheet failed', [], (oc, s) => sheet(oc, s, chain, way))
  }
  pipe(outline: WireCurve[], path: WireCurve[], corner: 'mitre' | 'round'): Made {
    return this.#made('The sweep failed', [], (oc, s) => pipe(oc, s, outline, path, corner))
  }
  quilt(patches: SplineFace[], flats: PlanarFace[]): Made {
    return this.#made('Sewing failed', [], (oc, s) => quilt(oc, s, patches, flats))
  }
  grown(h: SolidHandle, face: number, way: P3): Made {
    return this.#made('Carrying the face failed', [h], (oc, s, [x]) => grown(oc, s, x!, face, way))
  }
  skin(h: SolidHandle, faces: number[]): Made {
    return this.#made('Taking faces failed', [h], (oc, s, [x]) => skin(oc, s, x!, faces))
  }
  moved(h: SolidHandle, motion: Motion): Made {
    return this.#made('Moving failed', [h], (oc, s, [x]) => moved(oc, s, x!, motion))
  }
  together(shapes: SolidHandle[]): Made {
    return this.#made('Keeping bodies together failed', shapes, (oc, s, given) =>
      together(oc, s, given),
    )
  }
  sewnCopies(h: SolidHandle, faces: number[], motions: Motion[]): Made {
    return this.#made('Sewing failed', [], (oc, s) =>
      sewnCopies(oc, s, this.#shape(h), faces, motions),
    )
  }
  fillet(h: SolidHandle, work: EdgeWork[]): Made {
    return this.#made('Rounding failed', [h], (oc, s, [x]) => fillet(oc, s, x!, work))
  }
  chamfer(h: SolidHandle, work: EdgeWork[]): Made {
    return this.#made('Bevelling failed', [h], (oc, s, [x]) => chamfer(oc, s, x!, work))
  }
  thick(
    h: SolidHandle,
    open: number[],
    offset: number,
    join: 'arc' | 'intersection',
    mend = false,
  ): Made {
    return this.#made('The wall failed', [h], (oc, s, [x]) => {
      const made = thick(oc, s, x!, open, offset, join)
      return mend ? repaired(oc, s, made) : made
    })
  }
  draft(h: SolidHandle, faces: number[], plane: Frame, angle: number): Made {
    return this.#made('Tilting failed', [h], (oc, s, [x]) => draft(oc, s, x!, faces, plane, angle))
  }

  solidsOf(h: SolidHandle): SolidHandle[] {
    return this.solidFaces(h).map((x) => x.solid)
  }
  solidFaces(h: SolidHandle) {
    return this.#run('Taking a shape apart failed', (oc, s) => {
      const all = new Numbered(oc, partsOf(oc, s, this.#shape(h), 'FACE'))
      return new Numbered(oc, partsOf(oc, s, this.#shape(h), 'SOLID')).all.map((p) => {
        const own = new Numbered(oc, partsOf(oc, s, p, 'FACE'))
        const origins = own.all.map((f): Origin[] => [
          { from: 'face', shape: 0, face: all.of(f), made: false, same: standing(all, f) },
        ])
        const solid = this.#add(s.release(p))
        inherit(this.#sumsOf(solid), origins, [this.#sums.get(h.id)])
        return { solid, faces: own.all.map((f) => all.of(f)) }
      })
    })
  }
  measure(h: SolidHandle): SolidMeasure {
    const known = this.#measures.get(h.id)
    if (known) return known
    const made = this.#run('Measuring failed', (oc, s) =>
      measure(oc, s, this.#shape(h), this.#sumsOf(h), () =>
        this.shown(h, SHOWN.chord, SHOWN.angle),
      ),
    )
    this.#measures.set(h.id, made)
    return made
  }
  volumeByTriangles(h: SolidHandle, chord: number, angle: number): number {
    return this.#run('Measuring failed', (oc, s) =>
      volumeByTriangles(oc, s, this.#shape(h), chord, angle),
    )
  }
  distances(h: SolidHandle, faces: number[], other: SolidHandle, on: number[], per: number) {
    return this.#run('Measuring failed', (oc, s) =>
      distances(oc, s, this.#shape(h), faces, this.#shape(other), on, per),
    )
  }
  anatomy(h: SolidHandle, chord: number, angle: number) {
    return this.#run('Making triangles failed', (oc, s) =>
      anatomy(
        oc,
        s,
        this.#shape(h),
        this.#skinOf(h, chord, angle),
        areasOf(oc, s, this.#shape(h), this.#sumsOf(h)),
        chord,
        angle,
      ),
    )
  }
  seams(h: SolidHandle) {
    return this.#run('Reading the seams failed', (oc, s) => seamsOf(oc, s, this.#shape(h)))
  }
  ribbons(h: SolidHandle, edges: number[]) {
    return this.#run('Reading the edges failed', (oc, s) => ribbonsOf(oc, s, this.#shape(h), edges))
  }
  surfaces(h: SolidHandle) {
    return this.#run('Reading the surfaces failed', (oc, s) => surfacesOf(oc, s, this.#shape(h)))
  }
  feet(h: SolidHandle, faces: number[], from: P3[], along?: P3, out?: boolean) {
    return this.#run('Pulling onto faces failed', (oc, s) =>
      feetOf(oc, s, this.#shape(h), faces, from, along, out),
    )
  }
  bent(h: SolidHandle) {
    return this.#run('Reading how it bends failed', (oc, s) => bentSkin(oc, s, this.#shape(h)))
  }
  balls(h: SolidHandle, spots: BallSpot[]) {
    return this.#run('Reading the wall failed', (oc, s) => ballsOf(oc, s, this.#shape(h), spots))
  }
  lines(h: SolidHandle, count: number, steps: number) {
    return this.#run('Reading lines of the surfaces failed', (oc, s) =>
      linesOf(oc, s, this.#shape(h), count, steps),
    )
  }
  grid(h: SolidHandle, face: number, count: number) {
    return this.#run('Reading a surface failed', (oc, s) =>
      gridOf(oc, s, this.#shape(h), face, count),
    )
  }
  meets(h: SolidHandle, faces: number[], other: SolidHandle, otherFaces: number[]) {
    return this.#run('Finding where faces meet failed', (oc, s) =>
      meetsOf(
        oc,
        s,
        { shape: this.#shape(h), faces },
        { shape: this.#shape(other), faces: otherFaces },
      ),
    )
  }
  same(h: SolidHandle): SolidHandle {
    return this.#run('Keeping a body failed', (_, s) => {
      const shape = this.#shape(h)
      const again = this.#add(s.release(s.keep(shape.Oriented(shape.Orientation()))))
      // What was measured on it holds for it.
      for (const known of [this.#measures, this.#sums] as Map<number, unknown>[]) {
        const value = known.get(h.id)
        if (value) known.set(again.id, value)
      }
      return again
    })
  }
  shown(h: SolidHandle, chord: number, angle: number) {
    const made = this.#skinOf(h, chord, angle)
    this.#skin = { id: h.id, chord, angle, made }
    return made
  }
  tessellate(h: SolidHandle, chord: number, angle: number) {
    return this.#run('Making triangles failed', (oc, s) =>
      tessellate(oc, s, this.#shape(h), chord, angle),
    )
  }
  toStep(solids: { solid: SolidHandle; name: string; color?: string }[]): Uint8Array {
    const given = solids.map(({ solid, ...rest }) => ({ shape: this.#shape(solid), ...rest }))
    return this.#run('Writing STEP failed', (oc, s) => toStep(oc, s, given))
  }
  fromStep(bytes: Uint8Array): SolidHandle {
    return this.#run('The STEP file cannot be read', (oc, s) =>
      this.#add(s.release(fromStep(oc, s, bytes))),
    )
  }
  toBytes(h: SolidHandle): Uint8Array {
    return this.#run('Keeping a shape failed', (oc, s) => toBytes(oc, s, this.#shape(h)))
  }
  fromBytes(bytes: Uint8Array): SolidHandle {
    return this.#run('Reading a kept shape failed', (oc, s) =>
      this.#add(s.release(fromBytes(oc, s, bytes))),
    )
  }
  free(h: SolidHandle): void {
    this.#shapes.get(h.id)?.delete()
    this.#shapes.delete(h.id)
    this.#measures.delete(h.id)
    this.#sums.delete(h.id)
    if (this.#skin?.id === h.id) this.#skin = null
  }

  #sumsOf(h: SolidHandle): FaceSums {
    const known = this.#sums.get(h.id)
    if (known) return known
    const made = this.#run('Measuring failed', (oc, s) => noSums(oc, s, this.#shape(h)))
    this.#sums.set(h.id, made)
    return made
  }
  /** The triangles that show a shape, those made last where they are it; they are given away. */
  #skinOf(h: SolidHandle, chord: number, angle: number): ShownSkin {
    const last = this.#skin
    if (last && last.id === h.id && last.chord === chord && last.angle === angle) {
      this.#skin = null
      return last.made
    }
    return this.#run('Making triangles failed', (oc, s) =>
      shownSkin(oc, s, this.#shape(h), chord, angle),
    )
  }
  #shape(h: SolidHandle): TopoDS_Shape {
    const shape = this.#shapes.get(h.id)
    if (!shape) throw new Error(`kernel: solid ${h.id} was freed`)
    return shape
  }
  #run<T>(what: string, work: (oc: Oc, s: KernelScope) => T): T {
    return guarded(what, () => scoped((s) => work(this.#oc, s)))
  }
  /** Makes a shape of some that are kept; faces that stay as they were keep what is known of them. */
  #made(
    what: string,
    given: SolidHandle[],
    work: (
      oc: Oc,
      s: KernelScope,
      given: TopoDS_Shape[],
    ) => { shape: TopoDS_Shape; origins: Origin[][] },
  ): Made {
    const shapes = given.map((h) => this.#shape(h))
    return this.#run(what, (oc, s) => {
      const { shape, origins } = work(oc, s, shapes)
      const made = this.#add(s.release(shape))
      const known = given.map((h) => this.#sums.get(h.id))
      if (known.some((k) => k)) inherit(this.#sumsOf(made), origins, known)
      return { shape: made, origins }
    })
  }
  #add(shape: TopoDS_Shape): SolidHandle {
    const id = this.#next++
    this.#shapes.set(id, shape)
    return { id }
  }
}
