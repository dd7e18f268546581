import { spanAt } from '@ivory/core/limits'
import { rounded } from '@ivory/core/math'
import { opSpec } from '@ivory/core/ops'
import type { EdgeRef, FaceRef, VertexRef } from '@ivory/core/refs'
import type { Workpiece } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { type BodyView, lathe } from '../engine'
import { amend, opOf, type Picking, setInputs, tablePlane, useSession } from '../session/session'

/** The body an op works on as it is before the op, while its faces or edges are being picked. */
export function usePickBody(): BodyView | null {
  const picking = useSession((s) => s.picking)
  // Only while picking: what shows the body must not redraw with every step of a drag.
  const doc = useSession((s) => (s.picking ? s.doc : null))
  const op = opOf(doc, picking?.op ?? null)
  const field = pickField(op?.kind, picking?.input)
  const body = picking?.body ?? (op?.inputs[field?.of ?? 'body'] as string | undefined)
  const at = doc?.route.findIndex((o) => o.id === op?.id) ?? -1
  const query = useQuery({
    queryKey: [
      'picks',
      doc?.id,
      op?.id,
      body,
      JSON.stringify([doc?.figures, doc?.route.slice(0, at)]),
    ],
    queryFn: () =>
      lathe.call('picks', {
        doc: doc!,
        op: op!.id,
        body: body!,
        plane: tablePlane(useSession.getState()),
      }),
    enabled: Boolean(picking && op && body),
    staleTime: Number.POSITIVE_INFINITY,
  })
  return picking ? (query.data ?? null) : null
}

/** The field of an op that takes picked faces or edges. */
function pickField(kind: string | undefined, input: string | undefined) {
  const field = kind ? opSpec(kind)?.fields.find((f) => f.name === input) : undefined
  return field?.type === 'faces' || field?.type === 'edges' || field?.type === 'vertices'
    ? field
    : undefined
}

export const sameEdge = (a: EdgeRef, b: EdgeRef): boolean =>
  [...a.edge].sort().join('|') === [...b.edge].sort().join('|') && (a.index ?? 0) === (b.index ?? 0)
export const sameFace = (a: FaceRef, b: FaceRef): boolean =>
  a.face === b.face && (a.index ?? 0) === (b.index ?? 0)

export const sameVertex = (a: VertexRef, b: VertexRef): boolean =>
  a.vertex.join('|') === b.vertex.join('|') && (a.index ?? 0) === (b.index ?? 0)

const picked = (): { op: string; input: string; refs: unknown[]; most: number } | null => {
  const { doc, picking } = useSession.getState()
  const op = opOf(doc, picking?.op ?? null)
  if (!picking || !op) return null
  return {
    op: op.id,
    input: picking.input,
    most: pickField(op.kind, picking.input)?.most ?? Number.POSITIVE_INFINITY,
    refs: (op.inputs[picking.input] as unknown[] | undefined) ?? [],
  }
}

/** Adds a thing to the op's input, or takes it out again. */
function toggle<R>(ref: R, same: (a: R, b: R) => boolean): void {
  const p = picked()
  if (!p) return
  const refs = p.refs as R[]
  const rest = refs.filter((r) => !same(r, ref))
  setInputs(p.op, { [p.input]: rest.length < refs.length ? rest : [...refs, ref].slice(-p.most) })
  void startInside()
}
export const toggleEdge = (ref: EdgeRef): void => toggle(ref, sameEdge)
export const toggleFace = (ref: FaceRef): void => {
  const picking = useSession.getState().picking
  if (picking?.body)
    addPicked(picking.op, picking.input, { ...picking.as, body: picking.body, face: ref })
  else toggle(ref, sameFace)
}
export const toggleVertex = (ref: VertexRef): void => toggle(ref, sameVertex)

/** Adds a face to a list such as the sections of a loft; one is picked at a time. */
function addPicked(op: string, input: string, made: { body: string; face: FaceRef }) {
  const known = (opOf(useSession.getState().doc, op)?.inputs[input] as unknown[] | undefined) ?? []
  setInputs(op, { [input]: [...known, made] })
  useSession.setState({ picking: null })
}

/** What an op's input holds that is picked like this: references to faces, edges or corners. */
export function pickedRefs(doc: Workpiece | null, pick: Picking | null): unknown[] {
  const list = (pick && opOf(doc, pick.op)?.inputs[pick.input]) as unknown[] | undefined
  if (!pick?.body) return list ?? []
  const sections = (list ?? []) as { body?: string; face?: FaceRef }[]
  return sections.flatMap((s) => (s.body === pick.body && s.face ? [s.face] : []))
}

/**
 * Brings the ranged value of a new op into what holds for what has been picked, once: as it is where it
 * holds, else to half of the largest that does.
 */
async function startInside(): Promise<void> {
  const { doc, picking } = useSession.getState()
  const op = opOf(doc, picking?.op ?? null)
  const field = op && opSpec(op.kind)?.fields.find((f) => f.type === 'value' && f.ranged)
  const value = field && op.inputs[field.name]
  if (!doc || !picking?.fresh || typeof value !== 'number') return
  const range = await lathe.call('range', { doc, op: op!.id, input: field!.name })
  const now = opOf(useSession.getState().doc, op!.id)
  const span = range?.spans[0]
  // What was picked since has asked anew.
  if (!span || spanAt(range, value) || now?.inputs !== op!.inputs) return
  // Part of adding the op: undone with what was picked.
  setInputs(op!.id, { [field!.name]: rounded(span.to / 2, span.to < 1 ? 3 : 1) }, amend)
}
