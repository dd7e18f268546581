import { PAPERS, type Paper, pageOf, printing } from '@ivory/core/release'
import { useState } from 'react'
import { EngineError, lathe } from '../../engine'
import { cutPlane } from '../../session/cut'
import { bodiesOf, listedNow, readingsNow } from '../../session/proofs'
import { tablePlane, useSession } from '../../session/session'
import { VIEWS } from '../../stage/views'
import { Button, Choice, CommitInput } from '../../ui/controls'
import { downloadFile } from '../../ui/download'
import { typedNumber } from '../../ui/number'

const SIZES = {
  '1280 × 800': [1280, 800],
  '1920 × 1200': [1920, 1200],
  '2400 × 2400': [2400, 2400],
}
type Size = keyof typeof SIZES
const NO_GL = 'this browser gives no 3D to draw with'

/** What is made for people, not for machines: the report, a page, pictures, a turn, and prints in real size. */
export function ForPeople() {
  const doc = useSession((s) => s.doc)!
  const waits = useSession((s) => (s.settled?.waits ?? 1) > 0)
  const profiles = useSession((s) => s.view?.profiles) ?? []
  const [busy, setBusy] = useState('')
  const [done, setDone] = useState('')
  const [paper, setPaper] = useState<Paper>('A4')
  const [size, setSize] = useState<Size>('1280 × 800')
  const [view, setView] = useState('corner')
  const [clear, setClear] = useState(false)
  const [what, setWhat] = useState('')
  const [scale, setScale] = useState(1)

  /** The bodies that are shown, whole, as they are pictured. */
  const sitters = async () => {
    const s = useSession.getState()
    const bodies = await bodiesOf(doc, tablePlane(s), cutPlane(s))
    return bodies.flatMap((b) =>
      b.mesh ? [{ mesh: b.mesh, color: doc.bodies[b.id]?.color ?? '#d9d2c0' }] : [],
    )
  }
  const make = async (name: string, mime: string, by: () => Promise<Made>) => {
    setBusy(name)
    setDone('')
    try {
      const made = await by()
      if (typeof made === 'string') setDone(`Not made: ${made}`)
      else {
        downloadFile(`${doc.name}${name}`, mime, made.bytes)
        setDone(
          `${doc.name}${name}: ${Math.round(made.bytes.length / 1024)} kB${made.note ? `, ${made.note}` : ''}.`,
        )
      }
    } catch (e) {
      if (!(e instanceof EngineError)) throw e
      setDone(`Not made: ${e.message}`)
    } finally {
      setBusy('')
    }
  }
  const report = async (): Promise<Made> => {
    const { settled } = useSession.getState()
    if (!settled) return 'nothing is measured yet'
    const { picturePng } = await import('../../stage/pictures/portrait')
    const picture = await picturePng(await sitters(), {
      width: 1000,
      height: 600,
      view: 'corner',
      clear: true,
    })
    const { reportPdf } = await printing()
    const bytes = await reportPdf(
      {
        w: doc,
        gauges: settled.gauges,
        reports: settled.reports,
        bodies: listedNow(settled),
        made: new Date().toLocaleString(),
        ...(picture ? { picture } : {}),
      },
      paper,
    )
    return { bytes }
  }
  const page = async (): Promise<Made> => {
    const { settled } = useSession.getState()
    if (!settled) return 'nothing is measured yet'
    const text = pageOf({
      w: doc,
      bodies: (await sitters()).map(({ mesh, color }) => ({ color, ...mesh })),
      listed: listedNow(settled),
      readings: readingsNow(settled),
      made: new Date().toLocaleString(),
    })
    return {
      bytes: new TextEncoder().encode(text),
      note: 'it opens anywhere and asks nothing of other places',
    }
  }
  const picture = async (): Promise<Made> => {
    const { picturePng } = await import('../../stage/pictures/portrait')
    const [width, height] = SIZES[size] as [number, number]
    const bytes = await picturePng(await sitters(), { width, height, view, clear })
    return bytes ? { bytes } : NO_GL
  }
  const turn = async (): Promise<Made> => {
    const { turnGif } = await import('../../stage/pictures/portrait')
    const bytes = await turnGif(await sitters(), 480, 360)
    return bytes ? { bytes, note: 'one turn' } : NO_GL
  }
  const print = () =>
    lathe.call(
      'printed',
      { doc, what: what ? { op: what } : { plane: cutPlane(useSession.getState()) }, scale, paper },
      { budget: 120_000 },
    )
  const off = busy !== '' || waits
  const row = (
    label: string,
    help: string,
    name: string,
    mime: string,
    by: () => Promise<Made>,
  ) => (
    <li className="flex items-center gap-2">
      <Button className="w-24 shrink-0" disabled={off} onClick={() => void make(name, mime, by)}>
        {busy === name ? 'making…' : label}
      </Button>
      <span className="text-soft text-sm">{help}</span>
    </li>
  )
  const options = (of: readonly string[]) => of.map((value) => ({ value, label: value }))
  return (
    <section aria-label="For people" className="flex flex-col gap-1.5 border-rule border-t pt-2">
      <h3 className="font-medium">For people</h3>
      <ul className="flex flex-col gap-1.5">
        {row(
          'Report',
          'brief, readings, bodies, notes and files that left, as PDF',
          ', report.pdf',
          'application/pdf',
          report,
        )}
        {row(
          'Page',
          'to be sent: the piece turned by hand, and its readings, in one HTML file',
          '.html',
          'text/html',
          page,
        )}
        {row('Turn', 'one turn of it, as an animated GIF', '.gif', 'image/gif', turn)}
        {row('Picture', 'PNG, of this size and view:', '.png', 'image/png', picture)}
      </ul>
      <div className="flex flex-wrap items-center gap-1.5 pl-26 text-sm">
        <Choice
          label="Size of the picture"
          value={size}
          options={options(Object.keys(SIZES))}
          onChange={(v) => setSize(v as Size)}
        />
        <Choice
          label="View of the picture"
          value={view}
          options={options(Object.keys(VIEWS))}
          onChange={setView}
        />
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={clear} onChange={(e) => setClear(e.target.checked)} />
          no ground
        </label>
      </div>
      <ul>
        {row(
          'Print',
          'in real size over sheets, with a bar to check the printer:',
          ', print.pdf',
          'application/pdf',
          print,
        )}
      </ul>
      <div className="flex flex-wrap items-center gap-1.5 pl-26 text-sm">
        <Choice
          label="What is printed"
          className="max-w-40"
          value={what}
          options={[
            { value: '', label: 'the cut of the bodies' },
            ...profiles.map((p) => ({
              value: p.id,
              label: doc.route.find((o) => o.id === p.id)?.name ?? p.id,
            })),
          ]}
          onChange={setWhat}
        />
        <Choice
          label="Paper of the print"
          value={paper}
          options={options(Object.keys(PAPERS))}
          onChange={(v) => setPaper(v as Paper)}
        />
        <label className="flex items-center gap-1">
          times
          <CommitInput
            aria-label="Scale of the print"
            className="figures w-12"
            value={String(scale)}
            onCommit={(t) => {
              const n = typedNumber(t)
              if (n !== null && n > 0) setScale(n)
            }}
          />
        </label>
      </div>
      <p aria-live="polite" className="text-sm" data-testid="for-people">
        {done}
      </p>
    </section>
  )
}

type Made = { bytes: Uint8Array; note?: string } | string
