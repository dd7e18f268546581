import { type Drawing, pointsOf } from '@ivory/core/profile'
import type { Op } from '@ivory/core/workpiece'
import { useState } from 'react'
import type { ProfileView } from '../../engine'
import { drawingOf, setInputs, useSession } from '../../session/session'
import { copyPieces, pastePieces, reshapeProfile } from '../../table/drawing/reshaping'
import { typedValue } from '../../table/drawing/typed'
import { Button, Choice, TextInput } from '../../ui/controls'
import { typedNumber } from '../../ui/number'
import { opName } from '../names'
import { Lettering } from './Lettering'
import { OutlineFiles } from './OutlineFiles'
import { PatternFields } from './PatternFields'

/** Changes of what is chosen on the table: corners, offset, mirror, copies, moves; and outline files. */
export function ReshapePanel({ op, profile }: { op: Op; profile: ProfileView }) {
  const drawn = useSession((s) => s.drawn)
  const drawing = drawingOf(op)
  const pieces = drawn.entities.filter((e) => drawing.entities.some((x) => x.id === e))
  const [point] = drawn.points.length === 1 ? drawn.points : []
  return (
    <details>
      <summary className="cursor-pointer font-medium">Reshape</summary>
      <div className="mt-1 flex flex-col gap-2 text-sm">
        {point && <Corner op={op.id} point={point} />}
        {pieces.length > 0 && <Offset op={op.id} pieces={pieces} />}
        {pieces.length > 0 && (
          <p className="flex flex-wrap gap-1">
            <Button
              className="py-0!"
              onClick={() => void reshapeProfile(op.id, { do: 'mirror', pieces, line: 'axis' })}
            >
              Mirror in the axis
            </Button>
            {pieces.length > 1 && (
              <Button
                className="py-0!"
                onClick={() =>
                  void reshapeProfile(op.id, {
                    do: 'mirror',
                    pieces: pieces.slice(0, -1),
                    line: pieces[pieces.length - 1]!,
                  })
                }
              >
                Mirror in {pieces[pieces.length - 1]}
              </Button>
            )}
            <Button className="py-0!" onClick={() => void copyPieces(op.id, pieces)}>
              Copy
            </Button>
            <Button className="py-0!" onClick={() => toConstruction(op.id, drawing, pieces)}>
              To construction
            </Button>
          </p>
        )}
        {drawn.points.length + pieces.length > 0 && (
          <Move op={op.id} points={[...new Set([...drawn.points, ...pointsIn(drawing, pieces)])]} />
        )}
        {pieces.length + drawn.points.length === 0 && (
          <p className="text-soft">
            Choose a corner point to round it, or pieces to offset, mirror, repeat, copy or move.
          </p>
        )}
        <PatternFields op={op} drawing={drawing} pieces={pieces} profile={profile} />
        <p className="flex flex-wrap gap-1">
          <Button className="py-0!" onClick={() => pastePieces(op.id)}>
            Put copied pieces here
          </Button>
        </p>
        <Project op={op.id} />
        <Lettering op={op} drawing={drawing} />
        <OutlineFiles op={op} drawing={drawing} />
      </div>
    </details>
  )
}

/** Brings the outline of a body or another profile in as aids that follow it. */
function Project({ op }: { op: string }) {
  const available = useSession((s) => s.settled?.available[op])
  const doc = useSession((s) => s.doc)!
  const sources = [
    ...(available?.bodies ?? []).map((b) => ({ label: b.name, from: { body: b.id } })),
    ...(available?.profiles ?? []).map((id) => ({
      label: opName(doc, id),
      from: { profile: id },
    })),
  ]
  if (sources.length === 0) return null
  const bodies = available?.bodies ?? []
  return (
    <>
      {bodies.length > 0 && (
        <p className="flex flex-wrap items-center gap-1">
          Section of
          {bodies.map((b) => (
            <Button
              key={b.id}
              className="py-0!"
              aria-label={`Section of ${b.name}`}
              title="Where the plane of the drawing cuts the body"
              onClick={() => void reshapeProfile(op, { do: 'section', of: b.id })}
            >
              {b.name}
            </Button>
          ))}
        </p>
      )}
      <p className="flex flex-wrap items-center gap-1">
        Project
        {sources.map((s) => (
          <Button
            key={s.label}
            className="py-0!"
            onClick={() => void reshapeProfile(op, { do: 'project', from: s.from })}
          >
            {s.label}
          </Button>
        ))}
      </p>
    </>
  )
}

