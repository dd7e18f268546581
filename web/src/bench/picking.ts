import type { EdgeRef, FaceRef } from '@ivory/core/turned'
import { useQuery } from '@tanstack/react-query'
import { type BodyView, lathe } from '../engine'
import { opOf, setInputs, useSession } from '../session/session'

/** The body an op works on as it is before the op, while its faces or edges are being picked. */
export function usePickBody(): BodyView | null {
  const picking = useSession((s) => s.picking)
  // Only while picking: what shows the body must not redraw with every step of a drag.
  const doc = useSession((s) => (s.picking ? s.doc : null))
  const op = opOf(doc, picking?.op ?? null)
  const body = op?.inputs.body as string | undefined
  const at = doc?.route.findIndex((o) => o.id === op?.id) ?? -1
  const query = useQuery({
    queryKey: [
      'picks',
      doc?.id,
      op?.id,
      body,
      JSON.stringify([doc?.figures, doc?.route.slice(0, at)]),
    ],
    queryFn: () => lathe.call('picks', { doc: doc!, op: op!.id, body: body! }),
    enabled: Boolean(picking && op && body),
    staleTime: Number.POSITIVE_INFINITY,
  })
  return picking ? (query.data ?? null) : null
}

export const sameEdge = (a: EdgeRef, b: EdgeRef): boolean =>
  [...a.edge].sort().join('|') === [...b.edge].sort().join('|') && (a.index ?? 0) === (b.index ?? 0)
export const sameFace = (a: FaceRef, b: FaceRef): boolean =>
  a.face === b.face && (a.index ?? 0) === (b.index ?? 0)

const picked = (): { op: string; input: string; refs: unknown[] } | null => {
  const { doc, picking } = useSession.getState()
  const op = opOf(doc, picking?.op ?? null)
  if (!picking || !op) return null
  return {
    op: op.id,
    input: picking.input,
    refs: (op.inputs[picking.input] as unknown[] | undefined) ?? [],
  }
}

/** Adds the edge to the op's input, or takes it out again. */
export function toggleEdge(ref: EdgeRef): void {
  const p = picked()
  if (!p) return
  const refs = p.refs as EdgeRef[]
  const rest = refs.filter((r) => !sameEdge(r, ref))
  setInputs(p.op, { [p.input]: rest.length < refs.length ? rest : [...refs, ref] })
}

export function toggleFace(ref: FaceRef): void {
  const p = picked()
  if (!p) return
  const refs = p.refs as FaceRef[]
  const rest = refs.filter((r) => !sameFace(r, ref))
  setInputs(p.op, { [p.input]: rest.length < refs.length ? rest : [...refs, ref] })
}
