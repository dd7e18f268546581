import type { P2 } from '@ivory/core/math'
import clsx from 'clsx'
import { useState } from 'react'
import { CommitInput } from '../../ui/controls'

/** A dimension's number on the table: click to type another. */
export function Dim({
  label,
  name,
  value,
  at,
  grave = false,
  onCommit,
}: {
  label: string
  name: string
  value: number | string
  at: P2
  grave?: boolean
  onCommit(text: string): void
}) {
  const [open, setOpen] = useState(false)
  const style = { left: at[0], top: at[1], transform: 'translate(-50%, -50%)' }
  if (open) {
    return (
      <span
        className="absolute z-10"
        style={style}
        onPointerDown={(e) => e.stopPropagation()}
        onBlur={() => setOpen(false)}
      >
        <CommitInput
          autoFocus
          aria-label={name}
          value={String(value)}
          className="figures w-32"
          onCommit={(t) => {
            setOpen(false)
            onCommit(t)
          }}
        />
      </span>
    )
  }
  return (
    <button
      type="button"
      aria-label={`${name}: ${label}`}
      title={typeof value === 'string' ? value : undefined}
      className={clsx(
        'figures absolute whitespace-nowrap bg-sheet/85 px-1 hover:text-brass',
        grave ? 'font-bold text-out' : 'text-ink',
      )}
      style={style}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={() => setOpen(true)}
    >
      {label}
      {typeof value === 'string' && <span className="text-brass"> ƒ</span>}
    </button>
  )
}
