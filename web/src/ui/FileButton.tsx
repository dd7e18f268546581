import { type ReactNode, useRef } from 'react'
import { Button } from './controls'

/** A button that asks for a file; `label` names the hidden picker. One file can be chosen twice in a row. */
export function FileButton({
  label,
  accept,
  className,
  onFile,
  children,
}: {
  label: string
  accept: string
  className?: string
  onFile(file: File): void
  children: ReactNode
}) {
  const picker = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button className={className} onClick={() => picker.current?.click()}>
        {children}
      </Button>
      <input
        ref={picker}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) onFile(file)
        }}
      />
    </>
  )
}
