import { opSpec } from '@ivory/core/ops'
import { openOp, useSession } from '../../session/session'
import { STATE } from '../route/RoutePanel'

/** Something of the workpiece that can be found: by its name, its kind, and how it stands. */
export interface Thing {
  id: string
  group: 'Ops' | 'Figures' | 'Bodies'
  label: string
  /** Kind and state in words, found by too. */
  words: string
  run(): void
}

/** What there is to be found in the workpiece on the bench. */
export function things(): Thing[] {
  const { doc, settled } = useSession.getState()
  if (!doc) return []
  return [
    ...doc.route.map((op): Thing => {
      const report = settled?.reports.find((r) => r.id === op.id)
      const state = STATE[op.suppressed ? 'skipped' : (report?.status ?? 'skipped')]!.word
      const kind = opSpec(op.kind)?.label ?? op.kind
      return {
        id: `op ${op.id}`,
        group: 'Ops',
        label: `${op.number} ${op.name}`,
        words: `${kind.toLowerCase()}, ${state}${op.note ? `, note: ${op.note}` : ''}`,
        run: () => openOp(op.id),
      }
    }),
    ...doc.figures.map(
      (f): Thing => ({
        id: `figure ${f.name}`,
        group: 'Figures',
        label: f.name,
        words: `figure, ${f.expr}${f.note ? `, ${f.note}` : ''}`,
        // Where figures are not shown, its first user leads to a stage where they are.
        run: () => {
          const field = () =>
            document.querySelector<HTMLInputElement>(`[aria-label="Value of ${f.name}"]`)
          if (!field()) openOp(useSession.getState().selected ?? doc.route[0]?.id ?? '')
          requestAnimationFrame(() => setTimeout(() => field()?.focus(), 50))
        },
      }),
    ),
    ...(settled?.bodies ?? []).map((b): Thing => {
      const out = settled?.gauges.filter((g) => g.body === b.id && g.verdict === 'out') ?? []
      return {
        id: `body ${b.id}`,
        group: 'Bodies',
        label: b.name,
        words: `body${b.hidden ? ', hidden' : ''}${b.away ? ', put away' : ''}${b.content ? ', content' : ''}${out.length > 0 ? ', out' : ''}`,
        run: () => openOp(b.id),
      }
    }),
  ]
}
