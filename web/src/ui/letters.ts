import { useLayoutEffect, useRef, useState } from 'react'

/** Whether somebody is typing into what has the focus; a tick takes no text. */
const typing = ({ target }: KeyboardEvent): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  !(target instanceof HTMLInputElement && /^(checkbox|radio)$/.test(target.type))

/** Whose letters are open: while they are, nobody else listens. */
let opened: object | null = null

/**
 * Two strokes: `key` opens the letters, the next one acts. Tells whether they are open. While they are, no key means anything else;
 * `act` is undefined where there are none.
 */
export function useLetters(key: string, act: ((letter: string) => void) | undefined): boolean {
  const [open, setOpen] = useState(false)
  const now = useRef(act)
  now.current = act
  const there = act !== undefined
  useLayoutEffect(() => {
    // Beside what is shown: the letter may come before the next picture.
    const own = {}
    const letters = (on: boolean) => {
      opened = on ? own : null
      setOpen(on)
    }
    const listen = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e)) return
      if (opened && opened !== own) return
      const pressed = e.key.toLowerCase()
      if (!opened) {
        if (pressed !== key || !there) return
        letters(true)
      } else {
        letters(false)
        now.current?.(pressed)
      }
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', listen, { capture: true })
    return () => {
      window.removeEventListener('keydown', listen, { capture: true })
      if (opened === own) letters(false)
    }
  }, [key, there])
  return open
}
