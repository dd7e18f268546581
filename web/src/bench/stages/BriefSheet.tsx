import { GAUGES } from '@ivory/core/gauges'
import {
  MATERIALS,
  materialOf,
  PROCESSES,
  type Printer,
  type ProcessLimits,
  TARGETS,
  type Target,
  type Workpiece,
} from '@ivory/core/workpiece'
import type { Draft } from 'immer'
import { useOwn } from '../../session/own'
import { edit, editBody, useSession } from '../../session/session'
import { Choice, CommitInput } from '../../ui/controls'
import { typedNumber } from '../../ui/number'

const WORD: Record<Target, string> = {
  capacity: 'Capacity to the brim',
  wall: 'Wall',
  mass: 'Mass',
  height: 'Height',
  width: 'Width',
  tipping: 'Tipping angle',
  rib: 'Ribs and webs',
  gap: 'Gaps and slots',
}
/** What the piece must do: its targets become the limits of its gauges. */
export function BriefSheet() {
  const doc = useSession((s) => s.doc)!
  const { brief } = doc
  const bodies = useSession((s) => s.settled?.bodies) ?? []
  const tables = useOwn((s) => s.tables)
  const materials = [
    ...MATERIALS,
    ...tables.materials,
    ...doc.materials.filter((m) => !tables.materials.some((t) => t.id === m.id)),
  ]
  const setTarget = (t: Target, side: 'min' | 'max', text: string) =>
    edit((d) => {
      const n = typedNumber(text)
      const next = { ...d.brief.targets[t] }
      if (n === null) delete next[side]
      else next[side] = n
      if (Object.keys(next).length > 0) d.brief.targets[t] = next
      else delete d.brief.targets[t]
      if (t in GAUGES && !d.gauges.some((g) => g.kind === t) && Object.keys(next).length > 0) {
        d.gauges.push({ id: `g_${t}`, kind: t, params: {} })
      }
    })
  return (
    <div className="flex flex-col gap-3 p-3">
      <h2 className="font-medium text-lg">Brief</h2>
      <label className="flex flex-col gap-1">
        What is it for?
        <textarea
          rows={4}
          className="rounded-sm border border-rule bg-sheet px-2 py-1"
          defaultValue={brief.purpose}
          key={`${doc.id}${brief.purpose}`}
          onKeyDown={(e) => e.stopPropagation()}
          onBlur={(e) => {
            const text = e.target.value
            if (text !== brief.purpose)
              edit((d) => {
                d.brief.purpose = text
              })
          }}
        />
      </label>
      <div className="grid grid-cols-[5rem_1fr] items-center gap-x-2 gap-y-1.5">
        <span>Made by</span>
        <Choice
          label="Process"
          value={brief.process ?? ''}
          options={[
            { value: '', label: 'not decided' },
            ...PROCESSES.map((p) => ({ value: p, label: p })),
          ]}
          onChange={(v) =>
            edit((d) => {
              if (v) d.brief.process = v as (typeof PROCESSES)[number]
              else delete d.brief.process
            })
          }
        />
        <span>Typed in</span>
        <Choice
          label="Unit of typed numbers"
          value={doc.unit}
          options={[
            { value: 'mm', label: 'millimetres' },
            { value: 'in', label: 'inches' },
          ]}
          onChange={(v) =>
            edit((d) => {
              d.unit = v as 'mm' | 'in'
            })
          }
        />
        <span>Limits of</span>
        <Choice
          label="Process of your tables"
          value={brief.limits?.id ?? ''}
          options={[
            { value: '', label: 'none' },
            ...withOwn(tables.processes, brief.limits).map((p) => ({ value: p.id, label: p.name })),
          ]}
          onChange={(v) =>
            edit((d) =>
              takeLimits(
                d,
                withOwn(tables.processes, brief.limits).find((p) => p.id === v),
              ),
            )
          }
        />
        <span>Printer</span>
        <Choice
          label="Printer of your tables"
          value={brief.printer?.id ?? ''}
          options={[
            { value: '', label: 'none' },
            ...withOwn(tables.printers, brief.printer).map((p) => ({ value: p.id, label: p.name })),
          ]}
          onChange={(v) =>
            edit((d) =>
              takePrinter(
                d,
                withOwn(tables.printers, brief.printer).find((p) => p.id === v),
              ),
            )
          }
        />
        <span>Printed line</span>
        <CommitInput
          aria-label="Width of one printed line, mm"
          className="figures w-20"
          value={brief.line === undefined ? '' : String(brief.line)}
          placeholder="mm"
          onCommit={(t) => {
            const n = typedNumber(t)
            edit((d) => {
              if (n !== null && n > 0 && n <= 20) d.brief.line = n
              else delete d.brief.line
            })
          }}
        />
        <span>Material</span>
        <Choice
          label="Material"
          value={brief.material ?? ''}
          options={[
            { value: '', label: 'not decided' },
            ...materials.map((m) => ({ value: m.id, label: `${m.name}, ${m.density} g/cm³` })),
          ]}
          onChange={(v) =>
            edit((d) => {
              if (v) takeMaterial(d, v)
              if (v) d.brief.material = v
              else delete d.brief.material
            })
          }
        />
      </div>
      {brief.printer && <OnBed printer={brief.printer} />}
      {brief.material && (
        <p className="text-soft text-sm">
          Density: {materialOf(brief.material, doc.materials)?.source || 'of your own table'}.
        </p>
      )}
      <table className="w-full">
        <caption className="pb-1 text-left font-medium">Targets</caption>
        <thead>
          <tr className="text-left text-soft text-sm">
            <th className="font-normal">measure</th>
            <th className="font-normal">at least</th>
            <th className="font-normal">at most</th>
            <th className="font-normal">
              <span className="sr-only">unit</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {(Object.keys(TARGETS) as Target[]).map((t) => (
            <tr key={t}>
              <th scope="row" className="text-left font-normal">
                {WORD[t]}
              </th>
              {(['min', 'max'] as const).map((side) => (
                <td key={side}>
                  <CommitInput
                    aria-label={`${WORD[t]}, ${side === 'min' ? 'at least' : 'at most'}`}
                    className="figures w-16"
                    value={
                      brief.targets[t]?.[side] === undefined ? '' : String(brief.targets[t]![side])
                    }
                    onCommit={(text) => setTarget(t, side, text)}
                  />
                </td>
              ))}
              <td className="text-soft text-sm">{TARGETS[t]}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {bodies.length > 0 && (
        <section aria-label="Bodies">
          <h3 className="mb-1 font-medium">Bodies</h3>
          {bodies.map((b) => (
            <div key={b.id} className="mb-1 flex items-center gap-2">
              <CommitInput
                aria-label="Name of the body"
                className="min-w-0 flex-1"
                value={b.name}
                onCommit={(t) => editBody(b.id, { name: t.slice(0, 80) })}
              />
              <Choice
                label={`Material of ${b.name}`}
                className="w-24"
                value={doc.bodies[b.id]?.material ?? ''}
                options={[
                  { value: '', label: 'as the brief' },
                  ...materials.map((m) => ({ value: m.id, label: m.name })),
                ]}
                onChange={(v) =>
                  edit((d) => {
                    if (v) takeMaterial(d, v)
                    const { material: _, ...rest } = d.bodies[b.id] ?? {}
                    d.bodies[b.id] = v ? { ...rest, material: v } : rest
                  })
                }
              />
              <input
                type="color"
                aria-label={`Colour of ${b.name}`}
                value={doc.bodies[b.id]?.color ?? '#d9d2c0'}
                onChange={(e) => editBody(b.id, { color: e.target.value })}
              />
            </div>
          ))}
        </section>
      )}
      <p className="border-marginal border-l-4 bg-sheet px-2 py-1 text-sm text-soft">
        Where a piece touches food, gets hot or holds glass edges, check material, glaze and finish
        under the rules of the place where it is used, with people licensed to judge it. The gauges
        here measure shape only.
      </p>
    </div>
  )
}

/** Rows of a table, with the one a workpiece brought along where that is not among them. */
const withOwn = <T extends { id: string }>(rows: readonly T[], own: T | undefined): T[] =>
  own && !rows.some((r) => r.id === own.id) ? [...rows, own] : [...rows]

/** A material of one's own goes with the workpiece, which others can then read. */
function takeMaterial(d: Draft<Workpiece>, id: string): void {
  const row = useOwn.getState().tables.materials.find((m) => m.id === id)
  if (row) d.materials = [...d.materials.filter((m) => m.id !== id), row]
}

/** What a printer does becomes what the print gauges are read against. */
function takePrinter(d: Draft<Workpiece>, printer: Printer | undefined): void {
  if (!printer) {
    delete d.brief.printer
    return
  }
  d.brief.printer = printer
  d.brief.line = printer.line
  d.brief.process = 'printed'
  for (const g of d.gauges) {
    if (g.kind === 'overhang') g.params.asked = printer.angle
    if (g.kind === 'bridge') g.limits = { ...g.limits, max: printer.bridge }
  }
}

/** Limits of a process become targets of the brief, and limits of gauges that have no target. */
function takeLimits(d: Draft<Workpiece>, limits: ProcessLimits | undefined): void {
  if (!limits) {
    delete d.brief.limits
    return
  }
  d.brief.limits = limits
  d.brief.process = limits.process
  const { wallLeast, wallMost, draft, radius } = limits
  if (wallLeast !== undefined || wallMost !== undefined)
    d.brief.targets.wall = {
      ...(wallLeast === undefined ? {} : { min: wallLeast }),
      ...(wallMost === undefined ? {} : { max: wallMost }),
    }
  for (const g of d.gauges) {
    if (g.kind === 'draft' && draft !== undefined) g.limits = { ...g.limits, min: draft }
    if (g.kind === 'bends' && radius !== undefined) g.limits = { ...g.limits, min: radius }
  }
}

/** Whether each body stands on the bed of the printer, as it lies. */
function OnBed({ printer: { bed } }: { printer: Printer }) {
  const bodies = useSession((s) => s.settled?.bodies) ?? []
  const wide = bodies.filter(({ bounds: { min, max }, away, content }) => {
    const size = [0, 1, 2].map((k) => max[k]! - min[k]!).sort((a, b) => a - b)
    const room = [...bed].sort((a, b) => a - b)
    return !away && !content && size.some((s, k) => s > room[k]!)
  })
  return (
    <p className={`text-sm ${wide.length > 0 ? 'text-out' : 'text-soft'}`}>
      Bed {bed.join(' × ')} mm:{' '}
      {wide.length === 0
        ? 'every body goes on it, laid on a side where it must be.'
        : `${wide.map((b) => b.name).join(', ')} ${wide.length === 1 ? 'is' : 'are'} too large, whichever side is down.`}
    </p>
  )
}
