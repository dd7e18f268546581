import { opSpec } from '@ivory/core/ops'
import clsx from 'clsx'
import { Redo2, Undo2 } from 'lucide-react'
import { lazy, Suspense, useEffect, useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { Group, Panel, Separator } from 'react-resizable-panels'
import { Link, Navigate, useNavigate, useParams } from 'react-router'
import { lathe } from '../engine'
import { startAutosave } from '../session/autosave'
import { type Command, documentCommands } from '../session/commands'
import { useOwn } from '../session/own'
import { openProofs, useProofs } from '../session/proofs'
import { startRebuilding } from '../session/rebuilding'
import { edit, openSession, opOf, redo, undo, useSession } from '../session/session'
import { pathOnTable } from '../session/tracing'
import { VIEWS } from '../stage/views'
import { load } from '../storage/db'
import { DraftingTable } from '../table/DraftingTable'
import { TOOL_KEYS, TOOL_LABELS, type Tool } from '../table/drawing/useDrawing'
import { PlanElevation } from '../table/layers/PlanElevation'
import { Button, CommitInput, IconButton } from '../ui/controls'
import { Conflict } from './drawing/Conflict'
import { Palette } from './frame/Palette'
import { StageTools } from './frame/StageTools'
import { StatusLine } from './frame/StatusLine'
import { GaugePanel } from './gauges/GaugePanel'
import { GaugeSheet } from './gauges/GaugeSheet'
import { ProofsSheet } from './proofs/ProofsSheet'
import { NotesPanel } from './route/NotesPanel'
import { RoutePanel } from './route/RoutePanel'
import { TakeDialog } from './route/TakeDialog'
import { FiguresPanel } from './sheet/FiguresPanel'
import { OpSheet } from './sheet/OpSheet'
import { BriefSheet } from './stages/BriefSheet'
import { ReleaseSheet } from './stages/ReleaseSheet'
import { BodyTray } from './tray/BodyTray'

// What draws in space loads beside the bench, which can be worked at before it is there.
const Stage = lazy(() => import('../stage/Stage'))
const ChartPanel = lazy(() => import('../charts/ChartPanel'))

const STAGES = ['brief', 'draw', 'form', 'refine', 'gauge', 'release'] as const
type StageName = (typeof STAGES)[number]
/** The stages whose sheet is that of an op. */
const OP_STAGES: readonly StageName[] = ['draw', 'form', 'refine']
const titled = (s: string) => s[0]!.toUpperCase() + s.slice(1)

export default function BenchPage() {
  const { id = '', stage = 'draw' } = useParams()
  const [problem, setProblem] = useState('')
  const ready = useSession((s) => s.doc?.id === id)

  useEffect(() => {
    let off: (() => void)[] = []
    let gone = false
    load(id)
      .then((kept) => {
        if (gone) return
        if (typeof kept === 'string') {
          setProblem(kept)
          return
        }
        openSession(kept.doc, kept.past, kept.revision)
        openProofs(false)
        off = [startRebuilding(), startAutosave()]
      })
      .catch((e: unknown) => setProblem(e instanceof Error ? e.message : String(e)))
    return () => {
      gone = true
      for (const f of off) f()
    }
  }, [id])

  if (!STAGES.includes(stage as StageName)) return <Navigate to={`/w/${id}/draw`} replace />
  if (problem) {
    return (
      <main className="p-10">
        <p role="alert" className="mb-4">
          {problem}
        </p>
        <Link to="/" className="text-brass underline">
          Back to the shelf
        </Link>
      </main>
    )
  }
  if (!ready) return <p className="p-10 text-soft">Fetching the workpiece from the shelf…</p>
  return <Bench id={id} stage={stage as StageName} />
}

function Bench({ id, stage }: { id: string; stage: StageName }) {
  const navigate = useNavigate()
  const name = useSession((s) => s.doc!.name)
  const [palette, setPalette] = useState(false)
  const [taking, setTaking] = useState(false)
  const conflict = useSession((s) => s.save === 'conflict')
  const path = useSession((s) => (stage === 'draw' ? pathOnTable(s) : null))
  const chart = useSession((s) => s.chart !== null && stage === 'gauge')
  const proofs = useProofs((s) => s.open)
  useEffect(() => {
    document.title = `${name} · Ivory Lathe`
  }, [name])

  useEffect(() => {
    const show = (e: Event) => {
      const op = opOf(useSession.getState().doc, (e as CustomEvent<string>).detail)
      const there = op && opSpec(op.kind)?.stage
      if (there && !OP_STAGES.includes(stage)) navigate(`/w/${id}/${there}`)
    }
    window.addEventListener('open-op', show)
    return () => window.removeEventListener('open-op', show)
  }, [id, stage, navigate])

  const commands = useMemo((): Command[] => {
    const go = (s: StageName): Command => ({
      id: `stage-${s}`,
      label: `Go to ${titled(s)}`,
      group: 'Stages',
      key: `${STAGES.indexOf(s) + 1}`,
      run: () => navigate(`/w/${id}/${s}`),
    })
    const look = (v: string): Command => ({
      id: `view-${v}`,
      label: `Look from ${v === 'corner' ? 'the corner' : `the ${v}`}`,
      group: 'Stage',
      key: `shift+${Object.keys(VIEWS).indexOf(v) + 1}`,
      run: () => window.dispatchEvent(new CustomEvent('stage-view', { detail: v })),
    })
    const tool = (t: Tool): Command => ({
      id: `tool-${t}`,
      label: `Draw: ${TOOL_LABELS[t].toLowerCase()}`,
      group: 'Drafting table',
      // The table listens for the key itself; here it is only shown.
      key: '',
      shown: TOOL_KEYS[t],
      run: () => window.dispatchEvent(new CustomEvent('table-tool', { detail: t })),
    })
    return [
      ...STAGES.map(go),
      ...documentCommands(),
      ...Object.keys(VIEWS).map(look),
      {
        id: 'fit-stage',
        label: 'Fit the Stage',
        group: 'Stage',
        key: 'z',
        run: () => window.dispatchEvent(new CustomEvent('stage-view', { detail: 'fit' })),
      },
      ...(Object.keys(TOOL_KEYS) as Tool[]).map(tool),
      {
        id: 'stop',
        label: 'Stop the lathe’s work',
        group: 'Edit',
        key: 'mod+.',
        run: () => lathe.stop('Stopped as asked.'),
      },
      {
        id: 'take-over',
        label: 'Take over ops, of this or another workpiece',
        group: 'Route',
        key: 'shift+i',
        run: () => setTaking(true),
      },
      {
        id: 'proofs',
        label: 'Proofs, or close their drawer',
        group: 'Edit',
        key: '9',
        run: () => openProofs(!useProofs.getState().open),
      },
      {
        id: 'shelf',
        label: 'Back to the shelf',
        group: 'Stages',
        key: '0',
        run: () => navigate('/'),
      },
      {
        id: 'settings',
        label: 'Settings: look, numbers, keys, tables',
        group: 'Stages',
        key: '',
        run: () => navigate('/settings'),
      },
    ]
  }, [id, navigate])
  const own = useOwn((s) => s.keys)
  for (const c of commands) {
    const key = own[c.id] ?? c.key
    // biome-ignore lint/correctness/useHookAtTopLevel: the list of commands is fixed
    useHotkeys(
      key || 'unbound',
      (e) => {
        e.preventDefault()
        c.run()
      },
      { enabled: key !== '' && !palette && !taking },
      [c, key, palette, taking],
    )
  }
  useHotkeys('mod+k', (e) => {
    e.preventDefault()
    setPalette(true)
  })

  return (
    <div className="grid h-full grid-rows-[auto_1fr_auto]">
      <header>
        <TopBar id={id} stage={stage} onPalette={() => setPalette(true)} />
        {conflict ? <Conflict /> : <StageTools stage={stage} title={titled(stage)} />}
      </header>
      <div className="grid min-h-0 grid-cols-[248px_1fr_320px]">
        <aside className="flex min-h-0 flex-col border-rule border-r">
          <div className="min-h-0 flex-1">
            <RoutePanel onTake={() => setTaking(true)} />
          </div>
          <BodyTray />
        </aside>
        <main className="min-h-0 min-w-0">
          <Group orientation="vertical" className="h-full">
            <Panel defaultSize={stage === 'draw' ? '38' : '58'} minSize="15" key={`s${stage}`}>
              <Suspense fallback={<p className="p-3 text-soft">Lighting the Stage…</p>}>
                <Stage />
              </Suspense>
            </Panel>
            <Separator
              className="h-1.5 bg-rule hover:bg-brass"
              aria-label="Resize Stage and table"
            />
            <Panel minSize="15" key={`t${stage}`}>
              {chart ? (
                <Suspense fallback={<p className="p-3 text-soft">Fetching the chart…</p>}>
                  <ChartPanel />
                </Suspense>
              ) : path ? (
                <PlanElevation path={path} />
              ) : (
                <DraftingTable shaping={OP_STAGES.includes(stage)} />
              )}
            </Panel>
          </Group>
        </main>
        <aside className="flex min-h-0 flex-col border-rule border-l" aria-label="Sheet">
          <div
            className="min-h-0 flex-1 overflow-y-auto"
            tabIndex={0}
            role="region"
            aria-label="Sheet of the stage"
          >
            {proofs && <ProofsSheet />}
            {!proofs && stage === 'brief' && <BriefSheet />}
            {!proofs && stage === 'gauge' && <GaugeSheet />}
            {!proofs && stage === 'release' && <ReleaseSheet />}
            {!proofs && OP_STAGES.includes(stage) && (
              <>
                <OpSheet />
                <FiguresPanel />
                <NotesPanel />
              </>
            )}
          </div>
          <div className="flex max-h-[38%] flex-col">
            <GaugePanel />
          </div>
        </aside>
      </div>
      <StatusLine />
      <TakeDialog open={taking} onClose={() => setTaking(false)} />
      <Palette
        open={palette}
        onClose={() => setPalette(false)}
        commands={commands.map((c) => (own[c.id] ? { ...c, key: own[c.id]! } : c))}
      />
    </div>
  )
}

function TopBar({ id, stage, onPalette }: { id: string; stage: StageName; onPalette(): void }) {
  const name = useSession((s) => s.doc!.name)
  const canUndo = useSession((s) => s.past.length > 0)
  const canRedo = useSession((s) => s.future.length > 0)
  const proofs = useProofs((s) => s.open)
  return (
    <div className="flex items-center gap-3 border-rule border-b px-3 py-1">
      <Link to="/" className="text-brass hover:underline">
        Shelf
      </Link>
      <h1 className="contents">
        <CommitInput
          aria-label="Name of the workpiece"
          className="w-56 border-transparent! bg-transparent! font-medium text-lg hover:border-rule!"
          value={name}
          onCommit={(t) =>
            t.trim() &&
            edit((d) => {
              d.name = t.trim().slice(0, 120)
            })
          }
        />
      </h1>
      <nav aria-label="Stages of the job" className="flex items-stretch">
        {STAGES.map((s, i) => (
          <Link
            key={s}
            to={`/w/${id}/${s}`}
            aria-current={s === stage ? 'page' : undefined}
            className={clsx(
              'border-b-2 px-3 py-1',
              s === stage
                ? 'border-brass font-medium'
                : 'border-transparent text-soft hover:text-ink',
            )}
          >
            <span className="figures mr-1 text-soft">{i + 1}</span>
            {titled(s)}
          </Link>
        ))}
      </nav>
      <div className="ml-auto flex items-center gap-1">
        <IconButton label="Undo" hint="Ctrl Z" disabled={!canUndo} onClick={undo}>
          <Undo2 size={16} />
        </IconButton>
        <IconButton label="Redo" hint="Ctrl Shift Z" disabled={!canRedo} onClick={redo}>
          <Redo2 size={16} />
        </IconButton>
        <Button tone="quiet" aria-pressed={proofs} onClick={() => openProofs(!proofs)}>
          Proofs <kbd className="figures">9</kbd>
        </Button>
        <Button tone="quiet" onClick={onPalette}>
          Find a command <kbd className="figures">Ctrl K</kbd>
        </Button>
      </div>
    </div>
  )
}
