import type { ExactFace, ExactPart } from '../../exact'
import type { Body, OpContext, Tool } from '../state'

type With<T extends Tool> = T & { before: Body['shape'] }

/** The op that worked last on a body as it stands: what it was before has no face of it, but of all others. */
export function lastOf(
  body: string,
  part: ExactPart,
  ctx: OpContext,
): { op: string; tool: With<Tool> } | undefined {
  const ops = [...makersOf(part)].flatMap((op) => {
    const tool = ctx.tool(op)
    return tool?.body === body && tool.before ? [{ op, tool: tool as With<Tool> }] : []
  })
  return ops.find(({ op, tool }) => {
    const { before } = tool
    if (before.kind === 'turned') return false
    const makers = makersOf(before)
    const own = new Set(tool.how === 'round' ? tool.edges.map((e) => e.op) : [])
    own.add(op)
    return !makers.has(op) && ops.every((o) => own.has(o.op) || makers.has(o.op))
  })
}

/** The ops that made the faces of a body. */
const makersOf = ({ faces }: { faces: readonly ExactFace[] }): Set<string> =>
  new Set(faces.flatMap((f) => f.names.map((n) => n.split(':')[0]!)))
