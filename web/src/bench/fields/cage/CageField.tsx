import { readObjFaces } from '@ivory/core/mesh'
import type { CageStart } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import { FileUp } from 'lucide-react'
import { toast } from 'sonner'
import { lathe } from '../../../engine'
import { cageEditsOf } from '../../../session/caging'
import { opOf, setInputs, useSession } from '../../../session/session'
import { Button, Choice, CommitInput } from '../../../ui/controls'
import { FileButton } from '../../../ui/FileButton'
import { opName } from '../../names'
import { Creases } from './Creases'
import { EditList } from './EditList'
import { Evenness } from './Evenness'
import { Picks } from './Picks'
import { Trial } from './Trial'

/** All about a cage: what it begins as, its symmetry, what is picked, what can be done with that, and all that was done. */
export function CageField({ op }: { op: Op }) {
  const begun = useSession((s) => cageEditsOf(opOf(s.doc, op.id)).length > 0)
  return (
    <div className="col-span-2 mt-1 flex flex-col gap-2">
      {/* Once something is done to it, what it began as steps back. */}
      <details key={String(begun)} open={!begun}>
        <summary className="cursor-pointer text-soft text-sm">
          Begins as {startWords((op.inputs as unknown as Inputs).start)}
        </summary>
        <div className="mt-1 flex flex-col gap-2">
          <Start op={op} />
          <Symmetry op={op} />
        </div>
      </details>
      <Picks op={op} />
      <Trial op={op} />
      <EditList op={op} />
      <Creases op={op} />
      <Evenness op={op} />
    </div>
  )
}

type Inputs = { start: CageStart; turns?: number; mirrors?: string[] }

const STARTS: Record<Exclude<CageStart['kind'], 'given'>, { label: string; start: CageStart }> = {
  cylinder: {
    label: 'a cylinder',
    start: {
      kind: 'cylinder',
      radius: 40,
      height: 80,
      columns: 8,
      bands: 4,
      floor: 'open',
      lid: 'open',
    },
  },
  box: {
    label: 'a box',
    start: { kind: 'box', sx: 60, sy: 60, sz: 60, across: 2, along: 2, up: 2 },
  },
  ball: {
    label: 'a ball',
    start: { kind: 'ball', sx: 60, sy: 60, sz: 60, across: 2, along: 2, up: 2 },
  },
  plane: {
    label: 'a plane',
    start: { kind: 'plane', sx: 80, sy: 60, across: 4, along: 3 },
  },
  turned: {
    label: 'an outline, turned',
    start: { kind: 'turned', profile: '', columns: 12, bands: 8 },
  },
  carried: {
    label: 'an area, carried up',
    start: {
      kind: 'carried',
      profile: '',
      height: 60,
      columns: 12,
      bands: 4,
      floor: 'shut',
      lid: 'shut',
    },
  },
  region: { label: 'an area, flat', start: { kind: 'region', profile: '', columns: 12 } },
  ring: { label: 'a ring', start: { kind: 'ring', radius: 30, size: 12, columns: 8, around: 4 } },
}
const FIGURES: readonly { name: string; label: string; count?: true }[] = [
  { name: 'radius', label: 'radius' },
  { name: 'size', label: 'section' },
  { name: 'height', label: 'height' },
  { name: 'sx', label: 'size along x' },
  { name: 'sy', label: 'size along y' },
  { name: 'sz', label: 'size along z' },
  { name: 'columns', label: 'columns', count: true },
  { name: 'bands', label: 'bands', count: true },
  { name: 'around', label: 'round its section', count: true },
  { name: 'across', label: 'faces along x', count: true },
  { name: 'along', label: 'faces along y', count: true },
  { name: 'up', label: 'faces along z', count: true },
]
const SHUT = [
  { value: 'open', label: 'open' },
  { value: 'shut', label: 'shut by one face' },
]

function startWords(s: CageStart): string {
  if (s.kind === 'given') return `${s.faces.length} faces from a file`
  const figures = FIGURES.flatMap((f) => {
    const v = (s as unknown as Record<string, string | number>)[f.name]
    return v === undefined ? [] : [String(v)]
  })
  return `${STARTS[s.kind]?.label ?? s.kind}, ${figures.join(' × ')}`
}

const NONE: string[] = []

