import { Download, FileUp } from 'lucide-react'
import { useEffect } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { type Own, readOwn, setOwn, useOwn } from '../session/own'
import { Button, Choice } from '../ui/controls'
import { downloadFile } from '../ui/download'
import { FileButton } from '../ui/FileButton'
import { Keys } from './Keys'
import { Materials, Printers, Processes } from './OwnTables'

/** What a person sets for themselves: look, numbers, keys, and tables of their own. All of it stays in the browser. */
export function SettingsPage() {
  useEffect(() => {
    document.title = 'Settings · Ivory Lathe'
  }, [])
  const importFile = (f: File) =>
    void f.text().then((text) => {
      const read = readOwn(text)
      if (typeof read === 'string') toast.error(read)
      else {
        setOwn(read)
        toast.success('The settings are as in the file.')
      }
    })
  return (
    <div className="min-h-full">
      <header className="flex items-baseline gap-4 border-rule border-b px-8 py-4">
        <Link to="/" className="text-brass hover:underline">
          Shelf
        </Link>
        <h1 className="font-medium text-2xl">Settings</h1>
        <p className="text-soft">kept in this browser, and in a file where you like</p>
        <div className="ml-auto flex gap-2">
          <FileButton label="Settings to bring in" accept=".json" onFile={importFile}>
            <FileUp size={16} aria-hidden="true" /> Bring in
          </FileButton>
          <Button
            onClick={() =>
              downloadFile(
                'ivory-settings.json',
                'application/json',
                JSON.stringify(useOwn.getState(), null, 2),
              )
            }
          >
            <Download size={16} aria-hidden="true" /> Export
          </Button>
        </div>
      </header>
      <main className="grid gap-8 px-8 py-6 xl:grid-cols-[22rem_1fr]">
        <div className="flex flex-col gap-8">
          <Look />
          <Numbers />
          <Keys />
        </div>
        <div className="flex min-w-0 flex-col gap-8">
          <Materials />
          <Printers />
          <Processes />
        </div>
      </main>
    </div>
  )
}

function Look() {
  const { theme, type, motion } = useOwn()
  return (
    <section aria-label="Look">
      <h2 className="mb-2 font-medium text-lg">Look</h2>
      <div className="grid grid-cols-[8rem_1fr] items-center gap-y-1.5">
        <span>Paper</span>
        <Choice
          label="Paper"
          value={theme}
          options={[
            { value: 'light', label: 'light' },
            { value: 'dark', label: 'dark' },
          ]}
          onChange={(v) => setOwn({ theme: v as Own['theme'] })}
        />
        <span>Type</span>
        <Choice
          label="Type"
          value={type}
          options={[
            { value: 'usual', label: 'as usual' },
            { value: 'larger', label: 'larger' },
          ]}
          onChange={(v) => setOwn({ type: v as Own['type'] })}
        />
        <span>Motion</span>
        <Choice
          label="Motion"
          value={motion}
          options={[
            { value: 'usual', label: 'as usual' },
            { value: 'less', label: 'none' },
          ]}
          onChange={(v) => setOwn({ motion: v as Own['motion'] })}
        />
      </div>
    </section>
  )
}

const DECIMALS = [
  { value: '', label: 'as worked out' },
  ...[0, 1, 2, 3].map((n) => ({ value: String(n), label: `${n} at most` })),
]
const KINDS = [
  ['length', 'Lengths, mm'],
  ['volume', 'Volumes'],
  ['mass', 'Masses'],
  ['angle', 'Angles'],
] as const

function Numbers() {
  const numbers = useOwn((s) => s.numbers)
  const put = (change: Partial<Own['numbers']>) => setOwn({ numbers: { ...numbers, ...change } })
  return (
    <section aria-label="Numbers">
      <h2 className="mb-2 font-medium text-lg">Numbers</h2>
      <div className="grid grid-cols-[8rem_1fr] items-center gap-y-1.5">
        {KINDS.map(([kind, label]) => (
          <div key={kind} className="contents">
            <span>{label}</span>
            <Choice
              label={`Decimals of ${label.toLowerCase()}`}
              value={numbers[kind] === undefined ? '' : String(numbers[kind])}
              options={DECIMALS}
              onChange={(v) => put({ [kind]: v === '' ? undefined : Number(v) })}
            />
          </div>
        ))}
        <span>Beside mm</span>
        <Choice
          label="Beside millimetres"
          value={numbers.beside}
          options={[
            { value: 'none', label: 'nothing' },
            { value: 'inches', label: 'inches' },
            { value: 'fractions', label: 'inches in 64ths' },
          ]}
          onChange={(v) => put({ beside: v as Own['numbers']['beside'] })}
        />
        <span>Decimals after</span>
        <Choice
          label="Decimals after"
          value={numbers.comma ? 'comma' : 'point'}
          options={[
            { value: 'point', label: 'a point' },
            { value: 'comma', label: 'a comma' },
          ]}
          onChange={(v) => put({ comma: v === 'comma' })}
        />
      </div>
      <p className="mt-2 text-soft text-sm">
        Either is understood where you type. Fields and files keep points.
      </p>
    </section>
  )
}
