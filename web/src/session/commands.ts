import { freshId, rounded } from '@ivory/core/math'
import { OPS, opSpec } from '@ivory/core/ops'
import { insertOp, type Op, taken, type Workpiece } from '@ivory/core/workpiece'
import type { Draft } from 'immer'
import { toast } from 'sonner'
import type { BodyView } from '../engine'
import { lookWith, toggleLines } from './looking'
import { measureBetween } from './measuring'
import { edit, opOf, redo, replaceDoc, select, undo, useSession } from './session'

/** Something a person can do, found in the palette and by its key. */
export interface Command {
  id: string
  label: string
  group: string
  /** As react-hotkeys-hook reads it; empty for none. */
  key: string
  /** A key that something else listens for, shown beside the command. */
  shown?: string
  run(): void
}

/** Stem of the ids of new ops of a kind. */
const STEM: Record<string, string> = {
  revolve: 'turn',
  shell: 'hollow',
  cavity: 'room',
  fillet: 'round',
  chamfer: 'bevel',
  extrude: 'block',
  combine: 'unite',
}

/** Adds an op of the kind after the selected one and selects it. */
export function addOp(kind: string): void {
  const spec = opSpec(kind)
  const { doc, selected, view } = useSession.getState()
  if (!spec || !doc) return
  const index = selected ? doc.route.findIndex((o) => o.id === selected) : doc.route.length - 1
  const earlier = doc.route.slice(0, index + 1)
  const profile = [...earlier].reverse().find((o) => o.kind === 'profile')?.id
  const path = [...earlier].reverse().find((o) => o.kind === 'path')?.id
  // The newest body there is at this place of the route; before it is rebuilt, the newest an op makes.
  const next = doc.route[index + 1]
  const bodies =
    (next ? view?.available[next.id]?.bodies : view?.bodies) ??
    earlier.filter((o) => o.inputs.mode === 'new')
  const body = bodies[bodies.length - 1]?.id
  const taken = doc.route.map((o) => o.id)
  const id = freshId([...taken, 'front', 'side', 'top'], STEM[kind] ?? kind)
  const inputs = spec.start({
    ...(profile ? { profile } : {}),
    ...(path ? { path } : {}),
    profiles: unused(earlier),
    ...(body ? { body } : {}),
    ...middleOf(view?.bodies.find((b) => b.id === body)),
  }) as Op['inputs']
  const count = doc.route.filter((o) => o.kind === kind).length + 1
  const op = { id, kind, name: `${spec.label} ${count}`, inputs }
  edit((d) => {
    if (kind === 'extrude') forCarryingOut(d, profile)
    d.route = insertOp(d.route, index, op)
    if (d.rolledTo === selected && selected) d.rolledTo = id
    if (inputs.mode === 'new')
      d.bodies[id] = { name: `Body ${bodies.length + 1}`, color: '#d9d2c0' }
  })
  select(id)
  // Datums need not stand on faces; ops that refine a body cannot do without what they act on.
  const wants = spec.fields.find((f) => f.type === 'faces' || f.type === 'edges')
  if (wants && spec.stage === 'refine')
    useSession.setState({
      picking: { op: id, input: wants.name, what: wants.type as 'faces' | 'edges', fresh: true },
    })
}

/** A profile that nothing turns is drawn for what carries it out. */
function forCarryingOut(d: Draft<Workpiece>, profile: string | undefined): void {
  const drawn = d.route.find((o) => o.id === profile)
  const turned = d.route.some((o) => o.kind === 'revolve' && o.inputs.profile === profile)
  if (drawn && !turned) drawn.inputs.use = 'flat'
}

/** Drawings that no op so far makes anything of. */
function unused(route: readonly Op[]): string[] {
  const used = JSON.stringify(route.map((o) => (o.kind === 'profile' ? [] : o.inputs)))
  return route.flatMap((o) => (o.kind === 'profile' && !used.includes(`"${o.id}"`) ? [o.id] : []))
}

/** Height of a body's middle along its axis, to the millimetre. */
function middleOf(b: BodyView | undefined): { middle?: number } {
  const zs = b?.section.flatMap((s) => s.points.map((p) => p[1])) ?? []
  if (zs.length === 0) return {}
  return { middle: rounded((Math.min(...zs) + Math.max(...zs)) / 2, 0) }
}

export function removeOp(id: string): void {
  const { doc } = useSession.getState()
  const at = doc?.route.findIndex((o) => o.id === id) ?? -1
  if (!doc || at < 0) return
  edit((d) => {
    d.route.splice(at, 1)
    if (d.rolledTo === id) delete d.rolledTo
  })
  toast(`${doc.route[at]!.name} was deleted.`, { action: { label: 'Undo', onClick: undo } })
  const next = useSession.getState().doc!.route
  select(next[Math.max(0, at - 1)]?.id ?? null)
}

/** The op once more, after it, on the same body. */
export function duplicateOp(id: string): void {
  const { doc } = useSession.getState()
  const at = doc?.route.findIndex((o) => o.id === id) ?? -1
  if (!doc || at < 0) return
  const made = taken(doc, doc, [id], at)
  replaceDoc(() => made.doc)
  select(made.ids[0] ?? null)
}

export function toggleSuppressed(id: string): void {
  edit((d) => {
    const op = d.route.find((o) => o.id === id)
    if (!op) return
    if (op.suppressed) delete op.suppressed
    else op.suppressed = true
  })
}

