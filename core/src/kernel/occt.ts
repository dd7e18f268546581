import init, { type OpenCascadeInstance, type TopoDS_Shape } from 'replicad-opencascadejs'
import type { P3 } from '../math'
import { type KernelScope, scoped } from './scope'
import {
  type Kernel,
  KernelError,
  type KernelMesh,
  type PlanarFace,
  type SolidHandle,
  type SolidMeasure,
  type WireCurve,
} from './types'

type Oc = OpenCascadeInstance

/** Loads the kernel. In a browser `wasmUrl` says where its WebAssembly file is served. */
export async function loadKernel(wasmUrl?: string): Promise<Kernel> {
  const quiet = { print: () => undefined, printErr: () => undefined }
  const oc = await init(wasmUrl ? { ...quiet, locateFile: () => wasmUrl } : quiet)
  return new OcctKernel(oc)
}

class OcctKernel implements Kernel {
  readonly #oc: Oc
  readonly #shapes = new Map<number, TopoDS_Shape>()
  #next = 1

  constructor(oc: Oc) {
    this.#oc = oc
  }

  get live(): number {
    return this.#shapes.size
  }

  revolve(faces: PlanarFace[], origin: P3, axis: P3, angle: number): SolidHandle {
    const oc = this.#oc
    return this.#keep('The turn failed', (s) => {
      const ax = s.keep(
        new oc.gp_Ax1(s.keep(new oc.gp_Pnt(...origin)), s.keep(new oc.gp_Dir(...axis))),
      )
      const parts = faces.map((f) => {
        const face = planarFace(oc, s, f)
        const whole = angle >= 2 * Math.PI - 1e-9
        const maker = s.keep(
          whole
            ? new oc.BRepPrimAPI_MakeRevol(face, ax)
            : new oc.BRepPrimAPI_MakeRevol(face, ax, angle),
        )
        return s.keep(maker.Shape())
      })
      if (parts.length === 1) return s.release(parts[0]!)
      const compound = new oc.TopoDS_Compound()
      const builder = s.keep(new oc.TopoDS_Builder())
      builder.MakeCompound(compound)
      for (const p of parts) builder.Add(compound, p)
      return compound
    })
  }

  fuse(a: SolidHandle, b: SolidHandle): SolidHandle {
    const oc = this.#oc
    return this.#keep('Joining failed', (s) => {
      const range = s.keep(new oc.Message_ProgressRange())
      const maker = s.keep(new oc.BRepAlgoAPI_Fuse(this.#shape(a), this.#shape(b), range))
      return maker.Shape()
    })
  }

  measure(handle: SolidHandle): SolidMeasure {
    const oc = this.#oc
    const shape = this.#shape(handle)
    return guarded('Measuring failed', () =>
      scoped((s) => {
        const vol = s.keep(new oc.GProp_GProps())
        oc.BRepGProp.VolumeProperties(shape, vol, 1e-9, false, false)
        const surf = s.keep(new oc.GProp_GProps())
        oc.BRepGProp.SurfaceProperties(shape, surf, 1e-9, false)
        const c = s.keep(vol.CentreOfMass())
        const box = s.keep(new oc.Bnd_Box())
        oc.BRepBndLib.AddOptimal(shape, box, false, false)
        const check = s.keep(new oc.BRepCheck_Analyzer(shape, true, false, false))
        return {
          volume: vol.Mass(),
          area: surf.Mass(),
          centroid: [c.X(), c.Y(), c.Z()] as P3,
          bounds: {
            min: [box.GetXMin(), box.GetYMin(), box.GetZMin()] as P3,
            max: [box.GetXMax(), box.GetYMax(), box.GetZMax()] as P3,
          },
          closed: this.#shellsClosed(s, shape),
          valid: check.IsValid(),
          solids: this.#parts(s, shape, 'TopAbs_SOLID').length,
        }
      }),
    )
  }

  tessellate(handle: SolidHandle, chord: number, angle: number): KernelMesh {
    const oc = this.#oc
    const shape = this.#shape(handle)
    return guarded('Making triangles failed', () =>
      scoped((s) => {
        s.keep(new oc.BRepMesh_IncrementalMesh(shape, chord, false, angle, false))
        const positions: number[] = []
        const triangles: number[] = []
        for (const f of this.#parts(s, shape, 'TopAbs_FACE')) {
          const face = s.keep(oc.TopoDS.Face(f))
          const at = s.keep(new oc.TopLoc_Location())
          const mesh = oc.BRep_Tool.Triangulation(face, at, 0)
          if (!mesh) continue
          s.keep(mesh)
          const move = s.keep(at.Transformation())
          const base = positions.length / 3
          for (let i = 1; i <= mesh.NbNodes(); i++) {
            const raw = s.keep(mesh.Node(i))
            const p = s.keep(raw.Transformed(move))
            positions.push(p.X(), p.Y(), p.Z())
          }
          const reversed = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED
          for (let i = 1; i <= mesh.NbTriangles(); i++) {
            const t = s.keep(mesh.Triangle(i))
            const [a, b, c] = [t.Value(1), t.Value(2), t.Value(3)].map((n) => base + n - 1)
            if (reversed) triangles.push(a!, c!, b!)
            else triangles.push(a!, b!, c!)
          }
        }
        return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
      }),
    )
  }

  toStep(solids: { solid: SolidHandle; name: string }[]): Uint8Array {
    const oc = this.#oc
    return guarded('Writing STEP failed', () =>
      scoped((s) => {
        oc.Interface_Static.SetCVal('write.step.unit', 'MM')
        const writer = s.keep(new oc.STEPControl_Writer())
        for (const { solid, name } of solids) {
          oc.Interface_Static.SetCVal('write.step.product.name', name)
          const range = s.keep(new oc.Message_ProgressRange())
          const status = writer.Transfer(
            this.#shape(solid),
            oc.STEPControl_StepModelType.STEPControl_AsIs,
            true,
            range,
          )
          if (status !== oc.IFSelect_ReturnStatus.IFSelect_RetDone) {
            throw new KernelError(`"${name}" could not be written as STEP.`)
          }
        }
        writer.Write('out.step')
        const bytes = oc.FS.readFile('out.step') as Uint8Array
        oc.FS.unlink('out.step')
        return bytes.slice()
      }),
    )
  }

  fromStep(bytes: Uint8Array): SolidHandle {
    const oc = this.#oc
    return this.#keep('The STEP file cannot be read', (s) => {
      oc.FS.writeFile('in.step', bytes)
      try {
        const reader = s.keep(new oc.STEPControl_Reader())
        if (reader.ReadFile('in.step') !== oc.IFSelect_ReturnStatus.IFSelect_RetDone) {
          throw new KernelError('The file is not a readable STEP file.')
        }
        const range = s.keep(new oc.Message_ProgressRange())
        reader.TransferRoots(range)
        const shape = reader.OneShape()
        if (!shape || shape.IsNull() || this.#parts(s, shape, 'TopAbs_SOLID').length === 0) {
          throw new KernelError('The STEP file holds no solid body.')
        }
        return shape
      } finally {
        oc.FS.unlink('in.step')
      }
    })
  }

  free(handle: SolidHandle): void {
    this.#shapes.get(handle.id)?.delete()
    this.#shapes.delete(handle.id)
  }

  #shape(h: SolidHandle): TopoDS_Shape {
    const shape = this.#shapes.get(h.id)
    if (!shape) throw new Error(`kernel: solid ${h.id} was freed`)
    return shape
  }

  #keep(what: string, make: (s: KernelScope) => TopoDS_Shape): SolidHandle {
    const shape = guarded(what, () => scoped(make))
    const id = this.#next++
    this.#shapes.set(id, shape)
    return { id }
  }

  #parts(
    s: KernelScope,
    shape: TopoDS_Shape,
    kind: 'TopAbs_SOLID' | 'TopAbs_FACE' | 'TopAbs_SHELL',
  ) {
    const oc = this.#oc
    const e = s.keep(
      new oc.TopExp_Explorer(shape, oc.TopAbs_ShapeEnum[kind], oc.TopAbs_ShapeEnum.TopAbs_SHAPE),
    )
    const out: TopoDS_Shape[] = []
    for (; e.More(); e.Next()) out.push(s.keep(e.Current()))
    return out
  }

  #shellsClosed(s: KernelScope, shape: TopoDS_Shape): boolean {
    const shells = this.#parts(s, shape, 'TopAbs_SHELL')
    return shells.length > 0 && shells.every((x) => this.#oc.BRep_Tool.IsClosed(x))
  }
}

