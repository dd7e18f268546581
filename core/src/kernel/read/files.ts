import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { KernelError } from '../types'

export function toStep(
  oc: Oc,
  s: KernelScope,
  solids: { shape: TopoDS_Shape; name: string }[],
): Uint8Array {
  oc.Interface_Static.SetCVal('write.step.unit', 'MM')
  const writer = s.keep(new oc.STEPControl_Writer())
  for (const { shape, name } of solids) {
    oc.Interface_Static.SetCVal('write.step.product.name', name)
    const range = s.keep(new oc.Message_ProgressRange())
    const status = writer.Transfer(
      shape,
      oc.STEPControl_StepModelType.STEPControl_AsIs,
      true,
      range,
    )
    if (status !== oc.IFSelect_ReturnStatus.IFSelect_RetDone) {
      throw new KernelError(`"${name}" could not be written as STEP.`)
    }
  }
  writer.Write('out.step')
  return taken(oc, 'out.step')
}

export function fromStep(oc: Oc, s: KernelScope, bytes: Uint8Array): TopoDS_Shape {
  oc.FS.writeFile('in.step', bytes)
  try {
    const reader = s.keep(new oc.STEPControl_Reader())
    if (reader.ReadFile('in.step') !== oc.IFSelect_ReturnStatus.IFSelect_RetDone) {
      throw new KernelError('The file is not a readable STEP file.')
    }
    reader.TransferRoots(s.keep(new oc.Message_ProgressRange()))
    const shape = s.keep(reader.OneShape())
    if (!shape || shape.IsNull() || partsOf(oc, s, shape, 'SOLID').length === 0) {
      throw new KernelError('The STEP file holds no solid body.')
    }
    return shape
  } finally {
    oc.FS.unlink('in.step')
  }
}

/** The kernel's own bytes of a shape, without its triangles; its faces keep their order. */
export function toBytes(oc: Oc, s: KernelScope, shape: TopoDS_Shape): Uint8Array {
  oc.BRepTools.Clean(shape, true)
  if (!oc.BinTools.Write(shape, 'out.bin', s.keep(new oc.Message_ProgressRange())))
    throw new KernelError('The shape could not be kept as bytes.')
  return taken(oc, 'out.bin')
}

export function fromBytes(oc: Oc, s: KernelScope, bytes: Uint8Array): TopoDS_Shape {
  oc.FS.writeFile('in.bin', bytes)
  try {
    const shape = s.keep(new oc.TopoDS_Shape())
    if (!oc.BinTools.Read(shape, 'in.bin', s.keep(new oc.Message_ProgressRange())))
      throw new KernelError('Kept bytes of a shape cannot be read again.')
    return shape
  } finally {
    oc.FS.unlink('in.bin')
  }
}

function taken(oc: Oc, name: string): Uint8Array {
  const bytes = oc.FS.readFile(name) as Uint8Array
  oc.FS.unlink(name)
  return bytes.slice()
}
