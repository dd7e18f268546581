import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { KernelError } from '../types'

export interface StepBody {
  shape: TopoDS_Shape
  /** In ASCII. */
  name: string
  /** "#rrggbb" */
  color?: string | undefined
}

/** Shapes with their names and colours, in the order given. */
export function toStep(oc: Oc, s: KernelScope, bodies: readonly StepBody[]): Uint8Array {
  oc.Interface_Static.SetCVal('write.step.unit', 'MM')
  const text = (t: string) => s.keep(new oc.TCollection_ExtendedString(t, true))
  const doc = s.keep(new oc.TDocStd_Document(text('XmlOcaf')))
  const main = s.keep(doc.Main())
  const shapes = s.keep(oc.XCAFDoc_DocumentTool.ShapeTool(main))
  const colors = s.keep(oc.XCAFDoc_DocumentTool.ColorTool(main))
  for (const { shape, name, color } of bodies) {
    const label = s.keep(shapes.AddShape(shape, false, false))
    s.keep(oc.TDataStd_Name.Set(label, text(name)))
    if (!color) continue
    const ink = s.keep(new oc.Quantity_Color())
    if (oc.Quantity_Color.ColorFromHex(color, ink))
      colors.SetColor(label, ink, oc.XCAFDoc_ColorType.XCAFDoc_ColorSurf)
  }
  const writer = s.keep(new oc.STEPCAFControl_Writer())
  if (!writer.Perform(doc, 'out.step', s.keep(new oc.Message_ProgressRange())))
    throw new KernelError('The bodies could not be written as STEP.')
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