function planarFace(oc: Oc, s: KernelScope, loops: PlanarFace) {
  const wires = loops.map((loop) => {
    const maker = s.keep(new oc.BRepBuilderAPI_MakeWire())
    for (const c of loop) maker.Add(s.keep(edgeOf(oc, s, c)))
    if (!maker.IsDone()) throw new KernelError('The outline does not join up for the kernel.')
    return s.keep(maker.Wire())
  })
  const maker = s.keep(new oc.BRepBuilderAPI_MakeFace(wires[0]!, true))
  for (const hole of wires.slice(1)) maker.Add(hole)
  if (!maker.IsDone()) throw new KernelError('The outline is not flat for the kernel.')
  return s.keep(maker.Face())
}

function edgeOf(oc: Oc, s: KernelScope, c: WireCurve) {
  const pnt = (p: P3) => s.keep(new oc.gp_Pnt(...p))
  if (c.kind === 'line') return s.keep(new oc.BRepBuilderAPI_MakeEdge(pnt(c.a), pnt(c.b))).Edge()
  if (c.kind === 'arc') {
    const made = s.keep(new oc.GC_MakeArcOfCircle(pnt(c.a), pnt(c.mid), pnt(c.b)))
    return s.keep(new oc.BRepBuilderAPI_MakeEdge(s.keep(made.Value()))).Edge()
  }
  const values = [...new Set(c.knots)]
  const poles = s.keep(new oc.NCollection_Array1_gp_Pnt(1, c.poles.length))
  for (const [i, p] of c.poles.entries()) poles.SetValue(i + 1, pnt(p))
  const knots = s.keep(new oc.NCollection_Array1_double(1, values.length))
  const mults = s.keep(new oc.NCollection_Array1_int(1, values.length))
  for (const [i, k] of values.entries()) {
    knots.SetValue(i + 1, k)
    mults.SetValue(i + 1, c.knots.filter((x) => x === k).length)
  }
  const curve = s.keep(new oc.Geom_BSplineCurve(poles, knots, mults, c.degree, false))
  return s.keep(new oc.BRepBuilderAPI_MakeEdge(curve)).Edge()
}

/** The kernel's own exceptions become sentences; ours pass through. */
function guarded<T>(what: string, work: () => T): T {
  try {
    return work()
  } catch (e) {
    if (e instanceof KernelError) throw e
    if (typeof WebAssembly !== 'undefined' && 'Exception' in WebAssembly) {
      const WasmException = (WebAssembly as unknown as { Exception: new () => unknown }).Exception
      if (e instanceof WasmException)
        throw new KernelError(`${what}: the kernel gave up on this shape.`)
    }
    if (e instanceof WebAssembly.RuntimeError) {
      throw new KernelError(`${what}: the kernel stopped unexpectedly.`)
    }
    throw e
  }
}
