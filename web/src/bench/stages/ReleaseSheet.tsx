import { fixed } from '@ivory/core/math'
import { digestOf, FINENESS, FORMATS, type Format } from '@ivory/core/release'
import { writeWorkpiece } from '@ivory/core/workpiece'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { EngineError, lathe } from '../../engine'
import { PROOFS } from '../../session/ghost'
import { proofNow } from '../../session/proofs'
import { edit, logged, useSession } from '../../session/session'
import { StorageError } from '../../storage/db'
import { Button } from '../../ui/controls'
import { downloadFile } from '../../ui/download'
import { VerdictMark } from '../../ui/verdict'
import { ForPeople } from './ForPeople'

const WORD: Record<Format, { label: string; help: string }> = {
  step: { label: 'STEP', help: 'exact solids with names and colours, for mould makers' },
  stl: { label: 'STL', help: 'triangles for the printer, binary' },
  zip: { label: 'STL each', help: 'a file a body, all the same way up, zipped' },
  '3mf': { label: '3MF', help: 'triangles with names and colours' },
  obj: { label: 'OBJ', help: 'triangles as text' },
  svg: { label: 'Drawing', help: 'SVG in real mm: half-section, or views where none is turned' },
  pdf: { label: 'Views, PDF', help: 'three views and a section, dimensioned, to scale' },
}

/** Files that leave the shop, each checked before it is handed over. */
export function ReleaseSheet() {
  const doc = useSession((s) => s.doc)!
  const gauges = useSession((s) => s.settled?.gauges) ?? []
  const [fine, setFine] = useState<keyof typeof FINENESS>('normal')
  const queries = useQueryClient()
  const [busy, setBusy] = useState<Format | null>(null)
  const [done, setDone] = useState('')
  const bodies = (useSession((s) => s.settled?.bodies) ?? []).filter((b) => !b.away && !b.content)
  // What is shown leaves, unless somebody chooses otherwise.
  const [chosen, setChosen] = useState<Readonly<Record<string, boolean>>>({})
  const leaves = (id: string) => chosen[id] ?? !doc.bodies[id]?.hidden
  // By what the workpiece says: bodies that are still being made leave too.
  const without = Object.keys({ ...doc.bodies, ...chosen }).filter((id) => !leaves(id))
  const out = gauges.filter((g) => g.verdict === 'out')
  const only = bodies.map((b) => b.id).filter(leaves)
  const waits = useSession((s) => s.settled?.waits ?? 1)
  const { data: overlaps } = useQuery({
    queryKey: ['overlaps', doc.route, doc.figures, only],
    queryFn: () => lathe.call('overlaps', { doc, only }, { budget: 120_000 }),
    enabled: waits === 0 && only.length > 1,
    staleTime: Number.POSITIVE_INFINITY,
  })

  const make = async (format: Format) => {
    setBusy(format)
    setDone('')
    try {
      const reply = await lathe.call('release', {
        doc,
        format,
        ...FINENESS[fine],
        without,
      })
      if (typeof reply === 'string') setDone(`Not made: ${reply}`)
      else {
        downloadFile(reply.name, reply.mime, reply.bytes)
        const said = `${reply.name}: ${fixed(reply.bytes.length / 1024, 0)} kB, ${reply.note}.`
        setDone(said)
        edit((d) => logged(d, `Released ${said} SHA-256 ${digestOf(reply.bytes)}`))
        // The file has left; where no proof can be kept of that, it is said.
        const proof = await proofNow(`Released ${reply.name}`, true).catch((e: unknown) => {
          if (!(e instanceof StorageError)) throw e
          return e.message
        })
        if (typeof proof === 'string') setDone(`${said} No proof was kept: ${proof}`)
        await queries.invalidateQueries({ queryKey: [PROOFS] })
      }
    } catch (e) {
      if (!(e instanceof EngineError)) throw e
      setDone(`Not made: ${e.message}`)
    } finally {
      setBusy(null)
    }
  }
  return (
    <div className="flex flex-col gap-3 p-3">
      <h2 className="font-medium text-lg">Release</h2>
      {(out.length > 0 || (overlaps?.length ?? 0) > 0) && (
        <div className="border-out border-l-4 bg-sheet px-2 py-1 text-sm">
          <p>Before it leaves the shop:</p>
          <ul>
            {out.map((g) => (
              <li key={g.id}>
                {g.label} {g.reading?.text ?? g.why} <VerdictMark verdict="out" />
              </li>
            ))}
            {overlaps?.map((o) => (
              <li key={`${o.a} ${o.b}`}>
                {o.a} and {o.b} overlap by {fixed(o.volume, 0)} mm³
              </li>
            ))}
          </ul>
        </div>
      )}
      {bodies.length > 1 && (
        <fieldset>
          <legend className="mb-1">Bodies that leave</legend>
          {bodies.map((b) => (
            <label key={b.id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={leaves(b.id)}
                onChange={(e) => setChosen({ ...chosen, [b.id]: e.target.checked })}
              />
              {b.name}
            </label>
          ))}
        </fieldset>
      )}
      <fieldset>
        <legend className="mb-1">Triangles</legend>
        <div className="flex flex-wrap gap-x-3">
          {(Object.keys(FINENESS) as (keyof typeof FINENESS)[]).map((f) => (
            <label key={f} className="flex items-center gap-1 whitespace-nowrap">
              <input
                type="radio"
                name="fineness"
                checked={fine === f}
                onChange={() => setFine(f)}
              />
              {f} <span className="figures text-soft">{FINENESS[f].chord} mm</span>
            </label>
          ))}
        </div>
      </fieldset>
      <ul className="flex flex-col gap-1.5">
        {FORMATS.map((f) => (
          <li key={f} className="flex items-center gap-2">
            <Button className="w-24 shrink-0" disabled={busy !== null} onClick={() => void make(f)}>
              {busy === f ? 'making…' : WORD[f].label}
            </Button>
            <span className="text-soft text-sm">{WORD[f].help}</span>
          </li>
        ))}
        <li className="flex items-center gap-2">
          <Button
            className="w-24 shrink-0"
            onClick={() =>
              downloadFile(`${doc.name}.lathe.json`, 'application/json', writeWorkpiece(doc))
            }
          >
            Workpiece
          </Button>
          <span className="text-soft text-sm">.lathe.json, to open again</span>
        </li>
      </ul>
      {busy && <Button onClick={() => void lathe.call('stopKernel', null)}>Stop the kernel</Button>}
      <p aria-live="polite" className="text-sm" data-testid="released">
        {done}
      </p>
      <ForPeople />
      {doc.notes.length > 0 && (
        <section aria-label="Notes">
          <h3 className="font-medium">Notes</h3>
          <ol className="list-decimal pl-5 text-sm">
            {doc.notes.map((n) => (
              <li key={n.id}>{n.text || 'nothing written'}</li>
            ))}
          </ol>
        </section>
      )}
      {doc.log.length > 0 && (
        <details>
          <summary className="cursor-pointer font-medium">Log</summary>
          <ol className="text-sm" aria-label="Log">
            {[...doc.log].reverse().map((l) => (
              <li key={`${l.at}${l.text}`} className="border-rule/60 border-b py-0.5">
                <time className="text-soft">{new Date(l.at).toLocaleString()}</time> {l.text}
              </li>
            ))}
          </ol>
        </details>
      )}
    </div>
  )
}
