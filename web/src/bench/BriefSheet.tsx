import { GAUGES } from '@ivory/core/gauges'
import { MATERIALS, TARGETS, type Target } from '@ivory/core/workpiece'
import { edit, editBody, useSession } from '../session/session'
import { Choice, CommitInput } from '../ui/controls'
import { typedNumber } from '../ui/number'

const PROCESSES = ['printed', 'moulded', 'cast', 'blown', 'turned', 'thrown'] as const
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
            ...MATERIALS.map((m) => ({ value: m.id, label: `${m.name}, ${m.density} g/cm³` })),
          ]}
          onChange={(v) =>
            edit((d) => {
              if (v) d.brief.material = v
              else delete d.brief.material
            })
          }
        />
      </div>
      {brief.material && (
        <p className="text-soft text-sm">
          Density: {MATERIALS.find((m) => m.id === brief.material)?.source}.
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
                  ...MATERIALS.map((m) => ({ value: m.id, label: m.name })),
                ]}
                onChange={(v) => editBody(b.id, { material: v || undefined })}
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
