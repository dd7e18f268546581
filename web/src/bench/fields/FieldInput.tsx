import type { Field } from '@ivory/core/ops'
import type { Op } from '@ivory/core/workpiece'
import { drawingOf, setInputs, useSession } from '../../session/session'
import { Choice, CommitInput } from '../../ui/controls'
import { opName } from '../names'
import { Areas } from './Areas'
import { CageField } from './cage/CageField'
import { FileField } from './FileField'
import { Holds } from './Holds'
import { PlaceInput } from './PlaceInput'
import { Rack } from './Rack'
import { Refs } from './Refs'
import { Several } from './Several'
import { Stations } from './Stations'
import { Stops } from './Stops'

/** Where the things a field chooses from are listed. */
const TABLE = {
  profile: 'profiles',
  path: 'paths',
  plane: 'planes',
  axis: 'axes',
  point: 'points',
  sheet: 'sheets',
} as const

/** The editor of one input. */
export function FieldInput({ op, field }: { op: Op; field: Exclude<Field, { type: 'drawing' }> }) {
  const available = useSession((s) => s.settled?.available[op.id])
  const doc = useSession((s) => s.doc)
  const value = op.inputs[field.name]
  const set = (v: unknown) => setInputs(op.id, { [field.name]: v })
  if (field.type === 'value') {
    const shown =
      value === undefined
        ? ''
        : typeof value === 'number'
          ? `${value}${field.dim === 'angle' ? ' deg' : field.dim === 'length' ? ' mm' : ''}`
          : String(value)
    return (
      <CommitInput
        aria-label={field.label}
        value={shown}
        className="figures w-full"
        placeholder={field.optional ?? ''}
        onCommit={(t) => set(t.trim() === '' && field.optional ? undefined : t.trim())}
      />
    )
  }
  if (field.type === 'choice') {
    return (
      <Choice label={field.label} value={String(value)} options={field.options} onChange={set} />
    )
  }
  if (field.type === 'place') return <PlaceInput op={op} field={field} />
  if (field.type === 'piece') {
    const profile = doc?.route.find((o) => o.id === op.inputs.profile)
    const pieces = drawingOf(profile).entities
    const options = pieces.map((e) => ({ value: e.id, label: e.id }))
    return (
      <Choice label={field.label} value={String(value ?? '')} options={options} onChange={set} />
    )
  }
  if (field.type === 'file')
    return <FileField op={op} name={field.name} accept=".step,.stp,.stl,.3mf,.obj,.ply" />
  if (field.type === 'faces' || field.type === 'edges' || field.type === 'vertices')
    return <Refs op={op} field={field} />
  if (
    field.type === 'bodies' ||
    field.type === 'profiles' ||
    field.type === 'planes' ||
    field.type === 'paths' ||
    field.type === 'ops'
  )
    return <Several op={op} field={field} />
  if (field.type === 'stops') return <Stops op={op} />
  if (field.type === 'holds') return <Holds op={op} />
  if (field.type === 'sections') return <Rack op={op} />
  if (field.type === 'stations') return <Stations op={op} />
  if (field.type === 'cage') return <CageField op={op} />
  if (field.type === 'areas') return <Areas op={op} name={field.name} />
  if (field.type === 'text')
    return (
      <CommitInput
        aria-label={field.label}
        value={String(value ?? '')}
        className="w-full"
        onCommit={(t) => set(t.trim())}
      />
    )
  const options =
    field.type === 'body'
      ? (available?.bodies ?? []).map((b) => ({ value: b.id, label: b.name }))
      : (available?.[TABLE[field.type]] ?? []).map((id) => ({ value: id, label: opName(doc, id) }))
  if ('none' in field && field.none) {
    if (options.length === 0 && !value) return <span className="text-soft">{field.none}</span>
    options.unshift({ value: '', label: field.none })
    return (
      <Choice
        label={field.label}
        value={String(value ?? '')}
        options={options}
        onChange={(v) => set(v || undefined)}
      />
    )
  }
  return <Choice label={field.label} value={String(value ?? '')} options={options} onChange={set} />
}
