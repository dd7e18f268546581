import { fixed } from '@ivory/core/math'
import {
  emptyWorkpiece,
  packFile,
  readWorkpiece,
  type Workpiece,
  writeWorkpiece,
} from '@ivory/core/workpiece'
import { demoSet, startingPieces } from '@ivory/demo'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ChevronDown, Copy, Download, Import, Plus, Trash2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useEffect, useRef } from 'react'
import { Link, useNavigate } from 'react-router'
import { toast } from 'sonner'
import { lathe } from '../engine'
import {
  type Card,
  getSetting,
  listCards,
  load,
  putBack,
  remove,
  save,
  setSetting,
} from '../storage/db'
import { newWorkpieceId } from '../storage/ids'
import { dropProofsOf, keepProof } from '../storage/proofs'
import { Button, IconButton } from '../ui/controls'
import { downloadFile } from '../ui/download'
import { FileButton } from '../ui/FileButton'
import { usePictures } from './pictures'

const report = (e: unknown) => toast.error(e instanceof Error ? e.message : String(e))

/** Puts the demo set on the shelf, each piece under an id of its own; returns the ids. */
async function placeDemoSet(): Promise<string[]> {
  const ids: string[] = []
  // The first of the set is placed last, so that it stands first on the shelf.
  for (const w of demoSet().reverse()) {
    const id = newWorkpieceId()
    await save({ ...w, id }, [], 0)
    ids.unshift(id)
  }
  return ids
}