const pointsIn = (d: Drawing, pieces: string[]): string[] =>
  d.entities.filter((e) => pieces.includes(e.id)).flatMap(pointsOf)

const toConstruction = (op: string, drawing: Drawing, pieces: string[]) =>
  setInputs(op, {
    drawing: {
      ...drawing,
      entities: drawing.entities.map((e) =>
        pieces.includes(e.id) ? { ...e, construction: true } : e,
      ),
    },
  })

/** A text field for a number or an expression. */
function Entry({
  label,
  text,
  onText,
  className = 'w-20',
}: {
  label: string
  text: string
  onText(t: string): void
  className?: string
}) {
  return (
    <label className="flex items-center gap-1">
      <span>{label}</span>
      <TextInput
        aria-label={label}
        className={`figures ${className}`}
        value={text}
        onText={onText}
      />
    </label>
  )
}
const useUnit = () => useSession((s) => s.doc?.unit ?? 'mm')

function Corner({ op, point }: { op: string; point: string }) {
  const [size, setSize] = useState('3')
  const unit = useUnit()
  const go = (how: 'fillet' | 'chamfer') => {
    const value = typedValue(size, unit)
    if (value !== null) void reshapeProfile(op, { do: how, point, size: value })
  }
  return (
    <p className="flex flex-wrap items-center gap-1">
      <Entry label="Corner size" text={size} onText={setSize} />
      <Button className="py-0!" onClick={() => go('fillet')}>
        Round {point}
      </Button>
      <Button className="py-0!" onClick={() => go('chamfer')}>
        Bevel {point}
      </Button>
    </p>
  )
}

function Offset({ op, pieces }: { op: string; pieces: string[] }) {
  const [by, setBy] = useState('3')
  const [side, setSide] = useState('1')
  const [gap, setGap] = useState('round')
  const unit = useUnit()
  return (
    <p className="flex flex-wrap items-center gap-1">
      <Entry label="Offset by" text={by} onText={setBy} className="w-16" />
      <Choice
        label="Side of the offset"
        value={side}
        options={[
          { value: '1', label: 'left' },
          { value: '-1', label: 'right' },
          { value: '0', label: 'both' },
        ]}
        onChange={setSide}
      />
      <Choice
        label="Outer corners"
        value={gap}
        options={[
          { value: 'round', label: 'rounded' },
          { value: 'sharp', label: 'sharp' },
        ]}
        onChange={setGap}
      />
      <Button
        className="py-0!"
        onClick={() => {
          const value = typedValue(by, unit)
          if (value !== null)
            void reshapeProfile(op, {
              do: 'offset',
              pieces,
              by: value,
              side: Number(side) as -1 | 0 | 1,
              gap: gap as 'round' | 'sharp',
            })
        }}
      >
        Offset
      </Button>
    </p>
  )
}

function Move({ op, points }: { op: string; points: string[] }) {
  const [v, setV] = useState({ dx: '0', dy: '0', turn: '0', scale: '1' })
  const unit = useUnit()
  const num = (t: string) => typedNumber(t) ?? t
  return (
    <p className="flex flex-wrap items-center gap-1">
      <Entry label="Out" text={v.dx} onText={(dx) => setV({ ...v, dx })} className="w-14" />
      <Entry label="up" text={v.dy} onText={(dy) => setV({ ...v, dy })} className="w-14" />
      <Entry
        label="turn °"
        text={v.turn}
        onText={(turn) => setV({ ...v, turn })}
        className="w-12"
      />
      <Entry
        label="scale"
        text={v.scale}
        onText={(scale) => setV({ ...v, scale })}
        className="w-12"
      />
      <Button
        className="py-0!"
        onClick={() =>
          void reshapeProfile(op, {
            do: 'move',
            points,
            step: [typedValue(v.dx, unit) ?? 0, typedValue(v.dy, unit) ?? 0],
            turn: num(v.turn),
            scale: num(v.scale),
            about: [0, 0],
          })
        }
      >
        Move
      </Button>
    </p>
  )
}
