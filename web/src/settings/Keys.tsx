import { toast } from 'sonner'
import { CAGE_KEY } from '../bench/fields/cage/kinds'
import { documentCommands, keycap, ROW_KEY } from '../session/commands'
import { setOwn, useOwn } from '../session/own'
import { Button, CommitInput } from '../ui/controls'

/** Keys that open letters, find, and fit the Stage. */
const TAKEN = new Set([ROW_KEY, CAGE_KEY, 'z', 'mod+k'])

/** Keys of commands, each to be changed; two commands never share one. */
export function Keys() {
  const keys = useOwn((s) => s.keys)
  const commands = documentCommands().filter((c) => c.key !== '' || keys[c.id])
  const all = new Map<string, string>(commands.map((c) => [keys[c.id] ?? c.key, c.label]))
  return (
    <details>
      <summary className="cursor-pointer font-medium text-lg">Keys</summary>
      <p className="my-1 text-soft text-sm">
        A letter, with shift+ or mod+ (Ctrl) before it where wanted. Empty puts it back.
      </p>
      <ul>
        {commands.map((c) => (
          <li key={c.id} className="flex items-center gap-2 border-rule/60 border-b py-0.5">
            <span className="flex-1">{c.label}</span>
            <kbd className="figures text-soft text-sm">{keycap(keys[c.id] ?? c.key)}</kbd>
            <CommitInput
              aria-label={`Key of ${c.label}`}
              className="figures w-20"
              value={keys[c.id] ?? ''}
              placeholder={c.key}
              onCommit={(t) => {
                const key = t.trim().toLowerCase()
                const { [c.id]: _, ...rest } = keys
                if (key === '') setOwn({ keys: rest })
                else if (!/^((mod|shift)\+){0,2}[a-z]$/.test(key) || TAKEN.has(key))
                  toast.error(`“${key}” cannot be the key of a command.`)
                else if (all.has(key))
                  toast.error(`${keycap(key)} is the key of “${all.get(key)}”.`)
                else setOwn({ keys: { ...rest, [c.id]: key } })
              }}
            />
          </li>
        ))}
      </ul>
      {Object.keys(keys).length > 0 && (
        <Button className="mt-2" onClick={() => setOwn({ keys: {} })}>
          All as they come
        </Button>
      )}
    </details>
  )
}