export function ShelfPage() {
  const navigate = useNavigate()
  const queries = useQueryClient()
  const cards = useQuery({ queryKey: ['shelf'], queryFn: listCards })
  usePictures(cards.data)
  const refresh = () => queries.invalidateQueries({ queryKey: ['shelf'] })
  const first = useRef(false)

  useEffect(() => {
    document.title = 'Shelf · Ivory Lathe'
    if (first.current) return
    first.current = true
    void (async () => {
      if (await getSetting('welcomed')) return
      await setSetting('welcomed', true)
      const [cruet] = await placeDemoSet()
      navigate(`/w/${cruet}`)
    })().catch(report)
  }, [navigate])

  const create = useMutation({
    mutationFn: async (w: Workpiece) => {
      await save(w, [], 0)
      return w.id
    },
    onSuccess: (id) => navigate(`/w/${id}/brief`),
    onError: report,
  })
  const demo = useMutation({
    mutationFn: placeDemoSet,
    onSuccess: () => {
      toast.success('The Saltmarsh Counter Set is on the shelf.')
      void refresh()
    },
    onError: report,
  })
  const drop = useMutation({
    mutationFn: async (id: string) => ({ kept: await remove(id), proofs: await dropProofsOf(id) }),
    onSuccess: ({ kept, proofs }) => {
      void refresh()
      if (!kept) return
      toast(`${kept.doc.name} was taken off the shelf.`, {
        action: {
          label: 'Put back',
          onClick: () =>
            void Promise.all([putBack(kept), ...proofs.map(keepProof)])
              .then(refresh)
              .catch(report),
        },
      })
    },
    onError: report,
  })

  /** A new workpiece around the body of a STEP file. */
  const bringIn = (name: string, bytes: Uint8Array) => {
    const packed = packFile(name, bytes)
    if (!packed.ok) {
      toast.error(packed.diagnosis.message)
      return
    }
    const { id, file } = packed.value
    const stem = name.replace(/\.[^.]+$/, '').slice(0, 100)
    create.mutate({
      ...emptyWorkpiece(newWorkpieceId(), stem),
      files: { [id]: file },
      route: [
        {
          id: 'import1',
          number: 10,
          kind: 'import',
          name: `Bring in ${stem}`.slice(0, 80),
          inputs: { file: id },
        },
      ],
    })
  }

  const importFile = async (file: File) => {
    if (/\.(step|stp|stl)$/i.test(file.name)) {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const reply = await lathe.call('measureFile', { name: file.name, bytes })
      if (typeof reply === 'string') toast.error(reply)
      else if (/\.stl$/i.test(file.name))
        toast(`Measured: ${reply.join(' ')}`, { duration: 15_000 })
      else bringIn(file.name, bytes)
      return
    }
    if (!/\.json$/i.test(file.name)) {
      toast.error(
        `${file.name} cannot be opened: only .lathe.json workpieces, STEP files, and STL files to be measured.`,
      )
      return
    }
    const read = readWorkpiece(await file.text())
    if (read.ok) create.mutate({ ...read.value, id: newWorkpieceId() })
    else toast.error(read.diagnosis.message)
  }
  const duplicate = useMutation({
    mutationFn: async (card: Card) => {
      const kept = await load(card.id)
      if (typeof kept === 'string') throw new Error(kept)
      const { doc } = kept
      const name = `${doc.name.slice(0, 110)}, copy`
      await save({ ...doc, id: newWorkpieceId(), name, log: [] }, [], 0)
      return name
    },
    onSuccess: (name) => {
      void refresh()
      toast.success(`${name} is on the shelf.`)
    },
    onError: report,
  })
  const exportCard = async (card: Card) => {
    const kept = await load(card.id)
    if (typeof kept === 'string') toast.error(kept)
    else downloadFile(`${kept.doc.name}.lathe.json`, 'application/json', writeWorkpiece(kept.doc))
  }

  const list = cards.data ?? []
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex items-baseline gap-4 border-rule border-b px-8 py-4">
        <h1 className="whitespace-nowrap font-medium text-2xl">Ivory Lathe</h1>
        <p className="min-w-0 text-soft text-sm">
          a bench for bodies that are turned, drawn out and combined: it measures before it promises
        </p>
        <div className="ml-auto flex shrink-0 gap-2 whitespace-nowrap">
          <Link to="/settings" className="self-center px-2 text-brass hover:underline">
            Settings
          </Link>
          <Button onClick={() => demo.mutate()} disabled={demo.isPending}>
            Add the demo set
          </Button>
          <FileButton
            label="File to import"
            accept=".json,.step,.stp,.stl"
            onFile={(f) => void importFile(f).catch(report)}
          >
            <Import size={16} aria-hidden="true" /> Import a file
          </FileButton>
          <StartFrom onChoose={(w) => create.mutate({ ...w, id: newWorkpieceId() })} />
          <Button
            tone="main"
            onClick={() => create.mutate(emptyWorkpiece(newWorkpieceId(), 'New workpiece'))}
          >
            <Plus size={16} aria-hidden="true" /> New workpiece
          </Button>
        </div>
      </header>
      <main className="flex-1 px-8 py-6">
        <h2 className="mb-4 font-medium text-lg">Shelf</h2>
        {cards.error && (
          <p role="alert" className="mb-4 border-out border-l-4 bg-sheet px-3 py-2 text-out">
            {cards.error.message}
          </p>
        )}
        {cards.data && list.length === 0 && (
          <p className="max-w-prose text-soft">
            The shelf is empty. Start a new workpiece: say in its brief what it must hold, draw half
            its outline beside the axis, and turn it. Or add the demo set and take its pieces apart.
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-5">
          {list.map((c) => (
            <li
              key={c.id}
              className="group relative border border-rule bg-sheet hover:border-brass"
            >
              <Link to={`/w/${c.id}`} className="block">
                <div className="grid aspect-[8/5] place-items-center overflow-hidden border-rule border-b bg-paper">
                  {c.thumbnail ? (
                    <img src={c.thumbnail} alt="" className="size-full object-cover" />
                  ) : (
                    <span className="text-soft text-sm">nothing to see yet</span>
                  )}
                </div>
                <div className="px-3 pt-2 pb-3">
                  <h3 className="truncate pr-22 font-medium">{c.name}</h3>
                  <p className="text-soft text-sm">
                    {c.verdict && (
                      <span
                        className={
                          c.verdict.includes('out')
                            ? 'text-out'
                            : c.verdict.includes('marg')
                              ? 'text-marginal'
                              : 'text-holds'
                        }
                      >
                        {c.verdict}
                        {' · '}
                      </span>
                    )}
                    {fixed(c.bytes / 1024, 1)} kB ·{' '}
                    {new Date(c.changed).toLocaleString([], {
                      dateStyle: 'medium',
                      timeStyle: 'short',
                    })}
                  </p>
                </div>
              </Link>
              <div className="absolute right-2 bottom-8 flex">
                <IconButton label={`Duplicate ${c.name}`} onClick={() => duplicate.mutate(c)}>
                  <Copy size={15} />
                </IconButton>
                <IconButton
                  label={`Export ${c.name}`}
                  onClick={() => void exportCard(c).catch(report)}
                >
                  <Download size={15} />
                </IconButton>
                <IconButton label={`Delete ${c.name}`} onClick={() => drop.mutate(c.id)}>
                  <Trash2 size={15} />
                </IconButton>
              </div>
            </li>
          ))}
        </ul>
      </main>
    </div>
  )
}

/** A workpiece begun from one of a few small ones. */
function StartFrom({ onChoose }: { onChoose(w: Workpiece): void }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>
          Start from <ChevronDown size={14} aria-hidden="true" />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 min-w-44 rounded-sm border border-rule bg-sheet p-1 shadow-md"
        >
          {startingPieces().map((w) => (
            <DropdownMenu.Item
              key={w.id}
              className="cursor-pointer rounded-sm px-2 py-1 outline-none data-[highlighted]:bg-brass-wash"
              onSelect={() => onChoose(w)}
            >
              {w.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