function Start({ op }: { op: Op }) {
  // As it is kept, also where the op does not take all of it.
  const kept = useSession((s) => opOf(s.doc, op.id)?.inputs.start) as CageStart | undefined
  const fits = (op.inputs as unknown as Inputs).start
  const start = kept?.kind === fits.kind ? kept : fits
  const put = (change: object) => setInputs(op.id, { start: { ...start, ...change } })
  const of = start as unknown as Record<string, string | number>
  const doc = useSession((s) => s.doc)
  const profiles = useSession((s) => s.settled?.available[op.id]?.profiles) ?? NONE
  /** The last drawing before the op; by the route where that has not been worked out yet. */
  const lastDrawn = () => {
    const before = doc?.route.filter((o) => o.kind === 'profile' && o.number < op.number) ?? []
    return profiles.at(-1) ?? before.at(-1)?.id ?? ''
  }
  return (
    <div className="flex flex-col gap-1">
      <div className="grid grid-cols-[6.5rem_1fr] items-baseline gap-x-2">
        <span>Begins as</span>
        <Choice
          label="Begins as"
          value={start.kind}
          options={[
            ...Object.entries(STARTS).map(([value, { label }]) => ({ value, label })),
            ...(start.kind === 'given' ? [{ value: 'given', label: 'faces from a file' }] : []),
          ]}
          onChange={(kind) => {
            const next = STARTS[kind as keyof typeof STARTS]
            if (!next) return
            const drawn = 'profile' in next.start ? { profile: lastDrawn() } : {}
            setInputs(op.id, { start: { ...next.start, ...drawn } })
          }}
        />
      </div>
      <FileButton
        label="Cage to bring in"
        accept=".obj"
        onFile={(f) =>
          void f.text().then((text) => {
            const read = readObjFaces(text)
            if (!read.ok) {
              toast.error(read.diagnosis.message)
              return
            }
            const { positions: p, objects } = read.value
            const points = Array.from({ length: p.length / 3 }, (_, i) => p.slice(3 * i, 3 * i + 3))
            setInputs(op.id, { start: { kind: 'given', points, faces: objects.flat() } })
          })
        }
      >
        <FileUp size={14} aria-hidden="true" /> From a file of faces (OBJ)
      </FileButton>
      <div className="flex flex-wrap gap-x-3 gap-y-1">
        {FIGURES.filter((f) => f.name in of).map((f) => (
          <label key={f.name} className="flex items-baseline gap-1 text-sm">
            <span className="text-soft">{f.label}</span>
            <CommitInput
              aria-label={`Cage ${f.label}`}
              className="figures w-14"
              value={String(of[f.name])}
              onCommit={(t) => {
                const n = Number(t)
                if (f.count) {
                  if (Number.isInteger(n) && n > 0) put({ [f.name]: n })
                } else put({ [f.name]: t.trim() !== '' && Number.isFinite(n) ? n : t.trim() })
              }}
            />
          </label>
        ))}
      </div>
      {'profile' in start && (
        <div className="grid grid-cols-[6.5rem_1fr] items-baseline gap-x-2">
          <span>Profile</span>
          <Choice
            label="Profile"
            value={start.profile}
            options={profiles.map((id) => ({ value: id, label: opName(doc, id) }))}
            onChange={(profile) => put({ profile })}
          />
        </div>
      )}
      {start.kind === 'given' && (
        <label className="flex items-center gap-1 text-sm">
          <input
            type="checkbox"
            checked={start.alike ?? false}
            onChange={(e) => put({ alike: e.target.checked })}
          />
          <span className="text-soft">points moved so that it is alike</span>
        </label>
      )}
      {'floor' in start &&
        (['floor', 'lid'] as const).map((end) => (
          <div key={end} className="grid grid-cols-[6.5rem_1fr] items-baseline gap-x-2">
            <span>{end === 'floor' ? 'Floor' : 'Lid'}</span>
            <Choice
              label={end === 'floor' ? 'Floor' : 'Lid'}
              value={start[end]}
              options={SHUT}
              onChange={(v) => put({ [end]: v })}
            />
          </div>
        ))}
    </div>
  )
}

function Symmetry({ op }: { op: Op }) {
  const { turns = 1, mirrors = [] } = op.inputs as unknown as Inputs
  return (
    <div className="grid grid-cols-[6.5rem_1fr] items-baseline gap-x-2">
      <span title="Every edit acts on all copies.">Symmetry</span>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <label className="flex items-baseline gap-1 text-sm">
          <CommitInput
            aria-label="Turns that map it onto itself"
            className="figures w-10"
            value={String(turns)}
            onCommit={(t) => {
              const n = Number(t)
              if (Number.isInteger(n) && n > 0) setInputs(op.id, { turns: n })
            }}
          />
          <span className="text-soft">alike round z</span>
        </label>
        {(['x', 'y', 'z'] as const).map((m) => (
          <label key={m} className="flex items-baseline gap-1 text-sm">
            <input
              type="checkbox"
              aria-label={`Mirrored along ${m}`}
              checked={mirrors.includes(m)}
              onChange={(e) =>
                setInputs(op.id, {
                  mirrors: e.target.checked ? [...mirrors, m] : mirrors.filter((k) => k !== m),
                })
              }
            />
            <span className="text-soft">{m}</span>
          </label>
        ))}
        <Button
          tone="quiet"
          className="px-1! py-0!"
          title="The most turns and mirrors that what it begins as has."
          onClick={() => {
            const doc = useSession.getState().doc!
            void lathe.call('symmetry', { doc, op: op.id }).then((found) => {
              if (typeof found === 'string') toast.error(found)
              else setInputs(op.id, { ...found })
            })
          }}
        >
          find
        </Button>
      </div>
    </div>
  )
}
