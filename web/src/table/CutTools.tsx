import type { Workpiece } from '@ivory/core/workpiece'
import { toast } from 'sonner'
import { opName } from '../bench/names'
import { EngineError, lathe } from '../engine'
import { cutPlane } from '../session/cut'
import { useSession } from '../session/session'
import { Button, Choice, CommitInput } from '../ui/controls'
import { downloadFile } from '../ui/download'
import { typedNumber } from '../ui/number'

const FIRST = [
  { value: '', label: 'front' },
  { value: 'front', label: 'front, off by' },
  { value: 'side', label: 'side' },
  { value: 'top', label: 'top' },
]

/** Where bodies are cut: the plane, how far off it and turned by how much; the cut as a file. */
export function CutTools() {
  const cut = useSession((s) => s.cut)
  const walls = useSession((s) => s.cutWalls)
  const doc = useSession((s) => s.doc)
  const datums = useSession((s) => s.view?.datums)
  const planes = (datums ?? []).filter((d) => d.kind === 'plane')
  const options = [...FIRST, ...planes.map((d) => ({ value: d.id, label: opName(doc, d.id) }))]
  const set = (part: Partial<NonNullable<typeof cut>>) =>
    cut && useSession.setState({ cut: { ...cut, ...part } })
  const number = (label: string, value: number, unit: string, put: (x: number) => void) => (
    <CommitInput
      aria-label={label}
      className="figures w-18"
      value={`${value} ${unit}`}
      onCommit={(t) => {
        const x = typedNumber(t.replace(/[a-z ]+$/i, ''))
        if (x !== null) put(x)
      }}
    />
  )
  return (
    <div
      className="absolute right-2 bottom-2 flex items-center gap-1 rounded-sm border border-rule bg-sheet/90 p-1 text-sm"
      onPointerDown={(e) => e.stopPropagation()}
    >
      <span className="text-soft">Cut at</span>
      <Choice
        label="Plane of the cut"
        value={cut?.on ?? ''}
        options={options}
        onChange={(on) =>
          useSession.setState({ cut: on ? { on, turn: cut?.turn ?? 0, offset: 0 } : null })
        }
      />
      {cut && number('Distance of the cut', cut.offset, 'mm', (offset) => set({ offset }))}
      {cut && number('Turn of the cut', cut.turn, 'deg', (turn) => set({ turn }))}
      <Button
        className={walls ? 'border-brass! bg-brass-wash! py-0!' : 'py-0!'}
        aria-pressed={walls}
        title="Dimensions across the walls where they are thinnest, and all round"
        // A half-section ends at the axis: walls are read on a cut right across.
        onClick={() =>
          useSession.setState({
            cutWalls: !walls,
            ...(cut ? {} : { cut: { on: 'front', turn: 0, offset: 0 } }),
          })
        }
      >
        Wall sizes
      </Button>
      {(['svg', 'dxf'] as const).map((f) => (
        <Button
          key={f}
          className="py-0!"
          title="The cut of the bodies shown, in real millimetres"
          onClick={() => doc && void save(doc, f)}
        >
          {f.toUpperCase()}
        </Button>
      ))}
    </div>
  )
}

async function save(doc: Workpiece, format: 'svg' | 'dxf') {
  try {
    const plane = cutPlane(useSession.getState())
    const made = await lathe.call('sectionOut', { doc, plane, format })
    if (typeof made === 'string') toast.error(made)
    else {
      const mime = format === 'svg' ? 'image/svg+xml' : 'application/dxf'
      downloadFile(`${doc.name} cut.${format}`, mime, made.text)
      toast(made.note)
    }
  } catch (e) {
    if (!(e instanceof EngineError)) throw e
    toast.error(e.message)
  }
}
