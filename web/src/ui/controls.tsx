import clsx from 'clsx'
import { Tooltip } from 'radix-ui'
import {
  type ButtonHTMLAttributes,
  type ComponentProps,
  type InputHTMLAttributes,
  type ReactNode,
  useEffect,
  useRef,
  useState,
} from 'react'

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { tone?: 'plain' | 'main' | 'quiet' }

export function Button({ tone = 'plain', className, ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={clsx(
        'inline-flex items-center justify-center gap-1.5 rounded-sm px-2.5 py-1 disabled:opacity-50',
        tone === 'main' && 'bg-brass text-sheet hover:bg-ink',
        tone === 'plain' && 'border border-rule bg-sheet hover:border-brass',
        tone === 'quiet' && 'text-soft hover:bg-shade hover:text-ink',
        className,
      )}
      {...rest}
    />
  )
}

/** A button that shows an icon; its name and key are told by the tooltip and to screen readers. */
export function IconButton({
  label,
  hint,
  active,
  children,
  className,
  ...rest
}: ComponentProps<'button'> & {
  label: string
  hint?: string
  active?: boolean
  children: ReactNode
}) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>
        <button
          type="button"
          aria-label={label}
          aria-pressed={active}
          className={clsx(
            'grid size-7 shrink-0 place-items-center rounded-sm text-soft hover:bg-shade hover:text-ink disabled:opacity-40',
            active && 'bg-brass-wash text-brass!',
            className,
          )}
          {...rest}
        >
          {children}
        </button>
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={5}
          className="z-50 rounded-sm bg-ink px-2 py-1 text-paper text-sm shadow-md"
        >
          {label}
          {hint && <span className="figures ml-2 text-rule">{hint}</span>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  )
}

/** A text field that tells every change; the page's keys do not hear what is typed in it. */
export function TextInput({
  onText,
  className,
  ...rest
}: Omit<ComponentProps<'input'>, 'onChange'> & { onText(text: string): void }) {
  return (
    <input
      className={clsx('rounded-sm border border-rule bg-sheet px-1.5 py-0.5', className)}
      onChange={(e) => onText(e.target.value)}
      onKeyDown={(e) => e.stopPropagation()}
      {...rest}
    />
  )
}

type CommitInputProps = Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange'> & {
  value: string
  /** Called with the text on Enter or on leaving the field, if it changed. */
  onCommit(text: string): void
  error?: string | undefined
}

/** A text field that takes effect on Enter or on leaving it; Escape brings the old text back and leaves it. */
export function CommitInput({ value, onCommit, error, className, ...rest }: CommitInputProps) {
  const [text, setText] = useState(value)
  useEffect(() => setText(value), [value])
  const escaped = useRef(false)
  const commit = () => {
    if (text !== value && !escaped.current) onCommit(text)
    escaped.current = false
  }
  return (
    <input
      type="text"
      value={text}
      aria-invalid={error ? true : undefined}
      title={error}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') commit()
        if (e.key === 'Escape') {
          escaped.current = true
          setText(value)
          e.currentTarget.blur()
        }
        e.stopPropagation()
      }}
      className={clsx(
        'min-w-0 rounded-sm border bg-sheet px-1.5 py-0.5',
        error ? 'border-out' : 'border-rule',
        className,
      )}
      {...rest}
    />
  )
}

export function Choice({
  label,
  value,
  options,
  onChange,
  className,
}: {
  label: string
  value: string
  options: { value: string; label: string }[]
  onChange(value: string): void
  className?: string
}) {
  const known = options.some((o) => o.value === value)
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      onKeyDown={(e) => e.key === 'Escape' && e.currentTarget.blur()}
      className={clsx('min-w-0 rounded-sm border border-rule bg-sheet px-1 py-0.5', className)}
    >
      {!known && <option value={value}>{value ? `${value} (not there)` : 'choose'}</option>}
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  )
}