/** Shows the route up to this op; the last op (or null) shows all of it. */
export function rollTo(id: string | null): void {
  edit((d) => {
    if (id === null || d.route[d.route.length - 1]?.id === id) delete d.rolledTo
    else d.rolledTo = id
  })
}

const step = (by: 1 | -1) => {
  const { doc, selected } = useSession.getState()
  if (!doc) return
  const i = doc.route.findIndex((o) => o.id === selected)
  const next = doc.route[Math.max(0, Math.min(doc.route.length - 1, i + by))]
  if (next) select(next.id)
}

/** Opens the letters of the stage's ops. */
export const ROW_KEY = 'i'
/** After it, the letter that adds an op; each once in its stage. */
export const OP_LETTERS: Readonly<Record<string, string>> = {
  plane: 'd',
  profile: 'p',
  text: 't',
  path: 'w',
  axis: 'a',
  point: 'o',
  revolve: 'r',
  extrude: 'e',
  sweep: 's',
  loft: 'l',
  cage: 'g',
  cover: 'c',
  thicken: 'k',
  import: 'b',
  combine: 'j',
  fillet: 'f',
  chamfer: 'c',
  shell: 's',
  cavity: 'h',
  split: 'p',
  step: 'n',
  draft: 'd',
  dimples: 'i',
  pattern: 't',
  mirror: 'm',
  move: 'v',
  align: 'l',
  offset: 'o',
}

/** Commands of the Bench that need nothing of the page around them. */
export const documentCommands = (): Command[] => [
  { id: 'undo', label: 'Undo', group: 'Edit', key: 'mod+z', run: undo },
  { id: 'redo', label: 'Redo', group: 'Edit', key: 'mod+shift+z', run: redo },
  ...Object.values(OPS).map((spec) => ({
    id: `add-${spec.kind}`,
    label: `Add ${spec.label.toLowerCase()}`,
    group: 'Route',
    key: '',
    shown: `${ROW_KEY}+${OP_LETTERS[spec.kind]}`,
    run: () => addOp(spec.kind),
  })),
  { id: 'next-op', label: 'Next op', group: 'Route', key: 'j', run: () => step(1) },
  { id: 'previous-op', label: 'Previous op', group: 'Route', key: 'k', run: () => step(-1) },
  {
    id: 'suppress',
    label: 'Leave the op out, or put it back',
    group: 'Route',
    key: 'x',
    run: () => onSelected(toggleSuppressed),
  },
  {
    id: 'roll-here',
    label: 'Show the route up to this op',
    group: 'Route',
    key: 'b',
    run: () => onSelected(rollTo),
  },
  {
    id: 'roll-end',
    label: 'Show the whole route',
    group: 'Route',
    key: 'shift+b',
    run: () => rollTo(null),
  },
  {
    id: 'duplicate-op',
    label: 'Duplicate the op',
    group: 'Route',
    key: 'shift+d',
    run: () => onSelected(duplicateOp),
  },
  {
    id: 'delete-op',
    label: 'Delete the op',
    group: 'Route',
    key: 'shift+delete',
    run: () => onSelected(removeOp),
  },
  {
    id: 'cutaway',
    label: 'Cut away half, or show it whole',
    group: 'Stage',
    key: 'h',
    run: () => useSession.setState((s) => ({ cutaway: !s.cutaway })),
  },
  {
    id: 'measure',
    label: 'Measure between two places',
    group: 'Stage',
    key: 'shift+m',
    run: measureBetween,
  },
  {
    id: 'walls',
    label: 'Wall all over, or plain',
    group: 'Stage',
    key: 'w',
    run: () => useSession.setState((s) => ({ wallMap: !s.wallMap })),
  },
  {
    id: 'stripes',
    label: 'Mirrored stripes, or plain',
    group: 'Stage',
    key: 'e',
    run: () => lookWith('stripes'),
  },
  {
    id: 'lean',
    label: 'Lean against a pull, or plain',
    group: 'Stage',
    key: 'shift+e',
    run: () => lookWith('lean'),
  },
  {
    id: 'bends',
    label: 'How tightly it bends, or plain',
    group: 'Stage',
    key: 'u',
    run: () => lookWith('bends'),
  },
  {
    id: 'surface-lines',
    label: 'Lines of the surfaces, or none',
    group: 'Stage',
    key: 'shift+l',
    run: toggleLines,
  },
  {
    id: 'path-comb',
    label: 'Curvature comb of the chosen path, or none',
    group: 'Stage',
    key: 'shift+u',
    run: () => useSession.setState((s) => ({ pathComb: !s.pathComb })),
  },
  {
    id: 'parallel',
    label: 'Parallel or perspective',
    group: 'Stage',
    key: 'o',
    run: () => useSession.setState((s) => ({ parallel: !s.parallel })),
  },
  {
    id: 'liquid',
    label: 'Fill with liquid, or empty',
    group: 'Stage',
    key: 'l',
    run: () => useSession.setState((s) => ({ fill: s.fill === null ? 0.9 : null })),
  },
]

function onSelected(f: (id: string) => void): void {
  const { doc, selected } = useSession.getState()
  if (opOf(doc, selected)) f(selected!)
}

/** A key as it is written on a keycap. */
export const keycap = (key: string): string =>
  key
    .replace('mod', 'Ctrl')
    .split('+')
    .filter(Boolean)
    .map((k) => (k.length === 1 ? k.toUpperCase() : k[0]!.toUpperCase() + k.slice(1)))
    .join(' ')
